import { moveAllowed, moveCost } from './move';
import { bestOf, pathTo, type Layer } from './search';
import { settled, wayOf, type Solution } from './solve';
import type { Way } from './types';

/** One of the best paths to a state: its cost and the path it continues. */
interface Path {
  readonly cost: number;
  readonly state: number;
  readonly before: Path | null;
  /** Which of the paths to the previous state it continues, 0 the best. */
  readonly rank: number;
}

interface Desk {
  readonly found: Path[];
  candidates: Path[] | null;
}

/** Paths looked at when searching for ways that differ; then the search stops with what it has. */
const PATHS = 4000;
/** Longer parts are given in their one best way: beyond this, whole-part alternatives mean nothing to a player. */
export const WAYS_EVENTS = 2000;

/**
 * The k best ways that a player would notice as different: another path of hand positions or
 * other strings. Exact, by recursive enumeration of paths in order of cost (Jimenez and Marzal,
 * "Computing the K shortest paths", 1999), so the first is the optimum and none between is left out.
 */
export function bestWays(given: Solution, k: number): Way[] {
  const solution = settled(given);
  const { layers } = solution;
  const last = layers.at(-1);
  if (!last) return [wayOf(solution, [])];
  if (k <= 1 || layers.length > WAYS_EVENTS) return [wayOf(solution, pathTo(layers))];
  const desks: Map<number, Desk>[] = layers.map(() => new Map());
  const ways: Way[] = [];
  const seen = new Set<string>();
  const heads = [...last.order.subarray(0, last.alive)].map((s) => nth(solution, desks, layers.length - 1, s, 0));
  const open = heads.filter((path): path is Path => path !== null);
  for (let tries = 0; tries < PATHS && open.length > 0 && ways.length < k; tries++) {
    const at = leastIndex(open);
    const path = open[at];
    if (!path) break;
    const next = nth(solution, desks, layers.length - 1, path.state, ranksOf(desks, layers.length - 1, path) + 1);
    if (next) open[at] = next;
    else open.splice(at, 1);
    const states = unrolled(path, layers.length);
    const signature = noticeable(layers, states);
    if (seen.has(signature)) continue;
    seen.add(signature);
    ways.push(wayOf(solution, states));
  }
  return ways;
}

const ranksOf = (desks: Map<number, Desk>[], i: number, path: Path): number =>
  desks[i]?.get(path.state)?.found.indexOf(path) ?? 0;

/** The n-th best path to a state of layer i, computed on demand; null when there are fewer. */
function nth(solution: Solution, desks: Map<number, Desk>[], i: number, state: number, n: number): Path | null {
  const layer = solution.layers[i];
  const shelf = desks[i];
  if (!layer || !shelf) return null;
  let desk = shelf.get(state);
  if (!desk) {
    const origin = layer.from[state] ?? -1;
    const before = i === 0 || origin < 0 ? null : nth(solution, desks, i - 1, origin, 0);
    desk = { found: [{ cost: bestOf(layer, state), state, before, rank: 0 }], candidates: null };
    shelf.set(state, desk);
  }
  while (desk.found.length <= n) {
    if (i === 0) return null;
    desk.candidates ??= firstCandidates(solution, desks, i, state);
    const previous = desk.found.at(-1);
    if (previous?.before) {
      const further = nth(solution, desks, i - 1, previous.before.state, previous.rank + 1);
      if (further) desk.candidates.push(extended(solution, i, further, previous.rank + 1, state));
    }
    const at = leastIndex(desk.candidates);
    const best = desk.candidates[at];
    if (!best) return null;
    desk.candidates.splice(at, 1);
    desk.found.push(best);
  }
  return desk.found[n] ?? null;
}

function firstCandidates(solution: Solution, desks: Map<number, Desk>[], i: number, state: number): Path[] {
  const before = solution.layers[i - 1];
  const layer = solution.layers[i];
  const to = layer?.deck.states[state];
  if (!before || !layer || !to) return [];
  const out: Path[] = [];
  for (const a of before.order) {
    const from = before.deck.states[a];
    if (!from || bestOf(before, a) === Infinity) break;
    if (a === layer.from[state] || !moveAllowed(layer.slice, from, to)) continue;
    const path = nth(solution, desks, i - 1, a, 0);
    if (path) out.push(extended(solution, i, path, 0, state));
  }
  return out;
}

function extended(solution: Solution, i: number, before: Path, rank: number, state: number): Path {
  const layer = solution.layers[i];
  const deck = solution.layers[i - 1]?.deck;
  const step =
    layer && deck
      ? moveCost(solution.neck, layer.frame, deck, before.state, layer.deck, state) + (layer.hold[state] ?? 0)
      : Infinity;
  return { cost: before.cost + step, state, before, rank };
}

function leastIndex(paths: readonly Path[]): number {
  let least = 0;
  for (let i = 1; i < paths.length; i++) if ((paths[i]?.cost ?? Infinity) < (paths[least]?.cost ?? Infinity)) least = i;
  return least;
}

function unrolled(path: Path, length: number): number[] {
  const states = new Array<number>(length).fill(-1);
  let at: Path | null = path;
  for (let i = length - 1; i >= 0 && at; i--, at = at.before) states[i] = at.state;
  return states;
}

/** What a player would notice: the strings used and where the hand is while it stops strings. */
function noticeable(layers: readonly Layer[], states: readonly number[]): string {
  return layers
    .map((layer, i) => {
      const state = layer.deck.states[states[i] ?? -1];
      return state ? `${state.strings.join(',')}${state.free ? '' : `@${state.hand}`}` : '';
    })
    .join(';');
}

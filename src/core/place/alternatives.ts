import { isBound, MOVE_PARTS, moveAllowed, moveParts, travelCost } from './move';
import { explainDifference } from './explain';
import { harmonicsOf, positionsOf } from './positions';
import { bestOf, pathTo, type Layer } from './search';
import { solve, wayOf, type Solution } from './solve';
import type { PlaceOnNeck, Problem, Way } from './types';

/** One place of a note, and what the whole phrase costs when the note lies there. */
export interface Alternative extends PlaceOnNeck {
  /** Cost above the cheapest place of this note; null where no hand can do it in this phrase. */
  readonly extra: number | null;
  /** Fret of the index from the capo, where it can be played. */
  readonly hand: number | null;
  readonly reason: string;
}

/** Least cost of everything after each state, layer by layer, and the next state on that path. */
export interface Ahead {
  readonly cost: Float64Array;
  readonly next: Int32Array;
}

const parts = new Float64Array(MOVE_PARTS);

function backward(solution: Solution): Ahead[] {
  const { layers, neck } = solution;
  const ahead: Ahead[] = new Array<Ahead>(layers.length);
  for (let i = layers.length - 1; i >= 0; i--) {
    const layer = layers[i];
    if (!layer) continue;
    const { states } = layer.deck;
    const cost = new Float64Array(states.length);
    const next = new Int32Array(states.length).fill(-1);
    const after = layers[i + 1];
    const beyond = ahead[i + 1];
    if (after && beyond) {
      const order = [...after.deck.states.keys()].sort((a, b) => entry(after, beyond, a) - entry(after, beyond, b));
      const bound = isBound(after.slice);
      for (let a = 0; a < states.length; a++) {
        let least = Infinity;
        for (const b of order) {
          const rest = entry(after, beyond, b);
          if (rest >= least) break;
          const near = rest + travelCost(after.frame, layer.deck, a, after.deck, b);
          if (near >= least) continue;
          const from = states[a];
          const to = after.deck.states[b];
          if (!from || !to || ((bound || to.free) && !moveAllowed(after.slice, from, to))) continue;
          const total = near + moveParts(neck.costs, after.frame, layer.deck, a, after.deck, b, parts);
          if (total < least) {
            least = total;
            next[a] = b;
          }
        }
        cost[a] = least;
      }
    }
    ahead[i] = { cost, next };
  }
  return ahead;
}

const entry = (layer: Layer, ahead: Ahead, s: number): number => (layer.hold[s] ?? 0) + (ahead.cost[s] ?? Infinity);

/** A solved phrase with the costs ahead of every state: prices many notes of one phrase quickly. */
export interface Priced {
  readonly solution: Solution;
  readonly ahead: readonly Ahead[];
  readonly best: Way;
}

/** Solves a phrase for pricing. */
export function priced(problem: Problem): Priced {
  const solution = solve(problem);
  return { solution, ahead: backward(solution), best: wayOf(solution, pathTo(solution.layers)) };
}

/**
 * Every place of one note on the neck with its price: the cheapest way of playing the whole
 * phrase with the note there, against the cheapest of all, and the reason in words. A lock on
 * the note itself is set aside, so that a decision can be compared with what it forgoes. `known`
 * is the same problem priced before, used where the note is not locked.
 */
export function alternativesFor(problem: Problem, event: number, note: number, known: Priced | null = null): Alternative[] {
  const wanted = problem.events[event]?.notes[note];
  if (!wanted) return [];
  const events = problem.events.map((e, i) => (i === event ? { ...e, notes: e.notes.map((n, j) => (j === note ? { ...n, lock: null } : n)) } : e));
  const { solution, ahead, best: bestWay } = known && !wanted.lock ? known : priced({ ...problem, events });
  const places = wanted.harmonic ? harmonicsOf(problem.setup, wanted.pitch) : positionsOf(problem.setup, wanted.pitch);
  const layer = solution.layers[event];
  const voice = layer?.slice.voices.findIndex((v) => v.heldFrom < 0 && v.over < 0 && v.note === note) ?? -1;
  if (!layer || voice < 0) return places.map((p) => ({ ...p, extra: null, hand: null, reason: 'It can’t be played together with what sounds here.' }));
  const here = ahead[event];
  return places
    .map((place): Alternative => {
      const fret = place.open || wanted.dead ? 0 : place.fretFromNut;
      let least = Infinity;
      let through = -1;
      layer.deck.states.forEach((s, i) => {
        if (s.strings[voice] !== place.string || s.frets[voice] !== fret) return;
        const total = bestOf(layer, i) + (here?.cost[i] ?? Infinity);
        if (total < least) {
          least = total;
          through = i;
        }
      });
      if (through < 0 || least === Infinity) return { ...place, extra: null, hand: null, reason: 'No hand can join it to what sounds before, with or after it.' };
      const way = wayOf(solution, pathThrough(solution, ahead, event, through));
      const hand = way.events[event]?.hand ?? null;
      const extra = Math.max(0, way.cost - bestWay.cost);
      return { ...place, extra: extra < 1e-9 ? 0 : extra, hand, reason: explainDifference(bestWay, way, event) };
    })
    .sort((a, b) => (a.extra ?? Infinity) - (b.extra ?? Infinity));
}

/** The cheapest path through one state. */
export function pathThrough(solution: Solution, ahead: readonly Ahead[], at: number, state: number): number[] {
  const path = pathTo(solution.layers.slice(0, at + 1), state);
  let s = state;
  for (let i = at; i < solution.layers.length - 1; i++) {
    s = ahead[i]?.next[s] ?? -1;
    path.push(s);
  }
  return path;
}

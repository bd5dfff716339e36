import { isBound, moveAllowed, moveCost } from '../cost';
import { makeDesk } from '../search';
import { makeSlices, nothingRelaxed } from '../slices';
import { apart, HOVER, FINGERS_PER_FRET, makeDeck, makeNeck, maximalSpan, type Neck, type State } from '../states';
import type { Slice, Voice } from '../slices';
import { holdCost } from '../cost';
import type { Problem } from '../types';

/**
 * The cheapest cost by trying everything: every string, fret, finger and hand for every voice,
 * kept where the rules allow, and every sequence of them. Shares the cost functions (they are the
 * definition) and nothing of the search or of how states are found. For short phrases only.
 */
export function cheapestByTrying(problem: Problem): number {
  const neck = makeNeck(problem.setup, problem.options);
  const { frames } = makeDesk(neck);
  const slices = makeSlices(problem, nothingRelaxed());
  const decks = slices.map((s) => makeDeck(everyState(neck, s)));
  const visit = (i: number, before: number): number => {
    const slice = slices[i];
    const deck = decks[i];
    if (!slice || !deck) return 0;
    const earlier = decks[i - 1];
    let best = Infinity;
    deck.states.forEach((state, b) => {
      let cost = holdCost(neck, slice, state);
      if (earlier) {
        const from = earlier.states[before];
        if (!from || ((isBound(slice) || state.free) && !moveAllowed(slice, from, state))) return;
        cost += moveCost(neck, frames(slice), earlier, before, deck, b);
      }
      best = Math.min(best, cost + memo(i + 1, b));
    });
    return best;
  };
  const known = new Map<number, number>();
  const memo = (i: number, before: number): number => {
    const key = i * 100_000 + before;
    const seen = known.get(key);
    if (seen !== undefined) return seen;
    const value = visit(i, before);
    known.set(key, value);
    return value;
  };
  return visit(0, -1);
}

/** All combinations of place, finger and hand, sieved by the rules one by one. */
function everyState(neck: Neck, slice: Slice): State[] {
  const out: State[] = [];
  const voices = slice.voices;
  const options = voices.map((v) => v.places.flatMap((p) => (p.open ? [[p.string, 0, 0]] : [1, 2, 3, 4].map((f) => [p.string, p.fretFromNut, f]))) as [number, number, number][]);
  const chosen: [number, number, number][] = [];
  const pick = (v: number): void => {
    if (v === voices.length) {
      for (let hand = neck.base + 1; hand <= neck.last; hand++) if (possible(neck, voices, chosen, hand)) out.push(stateOf(voices, chosen, hand));
      return;
    }
    for (const o of options[v] ?? []) {
      chosen.push(o);
      pick(v + 1);
      chosen.pop();
    }
  };
  pick(0);
  return out;
}

function possible(neck: Neck, voices: readonly Voice[], chosen: readonly [number, number, number][], hand: number): boolean {
  for (const [i, [s, f, g]] of chosen.entries()) {
    const lock = voices[i]?.lock;
    if (lock && (lock.string !== s || lock.fret !== (f === 0 ? 0 : f - (neck.nuts[s] ?? 0)) || (lock.finger !== null && lock.finger !== g))) return false;
    for (const [j, [s2, f2, g2]] of chosen.entries()) {
      if (i >= j) continue;
      if (s === s2) return false;
      if (g === 0 || g2 === 0) continue;
      if (g === g2 && f !== f2) return false;
      if ((g < g2 && f > f2) || (g > g2 && f < f2)) return false;
      if (f === f2 && g !== g2 && s > s2 !== g < g2) return false;
      if (g !== g2 && apart(neck, f, f2) > maximalSpan(neck, g, g2)) return false;
    }
  }
  const stopped = chosen.filter(([, f]) => f > 0);
  for (let g = 1; g <= 4; g++) {
    const lying = stopped.filter((c) => c[2] === g);
    if (lying.length < 2) continue;
    const thick = Math.max(...lying.map((c) => c[0]));
    const thin = Math.min(...lying.map((c) => c[0]));
    if (thick - thin + 1 > (neck.options.profile.barre[g - 1] ?? 1)) return false;
    if (chosen.some(([s, f, h]) => h !== g && s < thick && s > thin && f <= (lying[0]?.[1] ?? 0))) return false;
  }
  for (const [, f] of stopped) if (new Set(stopped.filter((c) => c[1] === f).map((c) => c[2])).size > FINGERS_PER_FRET) return false;
  if (stopped.length === 0) return true;
  const lowest = stopped.reduce((a, b) => (b[2] < a[2] ? b : a));
  if (lowest[2] === 1) return hand === lowest[1];
  if (!(HOVER[lowest[2]] ?? []).includes(lowest[1] - hand)) return false;
  return stopped.every(([, f, g]) => apart(neck, hand, f) <= maximalSpan(neck, 1, g));
}

function stateOf(voices: readonly Voice[], chosen: readonly [number, number, number][], hand: number): State {
  const on = Array.from({ length: 5 }, (_, g) => {
    const lying = chosen.filter((c) => g > 0 && c[2] === g);
    return lying[0] ? { string: Math.max(...lying.map((c) => c[0])), fret: lying[0][1] } : { string: -1, fret: -1 };
  });
  const struck = chosen.filter((_, i) => (voices[i]?.heldFrom ?? -1) < 0).map((c) => c[0]);
  return {
    strings: chosen.map((c) => c[0]), frets: chosen.map((c) => c[1]), fingers: chosen.map((c) => c[2]),
    hand, free: chosen.every((c) => c[1] === 0), on,
    pickLow: Math.max(0, ...struck), pickHigh: Math.min(99, ...struck),
  };
}

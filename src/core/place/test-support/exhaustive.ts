import { holdCost } from '../hold';
import { isBound, moveAllowed, moveCost } from '../move';
import { apart, makeNeck, maximalSpan, type Neck } from '../neck';
import { makeWorkspace } from '../search';
import type { Slice, Voice } from '../slice';
import { makeSlices, nothingRelaxed, offTheNeck } from '../slices';
import { FINGERS_PER_FRET, HOVER, makeDeck, THUMB, THUMB_REACH, type State } from '../states';
import type { Problem } from '../types';

/**
 * The cheapest cost by trying everything: every string, fret, finger and hand for every voice,
 * kept where the rules allow, and every sequence of them. Shares the cost functions (they are the
 * definition) and nothing of the search or of how states are found. For short phrases only.
 */
export function cheapestByTrying(problem: Problem): number {
  const neck = makeNeck(problem.setup, problem.options);
  const { frames } = makeWorkspace(neck);
  if (offTheNeck(problem).blocked.length > 0) return Infinity;
  const slices = makeSlices(problem, nothingRelaxed());
  const shapes = new Map<string, number>();
  const decks = slices.map((slice) =>
    makeDeck(
      everyState(neck, slice),
      shapes,
      slice.voices.some((voice) => voice.heldFrom >= 0),
    ),
  );
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

/** String, fret from the nut, finger. */
type Choice = readonly [number, number, number];

/**
 * All combinations of place, finger and hand, sieved by the rules: each choice by itself, each pair, then all with
 * the hand.
 */
function everyState(neck: Neck, slice: Slice): State[] {
  const out: State[] = [];
  const { voices } = slice;
  const options = voices.map((voice) =>
    voice.places.flatMap((place): Choice[] =>
      place.open
        ? [[place.string, 0, 0]]
        : [1, 2, 3, 4, THUMB].map((f): Choice => [place.string, place.fretFromNut, f]),
    ),
  );
  const chosen: Choice[] = [];
  const pick = (v: number): void => {
    if (v === voices.length) {
      for (let hand = neck.base + 1; hand <= neck.last; hand++)
        if (possible(neck, slice, chosen, hand)) out.push(stateOf(voices, chosen, hand));
      return;
    }
    for (const choice of options[v] ?? []) {
      chosen.push(choice);
      if (
        alone(neck, slice, chosen, v) &&
        chosen.every((_, index) => index === v || together(neck, slice, chosen, index, v))
      )
        pick(v + 1);
      chosen.pop();
    }
  };
  pick(0);
  return out;
}

/** Whether two voices may share a string: a trill's two notes, or fingers kept down silently below what sounds. */
function mayShare(voices: readonly Voice[], chosen: readonly Choice[], i: number, j: number): boolean {
  const [a, b] = [voices[i], voices[j]];
  const fa = chosen[i]?.[1] ?? 0;
  const fb = chosen[j]?.[1] ?? 0;
  if (!a || !b) return false;
  if (a.over === j) return fa - fb === a.above;
  if (b.over === i) return fb - fa === b.above;
  if (a.silent && b.silent) return fa === 0 || fb === 0 || fa !== fb;
  if (a.silent) return fa === 0 || fa < fb;
  return b.silent && (fb === 0 || fb < fa);
}

/** What one choice must keep to by itself. */
function alone(neck: Neck, { voices, bar, wish }: Slice, chosen: readonly Choice[], i: number): boolean {
  const { profile } = neck.options;
  const [s, f, g] = chosen[i] ?? [0, 0, 0];
  const voice = voices[i];
  if (!voice) return false;
  const { lock } = voice;
  if (lock && (lock.string !== s || (lock.finger !== null && f > 0 && lock.finger !== g))) return false;
  if (
    lock &&
    !voice.places.some(
      (place) => place.string === s && place.fret === lock.fret && (place.open ? 0 : place.fretFromNut) === f,
    )
  )
    return false;
  if (voice.bend > 0 && (f === 0 || neck.effort(s, f, voice.bend) === Infinity)) return false;
  if (voice.over >= 0 && chosen[voice.over]?.[0] !== s) return false;
  if (g === 0) return true;
  if (bar) return g === profile.barFinger;
  return g === THUMB
    ? (voice.heldFrom >= 0 ||
        voices.some((one) => one.lock?.finger === THUMB) ||
        (wish?.thumb ? wish.thumb === 'over' : profile.thumb)) &&
        s === neck.thick
    : profile.fingers.some((x) => x === g);
}

/** What two choices must keep to, each against the other. */
function together(neck: Neck, { voices, bar }: Slice, chosen: readonly Choice[], i: number, j: number): boolean {
  const [s, f, g] = chosen[i] ?? [0, 0, 0];
  const [s2, f2, g2] = chosen[j] ?? [0, 0, 0];
  if (s === s2 && !mayShare(voices, chosen, i, j)) return false;
  if (g === 0 || g2 === 0 || bar) return true;
  if (g === g2 && (f !== f2 || g === THUMB)) return false;
  if (g === THUMB || g2 === THUMB) return true;
  if ((g < g2 && f > f2) || (g > g2 && f < f2)) return false;
  if (f === f2 && g !== g2 && s > s2 !== g < g2) return false;
  return g === g2 || apart(neck, f, f2) <= maximalSpan(neck, g, g2);
}

/** What all choices must keep to at once, with the hand at a fret. */
function possible(neck: Neck, slice: Slice, chosen: readonly Choice[], hand: number): boolean {
  const { profile } = neck.options;
  const stopped = chosen.filter(([, f]) => f > 0);
  if (slice.bar) return barLies(slice, chosen, hand);
  for (let g = 1; g <= 4; g++) {
    const lying = stopped.filter((choice) => choice[2] === g);
    if (lying.length < 2) continue;
    const thick = Math.max(...lying.map((choice) => choice[0]));
    const thin = Math.min(...lying.map((choice) => choice[0]));
    if (thick - thin + 1 > (profile.barre[g - 1] ?? 1)) return false;
    if (chosen.some(([s, f, h]) => h !== g && s < thick && s > thin && f <= (lying[0]?.[1] ?? 0))) return false;
  }
  for (const [, f] of stopped)
    if (
      new Set(stopped.filter((choice) => choice[1] === f && choice[2] !== THUMB).map((choice) => choice[2])).size >
      FINGERS_PER_FRET
    )
      return false;
  if (stopped.length === 0) return true;
  if ((neck.pairs[hand] ?? 0) === 1 && stopped.some((choice) => choice[2] === 3)) return false;
  const thumb = stopped.find((choice) => choice[2] === THUMB);
  if (thumb && !THUMB_REACH.includes(thumb[1] - hand)) return false;
  const fingers = stopped.filter((choice) => choice[2] !== THUMB);
  if (fingers.length === 0) return true;
  const lowest = fingers.reduce((a, b) => (b[2] < a[2] ? b : a));
  if (lowest[2] === 1) return hand === lowest[1];
  if (!(HOVER[lowest[2]] ?? []).includes(lowest[1] - hand)) return false;
  return fingers.every(([, f, g]) => apart(neck, hand, f) <= maximalSpan(neck, 1, g));
}

/** One straight bar: one place for all it stops, nothing trilled or bent, no open string under it. */
function barLies({ voices }: Slice, chosen: readonly Choice[], hand: number): boolean {
  const under = chosen
    .map((choice, i) => ({ string: choice[0], fret: choice[1], voice: voices[i] }))
    .filter((place) => place.fret > 0);
  const [first] = under;
  if (!first) return true;
  if (hand !== first.fret) return false;
  if (
    under.some(
      (place) =>
        place.fret !== first.fret ||
        place.voice?.cents !== first.voice?.cents ||
        place.voice?.bend !== 0 ||
        (place.voice?.over ?? -1) >= 0,
    )
  )
    return false;
  return !chosen.some(
    ([s, f]) => f === 0 && under.some((place) => place.string > s) && under.some((place) => place.string < s),
  );
}

function stateOf(voices: readonly Voice[], chosen: readonly Choice[], hand: number): State {
  const on = Array.from({ length: 6 }, (_, g) => {
    const lying = chosen.filter((choice) => g > 0 && choice[2] === g);
    return lying[0]
      ? { string: Math.max(...lying.map((choice) => choice[0])), fret: lying[0][1] }
      : { string: -1, fret: -1 };
  });
  const struck = chosen
    .filter((_, i) => (voices[i]?.heldFrom ?? -1) < 0 && (voices[i]?.over ?? -1) < 0)
    .map((choice) => choice[0]);
  return {
    strings: chosen.map((choice) => choice[0]),
    frets: chosen.map((choice) => choice[1]),
    fingers: chosen.map((choice) => choice[2]),
    hand,
    free: chosen.every((choice) => choice[1] === 0),
    on,
    pickLow: Math.max(0, ...struck),
    pickHigh: Math.min(99, ...struck),
  };
}

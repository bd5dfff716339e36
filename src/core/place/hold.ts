import { apart, comfortableSpan, type Neck } from './neck';
import type { Slice } from './slice';
import { GRIP_MAX, THUMB, type State } from './states';
import type { Term, TermName } from './types';

/** Collects the terms of a cost when reasons are wanted; absent in the solver's inner loop. */
export type Sink = Term[] | null;

export function note(sink: Sink, name: TermName, cost: number, amount: number): number {
  if (cost > 0) sink?.push({ name, cost, amount });
  return cost;
}

/** The middle of the neck: index positions from the nut between which no zone cost is charged. */
const ZONE = { low: 5, high: 9 } as const;

/** In a strummed chord open strings weigh so much less. */
const STRUMMED = 0.25;

/** With the index up to this fret, open strings belong to the shapes of the hand. */
const NEAR_NUT = 3;

/** Frets up to here sound clear on the two thickest strings; further up they grow dull. */
const CLEAR_FRETS = 7;

/** What a finger makes of a bend: ring finger helped by two others, middle by one, index alone, little finger weak. */
const BEND_FINGER = [0, 2.5, 1.3, 1, 2, 9] as const;

/** A natural harmonic is touched: a share of the effort of pressing. */
const TOUCH = 0.4;

/** Cost of holding a state, by the named weights. Never negative. */
export function holdCost(neck: Neck, slice: Slice, state: State, sink: Sink = null): number {
  const { costs } = neck;
  const liking = slice.wish?.liking ?? neck.options.openLiking;
  const wished = slice.wish?.hand ?? neck.options.wishedHand;
  const prefer = slice.wish?.prefer ?? [];
  let opens = 0;
  let thin = 0;
  let pedals = 0;
  let weak = 0;
  let pressed = 0;
  let dull = 0;
  let struck = 0;
  let astray = 0;
  let bend = 0;
  let thumbs = 0;
  let closed = 0;
  slice.voices.forEach((voice, index) => {
    if (voice.heldFrom >= 0) return;
    const string = state.strings[index] ?? 0;
    if (voice.over < 0) {
      struck++;
      if (prefer.length > 0 && !prefer.includes(string)) astray++;
    }
    const f = state.fingers[index] ?? 0;
    const fret = state.frets[index] ?? 0;
    if (fret === 0) {
      if (voice.kind === 'dead' || voice.kind === 'tapped') return;
      if (voice.pedal) pedals++;
      else if (string >= neck.thick - 1) opens++;
      else thin++;
      return;
    }
    if (f === 0) return;
    pressed++;
    if (
      liking > 0 &&
      voice.kind === 'fretted' &&
      voice.over < 0 &&
      voice.bend === 0 &&
      voice.places.some((place) => place.open)
    )
      closed++;
    if (voice.bend > 0) bend += neck.effort(string, fret, voice.bend) * (BEND_FINGER[f] ?? 1);
    if (f === THUMB) thumbs++;
    else if (!slice.bar) weak += (costs.finger[f - 1] ?? 0) * (voice.kind === 'harmonic' ? TOUCH : 1);
    if (string >= neck.thick - 1) dull += Math.max(0, fret - neck.base - CLEAR_FRETS);
  });
  // In a strummed chord open strings are what makes it easy; in a line the hand can't shape them.
  const strummed = struck > GRIP_MAX ? STRUMMED : 1;
  let cost = note(sink, 'open', costs.open * (1 - liking) * opens * strummed, opens);
  cost += note(sink, 'openThin', costs.openThin * (1 - liking) * thin * strummed, thin);
  const far = state.hand - neck.base > NEAR_NUT ? opens + thin : 0;
  cost += note(sink, 'openFar', costs.openFar * (1 - liking) * far * strummed, far);
  cost += note(sink, 'pedal', costs.pedal * (1 - liking) * pedals, pedals);
  // A grip of two or three strings is a shape to be moved: an open string in it can't be moved along.
  if (struck >= 2 && struck <= GRIP_MAX && pressed > 0)
    cost += note(sink, 'openGrip', costs.openGrip * (1 - liking) * Math.max(0, struck - pressed), struck - pressed);
  // Who seeks open strings pays for each one that is there and not used.
  cost += note(sink, 'closed', costs.offString * Math.max(0, liking) * closed, closed);
  cost += note(sink, 'offString', costs.offString * astray, astray);
  if (state.free) return cost;
  cost += note(sink, 'finger', weak, pressed);
  cost += note(sink, 'dull', costs.dull * dull, dull);
  cost += note(sink, 'bend', costs.bend * bend, bend);
  cost += note(sink, 'thumb', costs.thumb * thumbs, thumbs);
  if (slice.bar) {
    const damped = dampedUnder(slice, state);
    cost += note(sink, 'damp', costs.damp * damped, damped);
  } else {
    cost += stretchCost(neck, state, sink);
    cost += patternCost(neck, state, sink);
    cost += barreCost(neck, state, sink);
    cost += gapCost(neck, slice, state, sink);
  }
  const low = Math.max(0, ZONE.low - state.hand);
  cost += note(sink, 'low', costs.low * low, low);
  const high = Math.max(0, state.hand - ZONE.high);
  cost += note(sink, 'high', costs.high * high, high);
  const beyond = Math.max(0, state.hand + 1 - neck.setup.instrument.easyFrets);
  cost += note(sink, 'far', costs.far * beyond, beyond);
  if (wished !== null) {
    const away = Math.abs(state.hand - neck.base - wished);
    cost += note(sink, 'wish', costs.wish * away, away);
  }
  return cost;
}

/** Strings between those that sound under a bar, and the one behind them that answers it: all have to be damped. */
function dampedUnder(slice: Slice, state: State): number {
  const sounding = slice.voices.filter((voice) => !voice.silent).length;
  const thick = Math.max(...state.strings);
  const thin = Math.min(...state.strings);
  return thick - thin + 1 - sounding + (thin > 1 ? 1 : 0);
}

/** Squares of millimetres beyond comfort, over all pairs of pressing fingers and the hovering index. */
function stretchCost(neck: Neck, state: State, sink: Sink): number {
  let squares = 0;
  let widest = 0;
  const fretOf = (f: number): number => (f === 1 ? state.hand : (state.on[f]?.fret ?? -1));
  for (let a = 1; a <= 4; a++) {
    const fa = fretOf(a);
    if (fa < 0) continue;
    for (let b = a + 1; b <= 4; b++) {
      const fb = fretOf(b);
      if (fb < 0) continue;
      const mm = apart(neck, fa, fb);
      const beyond = mm - comfortableSpan(neck, a, b);
      if (beyond <= 0) continue;
      squares += beyond * beyond;
      widest = Math.max(widest, mm);
    }
  }
  return note(sink, 'stretch', neck.costs.stretch * squares, widest);
}

/** Each barre by the finger that lies, and by the strings it covers beyond the first. */
function barreCost(neck: Neck, state: State, sink: Sink): number {
  const { costs } = neck;
  let cost = 0;
  let covered = 0;
  for (let f = 1; f <= 4; f++) {
    let thick = 0;
    let thin = 99;
    state.fingers.forEach((g, index) => {
      if (g !== f) return;
      thick = Math.max(thick, state.strings[index] ?? 0);
      thin = Math.min(thin, state.strings[index] ?? 0);
    });
    if (thick <= thin) continue;
    if (costs.flat !== undefined && liesFlat(state, f, thick, thin)) {
      const flat = costs.flat * (f === 1 ? 1 : RING_FLAT) * (thick - thin);
      cost += Math.min(flat, (costs.barre[f - 1] ?? 0) + costs.barreString * (thick - thin));
      covered += thick - thin;
      continue;
    }
    cost += (costs.barre[f - 1] ?? 0) + costs.barreString * (thick - thin);
    covered += thick - thin;
  }
  return note(sink, 'barre', cost, covered);
}

/** The ring finger lies flat with more effort than the index, so many times. */
const RING_FLAT = 3;

/** Strings a finger lies over without effort, and the fingers that do: index and ring. */
const FLAT_STRINGS = 3;

/**
 * Whether a finger just lies flat over two or three neighbouring strings: all of them sounding from it, and the next
 * thinner
 * string must not sound from its fret or behind, where it would be deadened.
 */
function liesFlat(state: State, finger: number, thick: number, thin: number): boolean {
  if ((finger !== 1 && finger !== 3) || thick - thin + 1 > FLAT_STRINGS) return false;
  const fret = state.on[finger]?.fret ?? 0;
  const under = state.fingers.filter((one) => one === finger).length;
  return (
    under === thick - thin + 1 &&
    !state.strings.some((string, i) => string === thin - 1 && (state.frets[i] ?? 0) <= fret)
  );
}

/** Strings inside a chord that must stay silent: the hand has to damp them. */
function gapCost(neck: Neck, slice: Slice, state: State, sink: Sink): number {
  const struck = slice.voices.filter((voice) => voice.heldFrom < 0 && voice.over < 0).length;
  if (struck < 2) return 0;
  const gaps = Math.max(
    0,
    state.pickLow - state.pickHigh + 1 - slice.voices.filter((voice) => voice.over < 0 && !voice.silent).length,
  );
  return note(sink, 'gap', neck.costs.gap * gaps, gaps);
}

/** Fingers spread or bunched against one finger a fret, in frets, of the finger that departs most. */
function patternCost(neck: Neck, state: State, sink: Sink): number {
  let spread = 0;
  let bunched = 0;
  for (let f = 2; f <= 4; f++) {
    const fret = state.on[f]?.fret ?? -1;
    if (fret < 0) continue;
    const off = fret - state.hand - (f - 1);
    spread = Math.max(spread, off);
    bunched = Math.max(bunched, -off);
  }
  return (
    note(sink, 'spread', neck.costs.spread * spread, spread) +
    note(sink, 'bunched', neck.costs.bunched * bunched, bunched)
  );
}

import type { Profile } from '../hand';
import { apart, maximalSpan, type Neck } from './neck';
import type { Slice, Voice } from './slice';

/**
 * One way a hand can stand for a slice: where each voice lies and which finger stops it, and
 * where the index finger is (or hovers). Frets here count from the nut, since hands live in mm.
 */
export interface State {
  /** Per voice of the slice: string, fret from the nut (0 = open or merely damped), finger (0 = none, 5 = thumb). */
  readonly strings: readonly number[];
  readonly frets: readonly number[];
  readonly fingers: readonly number[];
  /** Fret of the index from the nut; with a slide bar, the fret under the bar. */
  readonly hand: number;
  /** True when nothing is stopped: the hand is free and stays where it was. */
  readonly free: boolean;
  /** Per finger 1-5: string and fret it is on, or -1. A barre counts at its thickest string. */
  readonly on: readonly { readonly string: number; readonly fret: number }[];
  /** Thickest and thinnest string struck now. */
  readonly pickLow: number;
  readonly pickHigh: number;
}

/** Fingers a deck keeps side by side: four and the thumb. */
export const FINGERS = 5;
export const THUMB = 5;

/** All states of one slice, with the numbers of the inner loop side by side in flat arrays. */
export interface Deck {
  readonly states: readonly State[];
  readonly hand: Int16Array;
  readonly free: Uint8Array;
  /** Five a state: string * 64 + fret of fingers 1 to 4 and the thumb, -1 where one is idle. */
  readonly on: Int16Array;
  /**
   * Where exactly one finger is down: that finger (0 to 4) and its entry in `on`; -1 else. Lines are mostly such, and
   * need no loop.
   */
  readonly solo: Int8Array;
  readonly spot: Int16Array;
  readonly pickLow: Int16Array;
  readonly pickHigh: Int16Array;
  /**
   * How the strings of a grip of two or three lie to each other, wherever it is; 0 for single notes and full chords.
   */
  readonly shape: Int32Array;
  /**
   * How frets and strings of two stopped notes or more lie to each other, wherever they are; 0 for fewer, and below 0
   * where all are at one fret, which any finger takes.
   */
  readonly form: Int32Array;
  /** Which fingers make it, as one number; how many fingers are down. */
  readonly hold: Int32Array;
  readonly down: Uint8Array;
}

/**
 * `bound`: something sounds on from before, so that the grip is not formed anew and has no shape to be compared.
 */
export function makeDeck(states: readonly State[], shapes: Shapes = new Map(), bound = false): Deck {
  const on = new Int16Array(states.length * FINGERS).fill(-1);
  const solo = new Int8Array(states.length).fill(-1);
  const spots = new Int16Array(states.length).fill(-1);
  states.forEach((state, i) => {
    let down = 0;
    for (let f = 1; f <= FINGERS; f++) {
      const spot = state.on[f];
      if (!spot || spot.fret < 0) continue;
      on[i * FINGERS + f - 1] = spot.string * 64 + spot.fret;
      solo[i] = down++ === 0 ? f - 1 : -1;
      spots[i] = spot.string * 64 + spot.fret;
    }
  });
  return {
    states,
    hand: Int16Array.from(states, (state) => state.hand),
    free: Uint8Array.from(states, (state) => (state.free ? 1 : 0)),
    on,
    solo,
    spot: spots,
    pickLow: Int16Array.from(states, (state) => state.pickLow),
    pickHigh: Int16Array.from(states, (state) => state.pickHigh),
    shape: Int32Array.from(states, (state) => (bound ? 0 : shapeOf(state, shapes))),
    form: Int32Array.from(states, (state) => formOf(state, shapes)),
    hold: Int32Array.from(states, (state) => state.fingers.reduce((sum, finger) => sum * 6 + finger, 0)),
    down: Uint8Array.from(states, (state) =>
      state.on.reduce((sum, { fret }, f) => sum + (f > 0 && fret >= 0 ? 1 : 0), 0),
    ),
  };
}

/** Up to this many strings struck at once are a grip that moves; more are a strummed chord. */
export const GRIP_MAX = 3;

/** Shapes met so far, each with its number. */
export type Shapes = Map<string, number>;

/** What stays the same when a grip is moved: how far apart its strings are, and which are open. */
function shapeOf(state: State, shapes: Shapes): number {
  if (state.pickLow <= state.pickHigh || state.strings.length > GRIP_MAX) return 0;
  const key = state.strings
    .map((string, index) => `${state.pickLow - string}${(state.frets[index] ?? 0) === 0 ? 'o' : ''}`)
    .sort()
    .join(' ');
  const known = shapes.get(key) ?? shapes.size + 1;
  shapes.set(key, known);
  return known;
}

/** What stays the same when stopped notes move along the neck together. */
function formOf({ strings, frets }: State, shapes: Shapes): number {
  const low = Math.min(...frets.map((fret) => (fret > 0 ? fret : 99)));
  const stopped = frets.filter((fret) => fret > 0);
  if (stopped.length < 2) return 0;
  const key = `form ${strings.map((string, i) => `${string}${(frets[i] ?? 0) === 0 ? 'o' : `.${(frets[i] ?? 0) - low}`}`).join(' ')}`;
  const known = shapes.get(key) ?? shapes.size + 1;
  shapes.set(key, known);
  return stopped.every((fret) => fret === low) ? -known : known;
}

/** How far behind a finger (in frets) the index may hover when it presses nothing itself. */
export const HOVER: Readonly<Record<number, readonly number[]>> = { 2: [1, 2], 3: [2, 1], 4: [3, 2, 4] };

/** The thumb over the neck reaches the index's fret and one to either side. */
export const THUMB_REACH: readonly number[] = [0, 1, -1];

/** At most this many fingers side by side in one fret: there is no room for more. */
export const FINGERS_PER_FRET = 3;

/**
 * Every state a hand can make of a slice, under the hard limits: one note a string (but for a
 * trill's upper note and fingers kept down below), fingers never crossing, at one fret the lower
 * finger on the thicker string, at most three fingers in a fret, a barre lies on neighbouring
 * strings with nothing under it, spans within the hand's maximum; with a bar, one fret for all.
 */
export function statesOf(neck: Neck, slice: Slice): State[] {
  const { voices } = slice;
  const states: State[] = [];
  const strings: number[] = new Array<number>(voices.length).fill(0);
  const frets: number[] = new Array<number>(voices.length).fill(0);
  const thumb = thumbOver(neck, slice);
  const widest = slice.bar ? 0 : maximalSpan(neck, 1, 4);
  const choose = (v: number, low: number, high: number): void => {
    const voice = voices[v];
    if (!voice) {
      if (slice.bar) layBar(neck, voices, strings, frets, states);
      else finger(neck, voices, strings, frets, thumb, states);
      return;
    }
    for (const place of voice.places) {
      if (voice.lock && (voice.lock.string !== place.string || voice.lock.fret !== place.fret)) continue;
      const fret = place.open ? 0 : place.fretFromNut;
      if (!roomFor(voices, strings, frets, v, place.string, fret)) continue;
      if (voice.bend > 0 && (fret === 0 || neck.effort(place.string, fret, voice.bend) === Infinity)) continue;
      // The thumb stands apart from the span of the fingers, so it is left out of the first sieve.
      const counts = fret > 0 && !((thumb || voice.heldFrom >= 0) && place.string === neck.thick);
      const lo = counts ? Math.min(low, fret) : low;
      const hi = counts ? Math.max(high, fret) : high;
      if (hi > lo && apart(neck, lo, hi) > widest) continue;
      strings[v] = place.string;
      frets[v] = fret;
      choose(v + 1, lo, hi);
    }
  };
  choose(0, 99, 0);
  return states;
}

/**
 * Whether a voice may lie there beside those before it: strings are shared only by a trill and by fingers kept down
 * below.
 */
function roomFor(
  voices: readonly Voice[],
  strings: readonly number[],
  frets: readonly number[],
  v: number,
  string: number,
  fret: number,
): boolean {
  const voice = voices[v];
  if (!voice) return false;
  if (voice.over >= 0) return strings[voice.over] === string && frets[voice.over] === fret - voice.above;
  for (let u = 0; u < v; u++) {
    if (strings[u] !== string) continue;
    if (!voice.silent) return false;
    // A kept finger lies below whatever sounds, and two kept ones not on one fret.
    if (fret > 0 && (frets[u] ?? 0) <= fret && !(voices[u]?.silent && (frets[u] ?? 0) < fret)) return false;
  }
  return true;
}

/** Whether the thumb may come over the neck: it was said to, or wished here, or is the player's habit. */
export const thumbOver = (neck: Neck, slice: Slice): boolean =>
  slice.voices.some((voice) => voice.lock?.finger === THUMB) ||
  (slice.wish?.thumb ? slice.wish.thumb === 'over' : neck.options.profile.thumb);

/** Gives fingers to chosen places in every possible manner. */
function finger(
  neck: Neck,
  voices: readonly Voice[],
  strings: readonly number[],
  frets: readonly number[],
  thumb: boolean,
  out: State[],
): void {
  const stopped = voices.map((_, index) => index).filter((v) => (frets[v] ?? 0) > 0);
  stopped.sort((a, b) => (frets[a] ?? 0) - (frets[b] ?? 0) || (strings[b] ?? 0) - (strings[a] ?? 0));
  const { fingers: usable } = neck.options.profile;
  const fingers: number[] = new Array<number>(voices.length).fill(0);
  let thumbed = false;
  const assign = (k: number, lastFinger: number, lastFret: number): void => {
    const v = stopped[k];
    if (v === undefined) {
      emit(neck, voices, strings, frets, fingers, out);
      return;
    }
    const sameFret = lastFret === frets[v];
    const lock = voices[v]?.lock?.finger ?? null;
    for (const f of usable) {
      // Same finger only as a barre at one fret; otherwise fingers rise with frets, and at one fret from thick to thin.
      if (f < lastFinger || (f === lastFinger && !sameFret)) continue;
      if (lock !== null && lock !== f) continue;
      fingers[v] = f;
      assign(k + 1, f, frets[v] ?? 0);
    }
    // A thumb that is over the neck already may stay with its note.
    if (
      (thumb || (voices[v]?.heldFrom ?? -1) >= 0) &&
      !thumbed &&
      strings[v] === neck.thick &&
      (lock === null || lock === THUMB)
    ) {
      thumbed = true;
      fingers[v] = THUMB;
      assign(k + 1, lastFinger, lastFret);
      thumbed = false;
    }
    fingers[v] = 0;
  };
  assign(0, 0, -1);
}

function emit(
  neck: Neck,
  voices: readonly Voice[],
  strings: readonly number[],
  frets: readonly number[],
  fingers: readonly number[],
  out: State[],
): void {
  const on = fingersOn(strings, frets, fingers);
  if (!barresPossible(neck.options.profile, strings, frets, fingers) || crowded(on)) return;
  for (let a = 1; a <= 4; a++) {
    const fa = on[a]?.fret ?? -1;
    if (fa < 0) continue;
    for (let b = a + 1; b <= 4; b++) {
      const fb = on[b]?.fret ?? -1;
      if (fb >= 0 && apart(neck, fa, fb) > maximalSpan(neck, a, b)) return;
    }
  }
  const { pickLow, pickHigh } = picked(voices, strings);
  for (const hand of handsFor(neck, on)) {
    // Where one finger a fret is too wide, the school has ring and little finger act as one.
    if (!hand.free && (neck.pairs[hand.fret] ?? 0) === 1 && (on[3]?.fret ?? -1) >= 0) continue;
    out.push({
      strings: [...strings],
      frets: [...frets],
      fingers: [...fingers],
      hand: hand.fret,
      free: hand.free,
      on,
      pickLow,
      pickHigh,
    });
  }
}

export function picked(voices: readonly Voice[], strings: readonly number[]): { pickLow: number; pickHigh: number } {
  let pickLow = 0;
  let pickHigh = 99;
  voices.forEach((voice, index) => {
    if (voice.heldFrom >= 0 || voice.over >= 0) return;
    pickLow = Math.max(pickLow, strings[index] ?? 0);
    pickHigh = Math.min(pickHigh, strings[index] ?? 0);
  });
  return { pickLow, pickHigh };
}

/** A straight bar: everything stopped lies at one fret, and no open string sounds under it. */
function layBar(
  neck: Neck,
  voices: readonly Voice[],
  strings: readonly number[],
  frets: readonly number[],
  out: State[],
): void {
  const { barFinger } = neck.options.profile;
  const stopped = voices.map((_, index) => index).filter((v) => (frets[v] ?? 0) > 0);
  const [first] = stopped;
  const { pickLow, pickHigh } = picked(voices, strings);
  const fingers = voices.map((_, index) => ((frets[index] ?? 0) > 0 ? barFinger : 0));
  const on = fingersOn(strings, frets, fingers);
  const base = { strings: [...strings], frets: [...frets], fingers, on, pickLow, pickHigh };
  if (first === undefined) {
    for (let fret = neck.base + 1; fret <= neck.last; fret++) out.push({ ...base, hand: fret, free: true });
    return;
  }
  if (stopped.some((v) => frets[v] !== frets[first])) return;
  if (stopped.some((v) => voices[v]?.cents !== voices[first]?.cents || voices[v]?.bend || (voices[v]?.over ?? -1) >= 0))
    return;
  if (
    stopped.some((v) => {
      const asked = voices[v]?.lock?.finger ?? null;
      return asked !== null && asked !== barFinger;
    })
  )
    return;
  const thick = Math.max(...stopped.map((v) => strings[v] ?? 0));
  const thin = Math.min(...stopped.map((v) => strings[v] ?? 0));
  if (voices.some((_, index) => frets[index] === 0 && (strings[index] ?? 0) < thick && (strings[index] ?? 0) > thin))
    return;
  out.push({ ...base, hand: frets[first] ?? 1, free: false });
}

/**
 * Where the index finger can be for pressed fingers: on its fret, or hovering behind the lowest finger (or beside the
 * thumb).
 */
function handsFor(neck: Neck, on: State['on']): { fret: number; free: boolean }[] {
  const first = neck.base + 1;
  const thumb = on[THUMB]?.fret ?? -1;
  const withThumb = (h: number): boolean => thumb < 0 || THUMB_REACH.includes(thumb - h);
  let lowest = 0;
  for (let f = 1; f <= 4 && lowest === 0; f++) if ((on[f]?.fret ?? -1) >= 0) lowest = f;
  if (lowest === 0 && thumb < 0)
    return Array.from({ length: neck.last - first + 1 }, (_, i) => ({ fret: first + i, free: true }));
  if (lowest === 0)
    return THUMB_REACH.map((d) => thumb - d)
      .filter((h) => h >= first && h <= neck.last)
      .map((fret) => ({ fret, free: false }));
  const at = on[lowest]?.fret ?? 0;
  if (lowest === 1) return withThumb(at) ? [{ fret: at, free: false }] : [];
  return (HOVER[lowest] ?? [])
    .map((behind) => at - behind)
    .filter(
      (h) =>
        h >= first &&
        withThumb(h) &&
        on.every(
          (place, index) => index > 4 || place.fret < 0 || apart(neck, h, place.fret) <= maximalSpan(neck, 1, index),
        ),
    )
    .map((fret) => ({ fret, free: false }));
}

export function fingersOn(
  strings: readonly number[],
  frets: readonly number[],
  fingers: readonly number[],
): State['on'] {
  const on = Array.from({ length: FINGERS + 1 }, () => ({ string: -1, fret: -1 }));
  fingers.forEach((f, index) => {
    const spot = on[f];
    if (f > 0 && spot) on[f] = { string: Math.max(spot.string, strings[index] ?? 0), fret: frets[index] ?? 0 };
  });
  return on;
}

function crowded(on: State['on']): boolean {
  const perFret = new Map<number, number>();
  for (let f = 1; f <= 4; f++) {
    const fret = on[f]?.fret ?? -1;
    if (fret >= 0) perFret.set(fret, (perFret.get(fret) ?? 0) + 1);
  }
  return [...perFret.values()].some((n) => n > FINGERS_PER_FRET);
}

function barresPossible(
  profile: Profile,
  strings: readonly number[],
  frets: readonly number[],
  fingers: readonly number[],
): boolean {
  for (let f = 1; f <= 4; f++) {
    let thick = 0;
    let thin = 99;
    let fret = 0;
    let count = 0;
    fingers.forEach((g, index) => {
      if (g !== f) return;
      count++;
      thick = Math.max(thick, strings[index] ?? 0);
      thin = Math.min(thin, strings[index] ?? 0);
      fret = frets[index] ?? 0;
    });
    if (count < 2) continue;
    if (thick - thin + 1 > (profile.barre[f - 1] ?? 1)) return false;
    for (let v = 0; v < strings.length; v++) {
      const s = strings[v] ?? 0;
      if (fingers[v] !== f && s < thick && s > thin && (frets[v] ?? 0) <= fret) return false;
    }
  }
  return true;
}

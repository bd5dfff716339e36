import { baseNut, nutOf, pressPoint, stringNumbers, type Setup } from '../instrument';
import type { Voice } from './slices';
import type { PlaceOptions, Profile, SpanTable } from './types';

/**
 * One way a hand can stand for a slice: where each voice lies and which finger stops it, and
 * where the index finger is (or hovers). Frets here count from the nut, since hands live in mm.
 */
export interface State {
  /** Per voice of the slice: string, fret from the nut (0 = open), finger (0 = open). */
  readonly strings: readonly number[];
  readonly frets: readonly number[];
  readonly fingers: readonly number[];
  /** Fret of the index from the nut. */
  readonly hand: number;
  /** True when nothing is stopped: the hand is free and stays where it was. */
  readonly free: boolean;
  /** Per finger 1-4: string and fret it is on, or -1. A barre counts at its thickest string. */
  readonly on: readonly { readonly string: number; readonly fret: number }[];
  /** Thickest and thinnest string struck now. */
  readonly pickLow: number;
  readonly pickHigh: number;
}

/** All states of one slice, with the numbers of the inner loop side by side in flat arrays. */
export interface Deck {
  readonly states: readonly State[];
  readonly hand: Int16Array;
  readonly free: Uint8Array;
  /** Four a state: string * 64 + fret of fingers 1 to 4, -1 where a finger is idle. */
  readonly on: Int16Array;
  readonly pickLow: Int16Array;
  readonly pickHigh: Int16Array;
}

export function makeDeck(states: readonly State[]): Deck {
  const on = new Int16Array(states.length * 4).fill(-1);
  states.forEach((s, i) => {
    for (let f = 1; f <= 4; f++) {
      const spot = s.on[f];
      if (spot && spot.fret >= 0) on[i * 4 + f - 1] = spot.string * 64 + spot.fret;
    }
  });
  return {
    states,
    hand: Int16Array.from(states, (s) => s.hand),
    free: Uint8Array.from(states, (s) => (s.free ? 1 : 0)),
    on,
    pickLow: Int16Array.from(states, (s) => s.pickLow),
    pickHigh: Int16Array.from(states, (s) => s.pickHigh),
  };
}

/** Millimetre tables of one neck and hand, computed once. */
export interface Neck {
  readonly setup: Setup;
  readonly press: Float64Array;
  /** The fret the neck counts from. */
  readonly base: number;
  /** Where each string begins, by string number. */
  readonly nuts: readonly number[];
  readonly last: number;
  readonly thick: number;
  readonly maximal: Float64Array;
  readonly comfortable: Float64Array;
  readonly options: PlaceOptions;
}

const pairIndex = (a: number, b: number): number => a * 5 + b;

function spans(table: SpanTable): Float64Array {
  const out = new Float64Array(25);
  for (const [pair, mm] of Object.entries(table)) {
    const a = Number(pair[0]);
    const b = Number(pair[1]);
    out[pairIndex(a, b)] = mm;
    out[pairIndex(b, a)] = mm;
  }
  return out;
}

export function makeNeck(setup: Setup, options: PlaceOptions): Neck {
  const frets = setup.instrument.frets;
  return {
    setup,
    press: Float64Array.from({ length: frets + 2 }, (_, n) => pressPoint(setup.instrument.scaleMm, n)),
    base: baseNut(setup),
    nuts: Array.from({ length: setup.open.length + 1 }, (_, s) => (s === 0 ? 0 : nutOf(setup, s))),
    last: setup.instrument.frets,
    thick: Math.max(...stringNumbers(setup)),
    maximal: spans(options.profile.maximal),
    comfortable: spans(options.profile.comfortable),
    options,
  };
}

/** Distance between press points of two frets from the nut. */
export const apart = (neck: Neck, a: number, b: number): number => Math.abs((neck.press[a] ?? 0) - (neck.press[b] ?? 0));
export const maximalSpan = (neck: Neck, a: number, b: number): number => neck.maximal[pairIndex(a, b)] ?? 0;
export const comfortableSpan = (neck: Neck, a: number, b: number): number => neck.comfortable[pairIndex(a, b)] ?? 0;

/** How far behind a finger (in frets) the index may hover when it presses nothing itself. */
export const HOVER: Readonly<Record<number, readonly number[]>> = { 2: [1, 2], 3: [2, 1], 4: [3, 2, 4] };

/** At most this many fingers side by side in one fret: there is no room for more. */
export const FINGERS_PER_FRET = 3;

/**
 * Every state a hand can make of a slice, under the hard limits: one note a string, fingers never
 * crossing, at one fret the lower finger on the thicker string, at most three fingers in a fret,
 * a barre lies on neighbouring strings with nothing under it, spans within the hand's maximum.
 */
export function statesOf(neck: Neck, voices: readonly Voice[]): State[] {
  const states: State[] = [];
  const strings: number[] = new Array<number>(voices.length).fill(0);
  const frets: number[] = new Array<number>(voices.length).fill(0);
  const widest = maximalSpan(neck, 1, 4);
  let used = 0;
  const choose = (v: number, low: number, high: number): void => {
    const voice = voices[v];
    if (!voice) {
      finger(neck, voices, strings, frets, states);
      return;
    }
    for (const place of voice.places) {
      if (voice.lock && (voice.lock.string !== place.string || voice.lock.fret !== place.fret)) continue;
      const bit = 1 << place.string;
      if (used & bit) continue;
      const fret = place.open ? 0 : place.fretFromNut;
      const lo = fret === 0 ? low : Math.min(low, fret);
      const hi = fret === 0 ? high : Math.max(high, fret);
      if (hi > lo && apart(neck, lo, hi) > widest) continue;
      used |= bit;
      strings[v] = place.string;
      frets[v] = fret;
      choose(v + 1, lo, hi);
      used &= ~bit;
    }
  };
  choose(0, 99, 0);
  return states;
}

/** Gives fingers to chosen places in every possible manner. */
function finger(neck: Neck, voices: readonly Voice[], strings: readonly number[], frets: readonly number[], out: State[]): void {
  const stopped = voices.map((_, v) => v).filter((v) => (frets[v] ?? 0) > 0);
  stopped.sort((a, b) => (frets[a] ?? 0) - (frets[b] ?? 0) || (strings[b] ?? 0) - (strings[a] ?? 0));
  const { fingers: usable } = neck.options.profile;
  const fingers: number[] = new Array<number>(voices.length).fill(0);
  const assign = (k: number, lastFinger: number): void => {
    const v = stopped[k];
    if (v === undefined) {
      emit(neck, voices, strings, frets, fingers, out);
      return;
    }
    const sameFret = k > 0 && frets[stopped[k - 1] ?? 0] === frets[v];
    const lock = voices[v]?.lock?.finger ?? null;
    for (const f of usable) {
      // Same finger only as a barre at one fret; otherwise fingers rise with frets, and at one fret from thick to thin.
      if (f < lastFinger || (f === lastFinger && !sameFret)) continue;
      if (lock !== null && lock !== f) continue;
      fingers[v] = f;
      assign(k + 1, f);
    }
    fingers[v] = 0;
  };
  assign(0, 0);
}

function emit(neck: Neck, voices: readonly Voice[], strings: readonly number[], frets: readonly number[], fingers: readonly number[], out: State[]): void {
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
  let pickLow = 0;
  let pickHigh = 99;
  voices.forEach((voice, v) => {
    if (voice.heldFrom >= 0) return;
    pickLow = Math.max(pickLow, strings[v] ?? 0);
    pickHigh = Math.min(pickHigh, strings[v] ?? 0);
  });
  const make = (hand: number, free: boolean): void => {
    out.push({ strings: [...strings], frets: [...frets], fingers: [...fingers], hand, free, on, pickLow, pickHigh });
  };
  for (const hand of handsFor(neck, on)) make(hand.fret, hand.free);
}

/** Where the index finger can be for pressed fingers: on its fret, or hovering behind the lowest finger. */
function handsFor(neck: Neck, on: State['on']): { fret: number; free: boolean }[] {
  const lowest = on.findIndex((o) => o.fret >= 0);
  const first = neck.base + 1;
  if (lowest < 0) return Array.from({ length: neck.last - first + 1 }, (_, i) => ({ fret: first + i, free: true }));
  const at = on[lowest]?.fret ?? 0;
  if (lowest === 1) return [{ fret: at, free: false }];
  return (HOVER[lowest] ?? [])
    .map((behind) => at - behind)
    .filter((h) => h >= first && on.every((o, f) => o.fret < 0 || apart(neck, h, o.fret) <= maximalSpan(neck, 1, f)))
    .map((fret) => ({ fret, free: false }));
}

function fingersOn(strings: readonly number[], frets: readonly number[], fingers: readonly number[]): State['on'] {
  const on = Array.from({ length: 5 }, () => ({ string: -1, fret: -1 }));
  fingers.forEach((f, v) => {
    const spot = on[f];
    if (f > 0 && spot) on[f] = { string: Math.max(spot.string, strings[v] ?? 0), fret: frets[v] ?? 0 };
  });
  return on;
}

function crowded(on: State['on']): boolean {
  const perFret = new Map<number, number>();
  for (const o of on) if (o.fret >= 0) perFret.set(o.fret, (perFret.get(o.fret) ?? 0) + 1);
  return [...perFret.values()].some((n) => n > FINGERS_PER_FRET);
}

function barresPossible(profile: Profile, strings: readonly number[], frets: readonly number[], fingers: readonly number[]): boolean {
  for (let f = 1; f <= 4; f++) {
    let thick = 0;
    let thin = 99;
    let fret = 0;
    let count = 0;
    fingers.forEach((g, v) => {
      if (g !== f) return;
      count++;
      thick = Math.max(thick, strings[v] ?? 0);
      thin = Math.min(thin, strings[v] ?? 0);
      fret = frets[v] ?? 0;
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

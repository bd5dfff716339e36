import { baseNut, bendEffort, nutOf, pressPoint, stringNumbers, type Setup } from '../instrument';
import { frequency } from '../pitch';
import type { CostTable, Profile, SpanTable } from '../hand';
import type { PlaceOptions } from './types';

/** How many terms a move is made of: see `moveParts`. */
export const MOVE_PARTS = 8;

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
  /** The weights with this player's level and school in them. */
  readonly costs: CostTable;
  /** Per fret from the nut: whether ring and little finger act as one with the index there (1-2-4 fingering). */
  readonly pairs: Uint8Array;
  /** Newtons a bend asks for, by string, fret from the nut and cents; Infinity where it can't be made. */
  readonly effort: (string: number, fret: number, cents: number) => number;
  /** Where the terms of the move in hand are written: one place for millions of them, good until the next. */
  readonly terms: Float64Array;
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

/** What stretches, spread and barres weigh, by level. */
const CARE: Readonly<Record<Profile['level'], number>> = { beginner: 1.7, player: 1, advanced: 0.75 };
/** What departing from one finger a fret weighs for those who hold to it. */
const STRICT = 2;

function costsFor({ profile, costs }: PlaceOptions): CostTable {
  const care = CARE[profile.level];
  const strict = profile.school === 'finger-per-fret' ? STRICT : 1;
  if (care === 1 && strict === 1) return costs;
  const [b1, b2, b3, b4] = costs.barre;
  return {
    ...costs,
    stretch: costs.stretch * care,
    spread: costs.spread * care * strict,
    bunched: costs.bunched * strict,
    barre: [b1 * care, b2 * care, b3 * care, b4 * care],
    barreString: costs.barreString * care,
  };
}

export function makeNeck(setup: Setup, options: PlaceOptions): Neck {
  const { instrument } = setup;
  const { frets } = instrument;
  const { profile } = options;
  const press = Float64Array.from({ length: frets + 2 }, (_, n) => pressPoint(instrument.scaleMm, n));
  const wide = profile.comfortable['14'];
  return {
    terms: new Float64Array(MOVE_PARTS),
    setup,
    press,
    base: baseNut(setup),
    nuts: Array.from({ length: setup.open.length + 1 }, (_, s) => (s === 0 ? 0 : nutOf(setup, s))),
    last: frets,
    thick: Math.max(...stringNumbers(setup)),
    maximal: spans(profile.maximal),
    comfortable: spans(profile.comfortable),
    options,
    costs: costsFor(options),
    pairs: Uint8Array.from({ length: frets + 2 }, (_, n) =>
      profile.school === 'one-two-four' && (press[Math.min(frets + 1, n + 3)] ?? 0) - (press[n] ?? 0) > wide ? 1 : 0,
    ),
    effort: effortCache(setup),
  };
}

function effortCache(setup: Setup): Neck['effort'] {
  const known = new Map<number, number>();
  return (string, fret, cents) => {
    const key = (string * 64 + fret) * 1024 + Math.round(cents);
    const seen = known.get(key);
    if (seen !== undefined) return seen;
    const make = setup.instrument.strings[setup.instrument.strings.length - string];
    const openHz = frequency(setup.open[setup.open.length - string] ?? 0);
    const found = make
      ? bendEffort({
          make,
          scaleMm: make.scaleMm ?? setup.instrument.scaleMm,
          openHz,
          fret,
          nut: nutOf(setup, string),
          cents,
        })
      : null;
    const newtons = found?.ok ? found.value.newtons : Infinity;
    known.set(key, newtons);
    return newtons;
  };
}

/** Distance between press points of two frets from the nut. */
export const apart = (neck: Neck, a: number, b: number): number =>
  Math.abs((neck.press[a] ?? 0) - (neck.press[b] ?? 0));
export const maximalSpan = (neck: Neck, a: number, b: number): number => neck.maximal[pairIndex(a, b)] ?? 0;
export const comfortableSpan = (neck: Neck, a: number, b: number): number => neck.comfortable[pairIndex(a, b)] ?? 0;

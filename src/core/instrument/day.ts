import type { Midi, StringNumber } from '../base';
import { retunePlan, type RetunePlan } from './retune';
import type { Instrument } from './types';

/** A piece of the day as far as its instrument is concerned. */
export interface DayItem {
  readonly id: string;
  readonly title: string;
  /** Instruments are one when their id is. */
  readonly instrument: Instrument;
  readonly open: readonly Midi[];
  readonly absent: readonly StringNumber[];
}

export interface DayStop {
  readonly item: DayItem;
  /** What has to be turned before it. */
  readonly plan: RetunePlan;
}

export interface DayRoute {
  readonly instrument: Instrument;
  readonly stops: readonly DayStop[];
  readonly moved: number;
  readonly semitones: number;
  /** The same figures in the order the pieces were given in. */
  readonly asGiven: { readonly moved: number; readonly semitones: number };
  /** Pieces that would overstress a string; they are left out of the order. */
  readonly refused: readonly { readonly item: DayItem; readonly why: string }[];
  /** True when the order is the best there is; false for so many tunings that it was improved step by step. */
  readonly exact: boolean;
}

/** Up to this many different tunings the order is found by trying all (Held and Karp 1962). */
export const EXACT_TUNINGS = 11;

/** Fewest strings moved counts first, then fewest semitones. */
const MOVED_WEIGHT = 1000;

/**
 * The order of a day's pieces with least retuning, for each instrument by itself. Pieces in one
 * tuning stay together in the order given. `start` is what an instrument is tuned to in the
 * morning, by instrument id; without it the day starts wherever is best.
 */
export function dayOrder(items: readonly DayItem[], start: Readonly<Record<string, readonly Midi[]>> = {}): DayRoute[] {
  const byInstrument = new Map<string, DayItem[]>();
  for (const item of items)
    byInstrument.set(item.instrument.id, [...(byInstrument.get(item.instrument.id) ?? []), item]);
  return [...byInstrument.entries()].map(([id, own]) => route(own, start[id] ?? null));
}

function route(items: readonly DayItem[], start: readonly Midi[] | null): DayRoute {
  const instrument = items[0]?.instrument as Instrument;
  const refused: { item: DayItem; why: string }[] = [];
  const playable = items.filter((item) => {
    const plan = retunePlan(
      instrument,
      instrument.strings.map((string) => string.pitch),
      item.open,
      item.absent,
    );
    const bad = plan.steps.filter((step) => step.grade === 'stop').map((step) => step.string);
    if (bad.length > 0)
      refused.push({ item, why: `String ${bad.join(' and ')} would be near breaking in this tuning.` });
    return bad.length === 0;
  });
  const groups: DayItem[][] = [];
  for (const item of playable) {
    const group = groups.find((list) => same(list[0]?.open ?? [], item.open));
    if (group) group.push(item);
    else groups.push([item]);
  }
  const tunings = groups.map((list) => list[0]?.open ?? []);
  const exact = tunings.length <= EXACT_TUNINGS;
  const order = exact
    ? bestOrder(
        tunings,
        start,
        instrument.strings.map((string) => string.pitch),
      )
    : improvedOrder(tunings, start);
  const stops = stopsOf(
    order.flatMap((g) => groups[g] ?? []),
    start,
  );
  const total = (of: readonly DayStop[], key: 'moved' | 'semitones'): number =>
    of.reduce((n, one) => n + one.plan[key], 0);
  const given = stopsOf(playable, start);
  return {
    instrument,
    stops,
    refused,
    exact,
    moved: total(stops, 'moved'),
    semitones: total(stops, 'semitones'),
    asGiven: { moved: total(given, 'moved'), semitones: total(given, 'semitones') },
  };
}

function stopsOf(items: readonly DayItem[], start: readonly Midi[] | null): DayStop[] {
  let now = start;
  return items.map((item) => {
    const plan = retunePlan(item.instrument, now ?? item.open, item.open, item.absent);
    now = item.open;
    return { item, plan };
  });
}

const same = (a: readonly Midi[], b: readonly Midi[]): boolean => a.every((midi, i) => midi === b[i]);

/** The work of one retuning as a number: strings first, then semitones. */
export function retuneWork(from: readonly Midi[], to: readonly Midi[]): number {
  let work = 0;
  to.forEach((midi, i) => {
    const by = Math.abs(midi - (from[i] ?? midi));
    if (by > 0) work += MOVED_WEIGHT + by;
  });
  return work;
}

/** Among equal orders without a start, the one that begins nearest to what the strings are made for. */
const TIE = 1e-6;

function bestOrder(
  tunings: readonly (readonly Midi[])[],
  start: readonly Midi[] | null,
  reference: readonly Midi[],
): number[] {
  const n = tunings.length;
  if (n === 0) return [];
  const work = tunings.map((a) => tunings.map((b) => retuneWork(a, b)));
  const full = 1 << n;
  const cost = new Float64Array(full * n).fill(Infinity);
  const from = new Int8Array(full * n).fill(-1);
  for (let i = 0; i < n; i++)
    cost[(1 << i) * n + i] = start
      ? retuneWork(start, tunings[i] ?? [])
      : retuneWork(reference, tunings[i] ?? []) * TIE;
  for (let set = 1; set < full; set++) {
    for (let last = 0; last < n; last++) {
      const here = cost[set * n + last] ?? Infinity;
      if (here === Infinity) continue;
      for (let next = 0; next < n; next++) {
        if (set & (1 << next)) continue;
        const to = (set | (1 << next)) * n + next;
        const total = here + (work[last]?.[next] ?? 0);
        if (total < (cost[to] ?? Infinity)) {
          cost[to] = total;
          from[to] = last;
        }
      }
    }
  }
  let set = full - 1;
  let last = 0;
  for (let i = 1; i < n; i++) if ((cost[set * n + i] ?? 0) < (cost[set * n + last] ?? 0)) last = i;
  const order: number[] = [];
  while (last >= 0) {
    order.unshift(last);
    const before = from[set * n + last] ?? -1;
    set &= ~(1 << last);
    last = before;
  }
  return order;
}

/** Nearest tuning next, then stretches turned round while that saves work (2-opt). */
function improvedOrder(tunings: readonly (readonly Midi[])[], start: readonly Midi[] | null): number[] {
  const left = new Set(tunings.keys());
  const order: number[] = [];
  let now = start ?? tunings[0] ?? [];
  while (left.size > 0) {
    const next = [...left].sort(
      (a, b) => retuneWork(now, tunings[a] ?? []) - retuneWork(now, tunings[b] ?? []) || a - b,
    )[0] as number;
    left.delete(next);
    order.push(next);
    now = tunings[next] ?? [];
  }
  const at = (i: number): readonly Midi[] | null => (i < 0 ? start : (tunings[order[i] ?? -1] ?? null));
  const leg = (a: readonly Midi[] | null, b: readonly Midi[] | null): number => (a && b ? retuneWork(a, b) : 0);
  for (let better = true; better;) {
    better = false;
    for (let i = 0; i < order.length - 1; i++) {
      for (let k = i + 1; k < order.length; k++) {
        const saved = leg(at(i - 1), at(i)) + leg(at(k), at(k + 1)) - leg(at(i - 1), at(k)) - leg(at(i), at(k + 1));
        if (saved > 0) {
          order.splice(i, k - i + 1, ...order.slice(i, k + 1).reverse());
          better = true;
        }
      }
    }
  }
  return order;
}

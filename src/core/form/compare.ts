import type { Key } from '../pitch';
import type { Schools } from '../schools';
import { barOf, type Quarter } from '../time';
import { differencesOf, differenceWords, type EventDifference } from './differences';
import type { Line } from './resolve';

/** Two lines bar by bar under one numbering: versions of a piece, levels of a part. */

/** One bar of the two, and what the second has otherwise. */
export interface ComparedBar {
  /** From 0; a pickup is bar -1. */
  readonly bar: number;
  /** Events in the bar of the one and of the other. */
  readonly events: readonly [number, number];
  readonly differences: readonly EventDifference[];
  readonly words: readonly string[];
}

/** Every bar either of the two has, told in the meter of the first. */
export function comparedBars(
  one: Line,
  other: Line,
  { key, schools }: { readonly key: Key | null; readonly schools?: Schools },
): ComparedBar[] {
  const { meters } = one.riff;
  const barAt = (at: Quarter): number => Math.max(-1, barOf(meters, at).bar);
  const found = new Map<number, EventDifference[]>();
  for (const difference of differencesOf(one.riff.events, other.riff.events)) {
    const bar = barAt(difference.at);
    found.set(bar, [...(found.get(bar) ?? []), difference]);
  }
  const counts = [one, other].map((line) => {
    const out = new Map<number, number>();
    for (const event of line.riff.events) out.set(barAt(event.at), (out.get(barAt(event.at)) ?? 0) + 1);
    return out;
  });
  const last = Math.max(one.map.bars, other.map.bars, ...found.keys());
  const pickup = counts.some((count) => count.has(-1)) ? -1 : 0;
  return Array.from({ length: last - pickup }, (_, i) => {
    const bar = pickup + i;
    const differences = found.get(bar) ?? [];
    return {
      ...{ bar, differences },
      events: [counts[0]?.get(bar) ?? 0, counts[1]?.get(bar) ?? 0],
      words: differences.map((difference) =>
        differenceWords(difference, { meters, key, ...(schools ? { schools } : {}) }).replace(/^bar \d+, /, ''),
      ),
    };
  });
}

/** How much of the first the second has: bars that are the same, of all in which either plays. */
export function likenessOf(bars: readonly ComparedBar[]): { readonly same: number; readonly of: number } {
  const played = bars.filter(({ events: [a, b] }) => a > 0 || b > 0);
  return { same: played.filter((one) => one.differences.length === 0).length, of: played.length };
}

import { barStart, toNumber, type MeterChange } from '../time';
import { BarMap } from './bars';
import type { Mark } from './clip';

/** A recording whose bars are laid for the whole form serves every riff in it: bars of the form seen as a riff's. */

export interface InForm {
  readonly meters: readonly MeterChange[];
  /** The bar of the form the riff begins at, from 0, and how many it has. */
  readonly first: number;
  readonly bars: number;
}

/** Where the bar lines of a riff lie in a recording aligned to the form: from its beginning to its end. */
export function marksOfRiff(marks: readonly Mark[], { meters, first, bars }: InForm, bpm: number | null): Mark[] {
  const form = new BarMap(meters, marks, bpm);
  if (!form.known) return [];
  return Array.from({ length: bars + 1 }, (_, bar) => ({
    bar,
    at: Math.round(form.seconds(toNumber(barStart(meters, first + bar))) * 1000) / 1000,
  }));
}

/** The form's bar lines after some of a riff's were laid or moved by hand: what did not change says nothing. */
export function marksOfForm(
  marks: readonly Mark[],
  shown: readonly Mark[],
  changed: readonly Mark[],
  { first }: InForm,
): Mark[] {
  const before = new Map(shown.map((one) => [one.bar, one.at]));
  const laid = new Map(marks.map((one) => [one.bar, one.at]));
  for (const { bar, at } of changed) if (before.get(bar) !== at) laid.set(first + bar, at);
  const sorted = [...laid].map(([bar, at]) => ({ bar, at })).sort((a, b) => a.bar - b.bar);
  const moved = new Set(changed.filter((one) => before.get(one.bar) !== one.at).map((one) => one.bar + first));
  // A line that was laid before and would now stand out of order gives way to the one laid now.
  return sorted.filter(
    (one, i) =>
      moved.has(one.bar) ||
      !sorted.some((other, k) => moved.has(other.bar) && (k < i ? other.at >= one.at : k > i && other.at <= one.at)),
  );
}

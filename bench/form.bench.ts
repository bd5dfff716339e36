import { chartOf, mapOf, resolveAll, sheetOf } from '../src/core/form';
import type { Piece } from '../src/core/score';
import { bigPiece } from './lib/big-form';

/**
 * A piece of 400 bars, 6 parts and 60 uses: unfolding it, after a change of one riff and of the form, and drawing its
 * chart and its sheet, as ratios to reading its JSON once, which no page can do without.
 */

const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;

function time(run: () => void, rounds = 15): number {
  const taken: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const began = performance.now();
    run();
    taken.push(performance.now() - began);
  }
  return median(taken);
}

const piece = bigPiece();
const uses = piece.sections.reduce((sum, one) => sum + one.rows.reduce((n, row) => n + row.uses.length, 0), 0);
const text = JSON.stringify(piece);
let fresh: Piece = piece;
/** The same piece as other objects, so that nothing kept of it helps. */
const anew = (): Piece => (fresh = JSON.parse(text) as Piece);
const changed = (): Piece => {
  const [first, ...rest] = fresh.parts;
  if (!first) return fresh;
  const [riff, ...others] = first.riffs;
  const [event, ...events] = riff?.events ?? [];
  if (!riff || !event) return fresh;
  return {
    ...fresh,
    parts: [{ ...first, riffs: [{ ...riff, events: [{ ...event }, ...events] }, ...others] }, ...rest],
  };
};

const parse = time(() => void anew());
const unfold = time(() => resolveAll(anew())) - parse;
resolveAll(fresh);
const oneEdit = time(() => resolveAll(changed()));
const rowChanged = (): Piece => {
  const [first, ...rest] = fresh.sections;
  const [row, ...rows] = first?.rows ?? [];
  if (!first || !row) return fresh;
  return {
    ...fresh,
    sections: [{ ...first, rows: [{ ...row, uses: row.uses.map((use) => ({ ...use })) }, ...rows] }, ...rest],
  };
};
const oneRow = time(() => chartOf(rowChanged(), { unfolded: false }));
const reorder = time(() => resolveAll({ ...fresh, form: [...fresh.form] }));
const folded = time(() => chartOf(changed(), { unfolded: false }));
const whole = time(() => chartOf(changed(), { unfolded: true }));
const sheet = time(() => sheetOf(fresh, 'p0', { unfolded: false }));
const { bars } = mapOf(fresh);
const events = resolveAll(fresh).reduce((sum, line) => sum + line.riff.events.length, 0);

const line = (what: string, ms: number): void =>
  console.log(
    `${what.padEnd(44)} ${ms.toFixed(1).padStart(7)} ms   ${(ms / parse).toFixed(2).padStart(6)} x reading its JSON`,
  );
console.log(
  `${bars} bars, ${piece.parts.length} parts, ${uses} uses, ${events} events unfolded, ${Math.round(text.length / 1024)} KB of JSON`,
);
line('reading its JSON (the baseline)', parse);
line('unfolding all parts, nothing kept', unfold);
line('unfolding all parts after one note changed', oneEdit);
line('unfolding all parts after the order changed', reorder);
line('the chart, folded, after one row changed', oneRow);
line('the chart, folded, after one note changed', folded);
line('the chart, unfolded, after one note changed', whole);
line('the sheet of one part, folded', sheet);

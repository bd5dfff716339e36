import { must } from '../src/core/base';
import { setRow, insertSection, setRoute } from '../src/core/command';
import { applyEdit } from '../src/core/edit';
import { chartOf, mapOf, resolveAll, sheetOf } from '../src/core/form';
import { makeSetup } from '../src/core/instrument';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, type Piece } from '../src/core/score';
import { quarter } from '../src/core/time';

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

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const OPEN = [64, 59, 55, 50, 45, 40];

/** Eight eighths a bar, 20 bars of riffs a part, ten uses each in ten sections of 8 bars, played five times over. */
function bigPiece(): Piece {
  const parts = Array.from({ length: 6 }, (_, p) =>
    makePart(`p${p}`, `Part ${p}`, setup, {
      riffs: Array.from({ length: 5 }, (_, r) =>
        makeRiff(`p${p}r${r}`, `Riff ${r}`, {
          bars: 4,
          events: Array.from({ length: 32 }, (_, e) => {
            const string = 1 + ((e + r + p) % 6);
            const fret = 1 + ((e * 7 + r) % 9);
            const place = makePlace(string, fret, 'instructor', { finger: 1 });
            const id = `p${p}r${r}e${e}`;
            return makeEvent(id, quarter(e, 2), quarter(1, 2), [
              makeNote(`${id}n`, (OPEN[string - 1] ?? 64) + fret, 'instructor', { place }),
            ]);
          }),
        }),
      ),
    }),
  );
  let piece = makePiece('big', 'Big', { parts });
  for (let s = 0; s < 10; s++) {
    const made = insertSection(piece, { name: `Section ${s}`, bars: 8 });
    piece = must(applyEdit(piece, made.edit));
    for (const [p, part] of parts.entries())
      piece = must(
        applyEdit(
          piece,
          must(
            setRow(piece, made.id, part.id, [
              { riff: `p${p}r${s % 5}`, plays: 2, ...(s % 3 === 0 ? { move: { by: 'frets', steps: 2 } } : {}) },
            ]),
          ),
        ),
      );
  }
  const items = Array.from({ length: 5 }, () => piece.sections)
    .flat()
    .map((one) => ({ section: one.id, name: one.name, plays: 1, stop: null, from: 0, to: 0 }));
  return must(applyEdit(piece, must(setRoute(piece, items))));
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

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeEvent, makeNote, makePlace, makeRiff } from '@/core/score';
import { riffArbitrary, setupArbitrary } from '@/core/score/test-support/arbitrary';
import { cmp, quarter, toNumber, ZERO } from '@/core/time';
import { figureWidth, GRACE_SIZE, leastWidth, sizeThatFits, spacedScale, type Figures } from './spacing';
import { barsThatFit, figureSize, packedRows, rowCutter, rowsOf } from './strip-layout';

/** What stands for a note: its fret, here without a school or a capo. */
const text: Figures['text'] = (note) => String(note.place?.fret ?? '?');

describe('rows', () => {
  it('hold every event once, within their bars, one row after another', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup)),
        fc.integer({ min: 1, max: 4 }),
        (riff, perRow) => {
          const rows = rowsOf(riff, perRow);
          expect(rows.flatMap((row) => row.events)).toEqual(riff.events);
          rows.forEach((row, i) => {
            if (i > 0) expect(row.from).toBe(rows[i - 1]?.to);
            for (const event of row.events)
              expect(
                (cmp(event.at, row.from) >= 0 || (i === 0 && event.grace === true)) && cmp(event.at, row.to) < 0,
              ).toBe(true);
          });
        },
      ),
    );
  });

  it('cut one version after another are those cut anew, and the same objects where nothing changed', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup)),
        fc.integer({ min: 1, max: 4 }),
        fc.nat(20),
        fc.integer({ min: 1, max: 40 }),
        (riff, perRow, at, dur) => {
          const cut = rowCutter();
          const before = cut(riff, perRow);
          const changed = {
            ...riff,
            events: riff.events.map((event, i) => (i === at ? { ...event, dur: quarter(dur, 4) } : event)),
          };
          const after = cut(changed, perRow);
          expect(after).toEqual(rowsOf(changed, perRow));
          const fewer = { ...changed, events: changed.events.slice(1) };
          if (after.length === before.length) {
            after.forEach((row, i) => {
              if (
                row.events.every((event) => riff.events.includes(event)) &&
                (row.before === null || riff.events.includes(row.before))
              )
                expect(row).toBe(before[i]);
            });
          }
          expect(cut(fewer, perRow)).toEqual(rowsOf(fewer, perRow));
          expect(cut(fewer, perRow === 1 ? 2 : 1)).toEqual(rowsOf(fewer, perRow === 1 ? 2 : 1));
        },
      ),
    );
  });

  it('hold fewer bars where notes are closer, so that figures stay legible', () => {
    const run = (step: number) =>
      makeRiff('r', 'r', {
        events: Array.from({ length: 8 }, (_, i) =>
          makeEvent(`e${i}`, quarter(i, step), quarter(1, step), [makeNote(`n${i}`, 50, 'import')]),
        ),
      });
    expect(barsThatFit(run(1), 820, text)).toBe(4);
    expect(barsThatFit(run(4), 420, text)).toBe(4);
    expect(barsThatFit(run(4), 90, text)).toBeLessThan(4);
    expect(barsThatFit(run(8), 90, text)).toBe(1);
  });

  it('packed for print hold every bar once, and many empty ones side by side', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup)),
        (riff) => {
          const rows = packedRows(riff, 640, { size: 12.5, text });
          expect(rows.flatMap((row) => row.events)).toEqual(riff.events);
          expect(rows.reduce((n, row) => n + row.bars, 0)).toBe(rowsOf(riff, 1).length);
        },
      ),
    );
    expect(packedRows(makeRiff('r', 'r', { bars: 16 }), 640, { size: 12.5, text })).toHaveLength(2);
  });
});

/** A run of notes at a fret, so many to the quarter. */
function runAt(fret: number, step: number, count: number) {
  return makeRiff('r', 'r', {
    events: Array.from({ length: count }, (_, i) =>
      makeEvent(`e${i}`, quarter(i, step), quarter(1, step), [
        makeNote(`n${i}`, 60, 'instructor', { place: makePlace(2, fret, 'instructor', { locked: true, finger: 1 }) }),
      ]),
    ),
  });
}

describe('spacing', () => {
  it('never lets two figures touch, keeps the order of time and finds the way back, at any zoom', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup)),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 260, max: 1000 }),
        (riff, perRow, width) => {
          for (const row of rowsOf(riff, perRow)) {
            const size = sizeThatFits(row, riff.meters, width, text);
            const x = spacedScale(row, riff.meters, 50, width, { size, text });
            const fits = leastWidth(row, riff.meters, { size, text }) <= width;
            row.events.forEach((event, i) => {
              const before = row.events[i - 1];
              expect(x.invert(x(event.at))).toBeCloseTo(toNumber(event.at), 6);
              if (!before) return;
              expect(x(event.at)).toBeGreaterThan(x(before.at));
              if (!fits) return;
              const half = (one: typeof event): number =>
                Math.max(
                  0,
                  ...one.notes.map((note) => figureWidth(text(note), one.grace ? size * GRACE_SIZE : size) / 2),
                );
              expect(x(event.at) - half(event)).toBeGreaterThan(x(before.at) + half(before));
            });
            if (row.events.length > 0 && row.index > 0) expect(x(row.from)).toBeGreaterThanOrEqual(50 - 1e-6);
            expect(x(row.to)).toBeLessThanOrEqual(50 + width + 1e-6);
          }
        },
      ),
    );
  });

  it('is true to time where there is room', () => {
    const [row] = rowsOf(runAt(5, 1, 4), 1);
    if (!row) throw new Error('no row');
    const x = spacedScale(row, [{ bar: 0, beats: 4, unit: 4 }], 100, 800, { size: 20, text });
    expect([0, 1, 2, 3].map((n) => Math.round(x(quarter(n))))).toEqual([100, 300, 500, 700]);
    expect(x.time(2.5)).toBeCloseTo(600, 6);
  });

  it('makes room where a bar is crowded at one end', () => {
    const riff = makeRiff('r', 'r', {
      events: [
        ...runAt(12, 8, 8).events,
        ...runAt(12, 1, 4)
          .events.slice(1)
          .map((event) => ({ ...event, id: `l${event.id}` })),
      ],
    });
    const [row] = rowsOf(riff, 1);
    if (!row) throw new Error('no row');
    const x = spacedScale(row, riff.meters, 0, 500, { size: 18, text });
    const steps = row.events.slice(1, 8).map((event, i) => x(event.at) - x(row.events[i]?.at ?? ZERO));
    for (const step of steps) expect(step).toBeGreaterThan(figureWidth('12', 18));
  });

  it('keeps four bars of sixteenths above fret nine readable on a page', () => {
    const riff = runAt(12, 4, 64);
    const perRow = barsThatFit(riff, 900, text);
    expect(perRow).toBeGreaterThanOrEqual(2);
    expect(figureSize(riff, 900, perRow, text)).toBeGreaterThanOrEqual(14);
  });
});

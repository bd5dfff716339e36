import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeEvent, makeNote, makeRiff } from '@/core/score';
import { riffArbitrary, setupArbitrary } from '@/core/score/test-support/arbitrary';
import { cmp, quarter, ZERO } from '@/core/time';
import { barsThatFit, packedRows, rowCutter, rowsOf, timeScale } from './strip-layout';

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
    expect(barsThatFit(run(1), 820)).toBe(4);
    expect(barsThatFit(run(4), 820)).toBe(2);
    expect(barsThatFit(run(8), 820)).toBe(1);
  });

  it('packed for print hold every bar once, and many empty ones side by side', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup)),
        (riff) => {
          const rows = packedRows(riff, 640);
          expect(rows.flatMap((row) => row.events)).toEqual(riff.events);
          expect(rows.reduce((n, row) => n + row.bars, 0)).toBe(rowsOf(riff, 1).length);
        },
      ),
    );
    expect(packedRows(makeRiff('r', 'r', { bars: 16 }), 640)).toHaveLength(2);
  });

  it('put time in true proportion', () => {
    const x = timeScale({ from: ZERO, to: quarter(8) }, 100, 800);
    expect([x(ZERO), x(quarter(4)), x(quarter(8))]).toEqual([100, 500, 900]);
  });
});

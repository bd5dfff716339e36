import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { makeEvent, makeNote, makePart, makePiece, makeRiff, type FormEntry, type Piece, type Section } from '../score';
import { barStart, bpmAt, cmp, quarter, sub, toNumber, ZERO } from '../time';
import { barsFrom, inBars, mapOf, momentAt, passAt, routeOf } from './map';
import { formArbitrary } from './test-support/arbitrary';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const riff = makeRiff('a', 'A', {
  bars: 1,
  events: Array.from({ length: 4 }, (_, i) =>
    makeEvent(`e${i}`, quarter(i), quarter(1), [makeNote(`n${i}`, 45 + i, 'instructor')]),
  ),
});
const section = (id: string, bars: number, context?: Section['context']): Section => ({
  ...{ id, name: id, kind: 'other', bars },
  ...(context ? { context } : {}),
  rows: [{ part: 'g', uses: [{ id: `u${id}`, riff: 'a', plays: bars }] }],
});
const entry = (id: string, plays = 1, stop?: FormEntry['stop']): FormEntry => ({
  ...{ id: `f${id}`, section: id, plays },
  ...(stop ? { stop } : {}),
});
const piece = (
  sections: readonly Section[],
  form: readonly FormEntry[] = [],
  context: Partial<Piece['context']> = {},
) =>
  makePiece('p', 'Moth', {
    ...{ sections, form, lastId: 1000 },
    context: { tempo: [{ at: ZERO, bpm: 120 }], key: [{ at: ZERO, tonic: 'A', mode: 'minor' }], ...context },
    parts: [makePart('g', 'Guitar', setup, { riffs: [riff] })],
  });
const bpm = (of: Piece, at: number) => Math.round(bpmAt(mapOf(of).tempo, quarter(Math.round(at * 96), 96)));

describe('the order of playing', () => {
  it('is the route, or the sections as they stand; what is gone is passed over', () => {
    const two = [section('v', 2), section('r', 1)];
    expect(routeOf(piece(two)).map((one) => [one.entry, one.section.id])).toEqual([
      [null, 'v'],
      [null, 'r'],
    ]);
    const routed = piece(two, [entry('r'), entry('gone'), entry('v', 2)]);
    expect(mapOf(routed).passes.map((one) => [one.section.id, one.pass, one.firstBar])).toEqual([
      ['r', 1, 0],
      ['v', 1, 1],
      ['v', 2, 3],
    ]);
    expect([mapOf(routed).bars, mapOf(routed).end]).toEqual([5, quarter(20)]);
  });

  it('ends a place early on its last pass, and never without a bar', () => {
    const early = (bars: number) => piece([section('v', 4)], [entry('v', 2, { kind: 'early', bars })]);
    expect(mapOf(early(1)).passes.map((one) => one.bars)).toEqual([4, 3]);
    expect(mapOf(early(9)).passes.map((one) => one.bars)).toEqual([4, 1]);
  });

  it('knows the pass of any time, the first before the beginning and the last beyond the end', () => {
    const map = mapOf(piece([section('v', 1), section('r', 1)]));
    expect([-3, 0, 3.9, 4, 99].map((at) => passAt(map, quarter(Math.round(at * 10), 10))?.section.id)).toEqual([
      ...['v', 'v', 'v', 'r', 'r'],
    ]);
    expect(passAt(mapOf(piece([])), ZERO)).toBeNull();
  });
});

describe('tempo over the form', () => {
  it('slows over the last bars of the last pass, and what follows is in tempo', () => {
    const of = piece(
      [section('v', 4), section('r', 1)],
      [entry('v', 2, { kind: 'slowing', bars: 2, to: 50 }), entry('r')],
    );
    expect([0, 12, 16, 24].map((at) => bpm(of, at))).toEqual([120, 120, 120, 120]);
    expect(bpm(of, 28)).toBeLessThan(100);
    expect(bpm(of, 28)).toBeGreaterThan(75);
    expect(bpm(of, 31.9)).toBeLessThan(65);
    expect(bpm(of, 32)).toBe(120);
  });

  it('holds the last beat, of whatever unit', () => {
    const held = (unit: number) =>
      piece(
        [section('v', 1, { meters: [{ bar: 0, beats: 4, unit }] }), section('r', 1)],
        [entry('v', 1, { kind: 'held', bars: 0 }), entry('r')],
      );
    expect([0, 2.9, 3, 4].map((at) => bpm(held(4), at))).toEqual([120, 120, 48, 120]);
    expect([0, 1.4, 1.5, 2].map((at) => bpm(held(8), at))).toEqual([120, 120, 48, 120]);
  });

  it('is a section’s own while it lasts, anew each time it comes', () => {
    const of = piece(
      [
        section('v', 1, {
          tempo: [
            { at: ZERO, bpm: 90 },
            { at: quarter(2), bpm: 80 },
          ],
        }),
        section('r', 1),
      ],
      [entry('v', 2), entry('r')],
    );
    expect([0, 2, 4, 6, 8].map((at) => bpm(of, at))).toEqual([90, 80, 90, 80, 120]);
  });
});

describe('what stands over a time', () => {
  it('is the section’s key and chords while it lasts, else the piece’s', () => {
    const bridge = section('b', 2, {
      key: [{ at: ZERO, tonic: 'C', mode: 'minor' }],
      chords: [
        { at: ZERO, dur: quarter(4), chord: 'Cm' },
        { at: quarter(6), dur: quarter(8), chord: 'G' },
      ],
    });
    const map = mapOf(piece([section('v', 1), bridge, section('r', 1)]));
    const at = (time: number) => momentAt(map, quarter(time));
    expect([0, 4, 12].map((time) => at(time).key?.tonic)).toEqual(['A', 'C', 'A']);
    // A chord is cut where its section ends, and between two of them there is none.
    expect([3, 4, 7, 8, 10, 11, 12].map((time) => at(time).chord?.chord ?? '-')).toEqual([
      ...['-', 'Cm', 'Cm', '-', 'G', 'G', '-'],
    ]);
    expect([0, 5, 13].map((time) => at(time).bar)).toEqual([0, 1, 3]);
  });

  it('swings where it is said, and straightens after it', () => {
    const swung = section('s', 1, { feel: [{ at: ZERO, swing: 66, unit: '1/2' }] });
    const map = mapOf(piece([section('v', 1), swung, section('r', 1)]));
    expect([0, 4, 8].map((time) => momentAt(map, quarter(time)).feel?.swing)).toEqual([50, 66, 50]);
    expect(mapOf(piece([section('v', 1)])).feel).toEqual([]);
  });
});

describe('bars of a section', () => {
  const mixed = [
    { bar: 0, beats: 4, unit: 4 },
    { bar: 1, beats: 3, unit: 8 },
  ];
  it('are as long as they are from wherever one counts', () => {
    expect(barsFrom(mixed, ZERO, 1)).toBe(quarter(4));
    expect(barsFrom(mixed, quarter(4), 2)).toBe(quarter(3));
    expect(barsFrom(mixed, quarter(1), 1)).toBe(quarter(4));
    expect([ZERO, quarter(2), quarter(4), quarter(19, 4)].map((at) => inBars(mixed, at))).toEqual([0, 0.5, 1, 1.5]);
  });
});

describe('any form', () => {
  it('is laid out without gaps, its bars counted through, its lanes in order', () => {
    fc.assert(
      fc.property(formArbitrary, (of) => {
        const map = mapOf(of);
        expect(mapOf(of)).toBe(map);
        let [at, bar] = [ZERO, 0];
        for (const pass of map.passes) {
          expect([pass.from, pass.firstBar]).toEqual([at, bar]);
          expect(cmp(pass.to, pass.from)).toBeGreaterThan(0);
          [at, bar] = [pass.to, bar + pass.bars];
        }
        expect([map.end, map.bars]).toEqual([at, bar]);
        if (map.passes.length > 0) expect(barStart(map.meters, map.bars)).toBe(map.end);
        for (const lane of [map.tempo, map.keys, map.feel] as const)
          lane.slice(1).forEach((step, i) => expect(toNumber(sub(step.at, lane[i]?.at ?? ZERO))).toBeGreaterThan(0));
        for (const span of [...map.chords, ...map.bass]) expect(cmp(span.to, span.at)).toBeGreaterThan(0);
      }),
      { numRuns: 150 },
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import {
  checkPiece,
  checkRiff,
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makePlace,
  makeRiff,
  readPiece,
  type FormEntry,
  type Piece,
  type Riff,
  type Section,
  type Use,
} from '../score';
import { add, barOf, bpmAt, cmp, quarter, secondsAt, toNumber, ZERO } from '../time';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { changeBetween, isPass, mapOf, momentAt, resolve, variantOn } from './index';
import { formArbitrary } from './test-support/arbitrary';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const meters = [{ bar: 0, beats: 4, unit: 4 }];
const riffOf = (id: string, name: string, calls: string, bars: number, extra: Partial<Riff> = {}): Riff => {
  const read = readCalls(calls, { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  expect(read.faults).toEqual([]);
  const events = calledToEvents(read, new Set()).map((event) => ({
    ...event,
    id: `${id}${event.id}`,
    notes: event.notes.map((note) => ({ ...note, id: `${id}${note.id}` })),
  }));
  return makeRiff(id, name, { meters, bars, events, ...read.frame, ...extra });
};
const a = riffOf('a', 'A', 'quarters on 5 3 3 5 3', 1);
const ending: Riff = {
  ...a,
  events: a.events.map((event, i) =>
    i === 3
      ? { ...event, notes: [makeNote('endn', 52, 'instructor', { place: makePlace(5, 7, 'instructor') })] }
      : event,
  ),
};
const withEnding: Riff = { ...a, variants: [{ id: 'x1', name: 'ending', change: changeBetween(a, ending.events) }] };
const pieceWith = (riffs: readonly Riff[], sections: readonly Section[], form: readonly FormEntry[] = []): Piece =>
  makePiece('p', 'P', {
    context: { tempo: [{ at: ZERO, bpm: 120 }], key: [{ at: ZERO, tonic: 'C', mode: 'major' }] },
    parts: [makePart('g', 'Guitar', setup, { riffs })],
    sections,
    form,
  });
const section = (id: string, bars: number, uses: readonly Use[], extra: Partial<Section> = {}): Section => ({
  id,
  name: id,
  kind: 'other',
  bars,
  rows: [{ part: 'g', uses }],
  ...extra,
});
const line = (piece: Piece) => {
  expect(checkPiece(piece).ok).toBe(true);
  const made = resolve(piece, 'g');
  if (!made) throw new Error('no line');
  return made;
};
/** Frets bar by bar, what lies on string 5. */
const frets = (piece: Piece): string =>
  line(piece)
    .riff.events.map((event) => `${event.notes.map((note) => note.place?.fret ?? '?').join('+')}`)
    .join(' ');

describe('unfolding', () => {
  it('lays plays, endings, rests and repeats of sections end to end with stable bar numbers', () => {
    const use: Use = { id: 'u1', riff: 'a', plays: 3, endings: [{ passes: ['last'], variant: 'x1' }] };
    const piece = pieceWith(
      [withEnding],
      [section('v', 4, [{ id: 'u0', spot: { kind: 'rest', bars: 1 }, plays: 1 }, use])],
      [{ id: 'f', section: 'v', plays: 2 }],
    );
    const { riff, map, spans, origins } = line(piece);
    expect(map.bars).toBe(8);
    expect(riff.events.map((event) => barOf(meters, event.at).bar)).toEqual(
      [1, 2, 3, 5, 6, 7].flatMap((bar) => [bar, bar, bar, bar]),
    );
    expect(frets(piece)).toBe(Array(2).fill('3 3 5 3 3 3 5 3 3 3 5 7').join(' '));
    const last = riff.events.at(-1);
    expect(origins.get(last?.id ?? '')).toMatchObject({ event: a.events[3]?.id });
    expect(spans[origins.get(last?.id ?? '')?.span ?? -1]).toMatchObject({
      play: 3,
      variant: 'x1',
      pass: { pass: 2, passes: 2, firstBar: 4 },
    });
  });

  it('counts endings by the section where the riff is played once in it, and takes what the route says first', () => {
    const use: Use = { id: 'u1', riff: 'a', plays: 1, endings: [{ passes: [2, 'last'], variant: 'x1' }] };
    const entry: FormEntry = { id: 'f', section: 'v', plays: 4 };
    const at = (pass: number, given = entry) => variantOn(use, given, { play: 1, plays: 1, pass, passes: 4 });
    expect([1, 2, 3, 4].map((pass) => at(pass))).toEqual([undefined, 'x1', undefined, 'x1']);
    const silent: FormEntry = {
      ...entry,
      differences: [{ passes: [4], use: 'u1', leaveOut: true }],
      joints: [{ use: 'u1', variant: 'x9' }],
    };
    expect([1, 2, 3, 4].map((pass) => at(pass, silent))).toEqual(['x9', 'x1', 'x9', null]);
    expect([1, 2, 3, 4].map((pass) => [isPass(['odd'], pass, 4), isPass(['even'], pass, 4)])).toEqual([
      [true, false],
      [false, true],
      [true, false],
      [false, true],
    ]);
  });

  it('plays some bars of a riff, moved uses, and silent ones; open strings lost are counted', () => {
    const two = riffOf('b', 'B', 'quarters on 5 3 3 5 3 | on 5 open open 2 3', 2);
    const at = (use: Partial<Use>): string =>
      frets(pieceWith([two], [section('v', 2, [{ id: 'u', riff: 'b', plays: 1, ...use }])]));
    expect(at({ bars: { from: 1, count: 1 } })).toBe('0 0 2 3');
    expect(at({ bars: { from: 1, count: 1 }, plays: 2 })).toBe('0 0 2 3 0 0 2 3');
    expect(at({ move: { by: 'frets', steps: 2 } })).toBe('5 5 7 5 2 2 4 5');
    expect(at({ move: { by: 'chord', chord: 'F' } })).toBe('8 8 10 8 5 5 7 8');
    expect(at({ leaveOut: true })).toBe('');
    const moved = line(
      pieceWith([two], [section('v', 2, [{ id: 'u', riff: 'b', plays: 1, move: { by: 'frets', steps: 2 } }])]),
    );
    expect(moved.spans[0]?.lostOpen).toBe(2);
    const high = line(
      pieceWith([two], [section('v', 2, [{ id: 'u', riff: 'b', plays: 1, move: { by: 'semitones', steps: 12 } }])]),
    );
    expect(high.riff.events.every((event) => event.notes.every((note) => note.place !== null))).toBe(true);
    const off = line(
      pieceWith([two], [section('v', 2, [{ id: 'u', riff: 'b', plays: 1, move: { by: 'frets', steps: -4 } }])]),
    );
    expect(off.findings.map((one) => one.rule)).toEqual(['not-moved']);
  });

  it('a pickup is played instead of what the bars before it end with', () => {
    const up: Riff = { ...riffOf('u', 'Up', 'quarters on 5 3 3 5 3', 1), pickup: quarter(1) };
    const pickup: Riff = {
      ...up,
      events: [
        makeEvent('pu', quarter(-1), quarter(1), [
          makeNote('pn', 45, 'instructor', { place: makePlace(5, 0, 'instructor') }),
        ]),
        ...up.events,
      ],
    };
    const piece = pieceWith([pickup], [section('v', 2, [{ id: 'u', riff: 'u', plays: 2 }])]);
    expect(frets(piece)).toBe('0 3 3 5 0 3 3 5 3');
    expect(line(piece).riff.pickup).toBe('1');
  });

  it('contexts change with the section: key, tempo, meter, feel, chords; what a section says nothing of is the piece’s', () => {
    const waltz = section('w', 2, [], {
      rows: [],
      context: {
        meters: [{ bar: 0, beats: 3, unit: 4 }],
        tempo: [{ at: ZERO, bpm: 90 }],
        key: [{ at: ZERO, tonic: 'A', mode: 'minor' }],
        feel: [{ at: ZERO, swing: 66, unit: '1/2' }],
        chords: [{ at: ZERO, dur: quarter(3), chord: 'Am' }],
      },
    });
    const piece = pieceWith(
      [withEnding],
      [section('v', 1, [{ id: 'u', riff: 'a', plays: 1 }]), waltz],
      [
        { id: 'f1', section: 'v', plays: 1 },
        { id: 'f2', section: 'w', plays: 1 },
        { id: 'f3', section: 'v', plays: 1 },
      ],
    );
    const map = mapOf(piece);
    expect(map.meters).toEqual([
      { bar: 0, beats: 4, unit: 4 },
      { bar: 1, beats: 3, unit: 4 },
      { bar: 3, beats: 4, unit: 4 },
    ]);
    expect([0, 4, 10].map((at) => bpmAt(map.tempo, quarter(at)))).toEqual([120, 90, 120]);
    expect(momentAt(map, quarter(5))).toMatchObject({
      key: { tonic: 'A' },
      chord: { chord: 'Am' },
      bar: 1,
      feel: { swing: 66 },
    });
    expect(momentAt(map, quarter(8))).toMatchObject({ chord: null });
    expect(momentAt(map, quarter(10))).toMatchObject({ key: { tonic: 'C' }, chord: null, bar: 3, feel: { swing: 50 } });
    expect(map.end).toBe('14');
  });

  it('stops early, slows and holds on the last pass only', () => {
    const uses: Use[] = [{ id: 'u', riff: 'a', plays: 4 }];
    const played = (stop: FormEntry['stop']) =>
      mapOf(
        pieceWith(
          [withEnding],
          [section('v', 4, uses)],
          [{ id: 'f', section: 'v', plays: 2, ...(stop ? { stop } : {}) }],
        ),
      );
    expect(played({ kind: 'early', bars: 1 }).bars).toBe(7);
    const plain = toNumber(played(undefined).end);
    const slowed = played({ kind: 'slowing', bars: 2, to: 50 });
    expect(toNumber(slowed.end)).toBe(plain);
    expect(bpmAt(slowed.tempo, quarter(24))).toBe(120);
    // From 120 evenly to 60 over eight quarters takes 8 ln 2 seconds instead of four.
    expect(secondsAt(slowed.tempo, slowed.end) - secondsAt(slowed.tempo, quarter(24))).toBeCloseTo(8 * Math.log(2), 1);
    const held = played({ kind: 'held', bars: 0 });
    expect(bpmAt(held.tempo, quarter(31))).toBe(48);
    expect(bpmAt(held.tempo, quarter(30))).toBe(120);
  });

  it('of generated forms: every line is a riff that holds, every event leads back to its own, bars are counted through', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        expect(must(readPiece(JSON.parse(JSON.stringify(piece))))).toEqual(piece);
        const map = mapOf(piece);
        expect(map.passes.reduce((bars, pass) => bars + pass.bars, 0)).toBe(map.bars);
        for (const [i, pass] of map.passes.entries()) expect(pass.from).toBe(map.passes[i - 1]?.to ?? ZERO);
        for (const part of piece.parts) {
          const made = resolve(piece, part.id);
          if (!made) throw new Error('no line');
          const checked = checkRiff(
            { ...made.riff, pickup: ZERO, events: made.riff.events.filter((event) => cmp(event.at, ZERO) >= 0) },
            part.setup,
          );
          expect(checked.ok ? '' : checked.error.words).toBe('');
          expect(made.origins.size).toBe(made.riff.events.length);
          for (const event of made.riff.events) {
            const origin = made.origins.get(event.id);
            const span = made.spans[origin?.span ?? -1];
            const source = [
              ...(span?.riff?.events ?? []),
              ...(span?.riff?.variants ?? []).flatMap((one) => [...one.change.replaced, ...one.change.inserted]),
            ];
            expect(source.some((one) => one.id === origin?.event)).toBe(true);
            expect(cmp(event.at, span?.pass.to ?? ZERO)).toBeLessThan(0);
          }
        }
      }),
      { numRuns: 150 },
    );
  });

  it('a change in one riff changes nothing of another part, nor of spans that play other riffs', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        const [first, second] = piece.parts;
        const [riff] = first?.riffs ?? [];
        if (!first || !second || !riff?.events[0]) return;
        const changed: Riff = {
          ...riff,
          events: riff.events.map((event, i) => (i === 0 ? { ...event, remark: 'changed' } : event)),
        };
        const after: Piece = {
          ...piece,
          parts: piece.parts.map((part) =>
            part === first ? { ...part, riffs: part.riffs.map((one) => (one === riff ? changed : one)) } : part,
          ),
        };
        expect(resolve(after, second.id)).toBe(resolve(piece, second.id));
        const [was, now] = [resolve(piece, first.id), resolve(after, first.id)];
        const others = (one: typeof was) =>
          one?.riff.events.filter((event) => one.spans[one.origins.get(event.id)?.span ?? -1]?.riff?.id !== riff.id);
        expect(others(now)).toEqual(others(was));
      }),
      { numRuns: 60 },
    );
  });
});

describe('time of a form', () => {
  it('counts a section nobody plays in yet as the piece is counted, unless it says otherwise', () => {
    const waltz = { ...a, meters: [{ bar: 0, beats: 3, unit: 4 }], events: a.events.slice(0, 3) };
    const use: Use = { id: 'u', riff: 'a', plays: 1 };
    const bars = (piece: Piece) => mapOf(piece).passes.map(({ from, to }) => toNumber(to) - toNumber(from));
    expect(bars(pieceWith([waltz], [section('v', 1, [use]), section('w', 2, [])]))).toEqual([3, 6]);
    expect(mapOf(pieceWith([waltz], [section('v', 1, [use]), section('w', 2, [])])).meters).toHaveLength(1);
    const said = section('w', 2, [], { context: { meters: [{ bar: 0, beats: 5, unit: 4 }] } });
    expect(bars(pieceWith([waltz], [section('v', 1, [use]), said]))).toEqual([3, 10]);
    expect(bars(pieceWith([], [section('w', 2, [])]))).toEqual([8]);
  });

  it('a rest is as long as the bars it stands over', () => {
    const uses: Use[] = [
      { id: 'r', spot: { kind: 'rest', bars: 1 }, plays: 1 },
      { id: 'u', riff: 'a', plays: 1 },
    ];
    const piece = pieceWith(
      [a],
      [
        section('v', 3, uses, {
          context: {
            meters: [
              { bar: 0, beats: 3, unit: 4 },
              { bar: 1, beats: 4, unit: 4 },
            ],
          },
        }),
      ],
    );
    expect(line(piece).riff.events[0]?.at).toBe(add(ZERO, quarter(3)));
  });
});

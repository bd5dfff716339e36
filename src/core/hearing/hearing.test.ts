import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { checkRiff, makeRiff, type Riff, joinOf } from '../score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { secondsAtNumber, ZERO } from '../time';
import {
  BarMap,
  clipDocumentSchema,
  clipKind,
  clipTime,
  differences,
  emptyClip,
  heardEvents,
  marksOfBeats,
  marksOfForm,
  marksOfRiff,
  otherLevel,
  type Offer,
} from './index';

const FOUR: Riff['meters'] = [{ bar: 0, beats: 4, unit: 4 }];
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const offer = (at: number, midi: number, extra: Partial<Offer> = {}): Offer => ({
  at,
  until: at + 0.2,
  midi,
  cents: 0,
  certainty: 0.9,
  begins: 'struck',
  manner: null,
  by: 'program',
  basis: 'attack',
  ...extra,
});
/** A hundred and twenty a minute, the first bar at one second. */
const EVEN = new BarMap(FOUR, [
  { bar: 0, at: 1 },
  { bar: 1, at: 3 },
]);

describe('bars on a clip', () => {
  it('are found again from the times they give, wherever the lines are laid', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 1.2, max: 4, noNaN: true }), { minLength: 1, maxLength: 6 }),
        fc.double({ min: -3, max: 40, noNaN: true }),
        (bars, at) => {
          let t = 0.5;
          const map = new BarMap(FOUR, [{ bar: 0, at: t }, ...bars.map((b, i) => ({ bar: i + 1, at: (t += b) }))]);
          expect(map.seconds(map.quarters(at))).toBeCloseTo(at, 6);
        },
      ),
    );
  });

  it('give a tempo by which what is played falls on the recording, and the bar a time lies in', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 1.2, max: 4, noNaN: true }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: -1, max: 3 }),
        fc.double({ min: 0, max: 30, noNaN: true }),
        (bars, first, q) => {
          let t = 0.5;
          const map = new BarMap(FOUR, [
            { bar: first, at: t },
            ...bars.map((b, i) => ({ bar: first + i + 1, at: (t += b) })),
          ]);
          const tempo = map.tempo();
          expect(secondsAtNumber(tempo, q)).toBeCloseTo(map.seconds(q) - map.seconds(0), 6);
        },
      ),
    );
    expect(EVEN.barAt(3.5)).toEqual({ bar: 1, from: 3, to: 5 });
    expect(EVEN.barAt(0.5)).toMatchObject({ bar: -1 });
    const [only] = new BarMap(FOUR, [{ bar: 0, at: 2 }], 90).tempo();
    expect(only?.at).toBe(ZERO);
    expect(only?.bpm).toBeCloseTo(90, 9);
  });

  it('follow a drifting tempo, go on evenly beyond, and say how fast each is', () => {
    const map = new BarMap(FOUR, [
      { bar: 0, at: 0 },
      { bar: 1, at: 2 },
      { bar: 3, at: 7 },
    ]);
    expect(
      [map.quarters(1), map.quarters(2), map.quarters(4.5), map.quarters(9.5)].map((q) => Math.round(q * 100) / 100),
    ).toEqual([2, 4, 8, 16]);
    expect(map.tempi().map((one) => one.bpm)).toEqual([120, 96]);
    expect(map.lines(1.5, 7.5)).toEqual([
      { bar: 1, at: 2 },
      { bar: 2, at: 4.5 },
      { bar: 3, at: 7 },
    ]);
  });

  it('need two lines, or one and a tempo', () => {
    expect(new BarMap(FOUR, []).known).toBe(false);
    expect(new BarMap(FOUR, [{ bar: 0, at: 1 }]).known).toBe(false);
    expect(new BarMap(FOUR, [{ bar: 2, at: 1 }], 60).quarters(3)).toBeCloseTo(10);
    expect(() => new BarMap(FOUR, []).quarters(1)).toThrow(RangeError);
  });

  it('come from beats, at the level that was settled', () => {
    const beats = Array.from({ length: 13 }, (_, i) => 0.5 + i * 0.5);
    expect(marksOfBeats(beats, 1.1, 4)).toEqual([
      { bar: 0, at: 1 },
      { bar: 1, at: 3 },
      { bar: 2, at: 5 },
    ]);
    expect(otherLevel([0, 1, 2], 2)).toEqual([0, 0.5, 1, 1.5, 2]);
    expect(otherLevel([0, 1, 2], 0.5)).toEqual([0, 2]);
    expect(marksOfBeats([1], 0, 4)).toEqual([]);
  });
});

describe('heard notes into a part', () => {
  it('are drawn to the grid, know their pitch and where they were heard, and leave places open', () => {
    const { events, moved } = heardEvents(
      [
        offer(1.02, 40),
        offer(1.51, 43),
        offer(1.74, 45, { certainty: 0.6 }),
        offer(2.01, 47, { certainty: 0.3, by: 'ear', basis: 'ring' }),
      ],
      EVEN,
      'auto',
    );
    expect(events.map((event) => [event.at, event.notes[0]?.pitch.midi])).toEqual([
      ['0', 40],
      ['1', 43],
      ['3/2', 45],
      ['2', 47],
    ]);
    expect(events.map((event) => event.notes[0]?.certainty)).toEqual(['sure', 'sure', 'likely', 'sure']);
    expect(events[0]?.notes[0]).toMatchObject({
      place: null,
      pitch: { by: 'heard' },
      evidence: { basis: 'attack', at: 1.02, remark: 'heard at 0:01.0' },
    });
    expect(events[3]?.notes[0]).toMatchObject({
      pitch: { by: 'instructor' },
      evidence: { basis: 'ring', remark: 'heard at 0:02.0 by ear' },
    });
    expect(moved.map(Math.abs).every((m) => m <= 25)).toBe(true);
  });

  it('make a riff that holds, whatever was heard', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            at: fc.double({ min: 1, max: 20, noNaN: true }),
            midi: fc.integer({ min: 40, max: 80 }),
            long: fc.double({ min: 0.02, max: 3, noNaN: true }),
            kind: fc.integer({ min: 0, max: 4 }),
          }),
          { minLength: 1, maxLength: 40 },
        ),
        (list) => {
          const manners: Offer['manner'][] = [
            null,
            { kind: 'bend', cents: 150, released: false },
            { kind: 'vibrato', width: 40, hz: 5 },
            { kind: 'slide', from: 45 },
            null,
          ];
          const { events } = heardEvents(
            list.map((one) =>
              offer(one.at, one.midi, {
                until: one.at + one.long,
                manner: manners[one.kind] ?? null,
                begins: one.kind === 4 ? 'joined' : 'struck',
              }),
            ),
            EVEN,
            'auto',
          );
          const checked = checkRiff(makeRiff('r', 'R', { bars: 12, meters: FOUR, events }), setup);
          expect(checked.ok ? '' : `${checked.error.rule} ${checked.error.words}`).toBe('');
          for (const event of events)
            expect(new Set(event.notes.map((note) => note.pitch.midi)).size).toBe(event.notes.length);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('join a note that was not struck to the one before', () => {
    const { events } = heardEvents(
      [offer(1, 45, { until: 1.25 }), offer(1.25, 47, { begins: 'joined' }), offer(1.5, 45, { begins: 'joined' })],
      EVEN,
      'eighths',
    );
    expect(events.map((event) => joinOf(event))).toEqual(['hammer', 'pull', null]);
  });
});

describe('heard and written', () => {
  const called = readCalls('eighths on 6 open 3 on 5 open 2', {
    setup,
    meters: FOUR,
    at: ZERO,
    length: FIRST_LENGTH,
    string: null,
  });
  const riff = makeRiff('r', 'R', { bars: 1, meters: FOUR, events: calledToEvents(called, new Set()) });

  it('agree where they agree', () => {
    expect(
      differences(
        riff,
        EVEN,
        [
          { at: 1, midi: 40 },
          { at: 1.25, midi: 43 },
          { at: 1.51, midi: 45 },
          { at: 1.74, midi: 47 },
        ],
        0.5,
        3,
      ),
    ).toEqual([]);
  });

  it('differ by pitch, by time, by what is missing and by what is more', () => {
    const found = differences(
      riff,
      EVEN,
      [
        { at: 1, midi: 41 },
        { at: 1.33, midi: 43 },
        { at: 1.5, midi: 45 },
        { at: 2.5, midi: 52 },
      ],
      0.5,
      3,
    );
    expect(
      found.map((difference) => [difference.kind, difference.written, difference.hearing, difference.late]),
    ).toEqual([
      ['pitch', 40, 41, 0],
      ['time', 43, 43, 80],
      ['missing', 47, null, 0],
      ['extra', null, 52, 0],
    ]);
    expect(differences(riff, EVEN, [], 5, 9)).toEqual([]);
  });
});

describe('clips', () => {
  const bytes = (text: string): Uint8Array => Uint8Array.from(text.padEnd(16, '\0'), (letter) => letter.charCodeAt(0));

  it('are known by their first bytes, not by their name', () => {
    expect(
      ['RIFF    WAVE', 'fLaC', 'OggS', '    ftypM4A ', 'ID3', '\xff\xfb'].map((text) => clipKind(bytes(text))),
    ).toEqual(['wav', 'flac', 'ogg', 'm4a', 'mp3', 'mp3']);
    expect(['MZ', '%PDF-1.7', 'RIFF    AVI ', ''].map((text) => clipKind(bytes(text)))).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(clipKind(new Uint8Array(0))).toBeNull();
  });

  it('refuse bars that go back', () => {
    expect(clipDocumentSchema.safeParse(emptyClip('Take one')).success).toBe(true);
    expect(
      clipDocumentSchema.safeParse({
        ...emptyClip('x'),
        marks: [
          { bar: 1, at: 2 },
          { bar: 2, at: 1 },
        ],
      }).success,
    ).toBe(false);
    expect(clipDocumentSchema.safeParse({ ...emptyClip('x'), trim: { from: 3, to: 2 } }).success).toBe(false);
    expect([clipTime(0), clipTime(12.46), clipTime(75)]).toEqual(['0:00.0', '0:12.4', '1:15.0']);
  });
});

describe('a recording of the whole form', () => {
  const meters = [
    { bar: 0, beats: 4, unit: 4 },
    { bar: 4, beats: 3, unit: 4 },
  ];
  // 120 to the minute: bars of 2 s, then of 1.5 s.
  const marks = [
    { bar: 0, at: 1 },
    { bar: 4, at: 9 },
    { bar: 8, at: 15 },
  ];
  it('serves a riff wherever the form plays it: its bar lines are the form’s', () => {
    expect(marksOfRiff(marks, { meters, first: 2, bars: 2 }, null)).toEqual([
      { bar: 0, at: 5 },
      { bar: 1, at: 7 },
      { bar: 2, at: 9 },
    ]);
    expect(marksOfRiff(marks, { meters, first: 5, bars: 1 }, null)).toEqual([
      { bar: 0, at: 10.5 },
      { bar: 1, at: 12 },
    ]);
    expect(marksOfRiff([], { meters, first: 0, bars: 1 }, null)).toEqual([]);
  });
  it('takes a line moved in a riff as the form’s, and lets one that would stand out of order go', () => {
    const where = { meters, first: 2, bars: 2 };
    const shown = marksOfRiff(marks, where, null);
    const moved = shown.map((one) => (one.bar === 1 ? { ...one, at: 7.2 } : one));
    expect(marksOfForm(marks, shown, moved, where)).toEqual([marks[0], { bar: 3, at: 7.2 }, marks[1], marks[2]]);
    expect(marksOfForm(marks, shown, shown, where)).toEqual(marks);
    const far = shown.map((one) => (one.bar === 2 ? { ...one, at: 16 } : one));
    expect(marksOfForm(marks, shown, far, where)).toEqual([marks[0], { bar: 4, at: 16 }]);
  });
});

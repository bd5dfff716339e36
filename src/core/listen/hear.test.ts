import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { renderTake, seeded, type PlayedNote } from '../synth';
import {
  banded,
  beatsOf,
  heardChannel,
  heardLine,
  heardSets,
  listenTo,
  onsetsIn,
  overviewOf,
  pictureOf,
  forPictures,
  referenceOf,
  ROWS_PER_SEMITONE,
  stretched,
} from './index';
import { hearTone } from './test-support/tone';

const RATE = 44_100;
const OPEN = [40, 45, 50, 55, 59, 64];
const LINE = { low: 40, high: 86, reference: 0 };
const note = (at: number, end: number, midi: number, extra: Partial<PlayedNote> = {}): PlayedNote => ({
  event: String(at),
  string: 1,
  at,
  end,
  midi,
  from: 0,
  moves: [],
  strength: 0.8,
  struck: true,
  sustain: 1,
  ...extra,
});
const RIFF = [40, 43, 45, 40, 52, 50, 47, 45, 43, 40].map((m, i) => note(0.3 + i * 0.25, 0.3 + i * 0.25 + 0.24, m));
const tone = (hz: number, seconds: number): Float32Array =>
  Float32Array.from({ length: seconds * RATE }, (_, i) =>
    [1, 2, 3, 4].reduce((s, n) => s + (0.3 / n) * Math.sin((2 * Math.PI * hz * n * i) / RATE), 0),
  );

/** Seconds by which the 15 ms of a stroke stand away from where they belong, by best correlation. */
function displaced(samples: Float32Array, one: Float32Array, from: number, to: number): number {
  const [a, b, n] = [Math.round((from - 0.001) * RATE), Math.round((to - 0.001) * RATE), Math.round(0.015 * RATE)];
  let best = 0;
  let top = -1;
  for (let lag = -900; lag <= 900; lag += 4) {
    let [xy, xx, yy] = [0, 1e-9, 1e-9];
    for (let i = 0; i < n; i++) {
      const [u, v] = [samples[a + i] ?? 0, one[b + lag + i] ?? 0];
      [xy, xx, yy] = [xy + u * v, xx + u * u, yy + v * v];
    }
    if (xy / Math.sqrt(xx * yy) > top) [top, best] = [xy / Math.sqrt(xx * yy), lag];
  }
  return best / RATE;
}

describe('a single line', () => {
  it.each([
    ['clean', {}],
    ['driven', { drive: 4 }],
    ['in a room, with hum and hiss', { room: 0.35, hum: 0.004, hiss: 0.003 }],
  ])('is heard note by note, in tune and in time: %s', (_, voice) => {
    const { notes } = heardLine(renderTake(RIFF, { ...voice, seconds: 3.4 }), RATE, LINE);
    expect(notes.map((note) => note.midi)).toEqual(RIFF.map((note) => note.midi));
    notes.forEach((note, i) => {
      expect(Math.abs(note.at - (RIFF[i]?.at ?? 0))).toBeLessThan(0.03);
      expect(Math.abs(note.cents)).toBeLessThan(15);
      expect(note.certainty).toBeGreaterThan(0.5);
    });
  });

  it('is heard in its own tuning', () => {
    const { notes } = heardLine(renderTake(RIFF, { seconds: 3.4, cents: -38 }), RATE, { ...LINE, reference: -38 });
    expect(notes.map((note) => note.midi)).toEqual(RIFF.map((note) => note.midi));
  });

  it('tells a bend, a vibrato and a slide', () => {
    const shaken = Array.from({ length: 16 }, (_, i) => ({ at: 0.15 + i * 0.09, by: i % 2 ? -0.3 : 0.3, over: 0.09 }));
    const { notes } = heardLine(
      renderTake(
        [
          note(0.3, 1.2, 57, { moves: [{ at: 0.2, by: 2, over: 0.2 }] }),
          note(1.4, 3.1, 64, { moves: shaken }),
          note(3.3, 3.8, 55),
          note(3.8, 4.4, 60, { struck: false, from: -5, moves: [{ at: 0, by: 0, over: 0.09 }] }),
          note(4.6, 4.9, 50),
          note(4.9, 5.3, 52, { struck: false }),
        ],
        { seconds: 5.8 },
      ),
      RATE,
      LINE,
    );
    const near = (at: number) => notes.find((note) => Math.abs(note.at - at) < 0.09);
    expect(near(0.3)?.manner).toMatchObject({ kind: 'bend', cents: 200 });
    expect(near(0.3)?.midi).toBe(57);
    expect(near(1.4)?.manner?.kind).toBe('vibrato');
    expect(near(3.8)?.midi).toBe(60);
    expect([near(4.6)?.midi, near(4.6)?.begins, near(4.9)?.midi]).toEqual([50, 'struck', 52]);
  });

  it.each([
    ['clean', {}],
    ['near the bridge, in a room', { point: 0.06, room: 0.3 }],
    ['driven', { drive: 4 }],
  ])('tells what is hammered on or pulled off from what is struck: %s', (_, voice) => {
    const begins = [true, true, false, true, false, false, true, true, false];
    const line = [45, 47, 48, 52, 50, 48, 50, 50, 53].map((m, i) =>
      note(0.3 + i * 0.28, 0.58 + i * 0.28, m, { struck: begins[i] ?? true }),
    );
    const { notes } = heardLine(renderTake(line, { ...voice, seconds: 3.4 }), RATE, LINE);
    expect(notes.map((note) => note.midi)).toEqual(line.map((note) => note.midi));
    expect(notes.map((note) => note.begins === 'struck')).toEqual(begins);
  });

  it('takes for struck what begins after silence or out of reach, however soft', () => {
    const line = [note(0.3, 0.5, 45), note(1.1, 1.4, 47, { struck: false }), note(1.4, 1.7, 57, { struck: false })];
    const take = renderTake(line, { seconds: 2 });
    // Once with the strokes it finds itself, once as if none could be told.
    for (const options of [LINE, { ...LINE, strikes: [] }])
      expect(heardLine(take, RATE, options).notes.map((note) => note.begins)).toEqual(['struck', 'struck', 'struck']);
  });

  it.each([50, 60])('is not heard in mains hum of %i Hz, and is heard over it', (hz) => {
    const hum = Float32Array.from({ length: 6 * RATE }, (_, i) =>
      [1, 2, 3].reduce((s, n) => s + (0.02 / n) * Math.sin((2 * Math.PI * hz * n * i) / RATE), 0),
    );
    expect(heardLine(hum, RATE, { ...LINE, low: 28 }).notes).toEqual([]);
    const played = renderTake(RIFF, { seconds: 6 }).map((x, i) => x + 0.1 * (hum[i] ?? 0));
    expect(heardLine(played, RATE, { ...LINE, low: 28 }).notes.map((note) => note.midi)).toEqual(
      RIFF.map((note) => note.midi),
    );
  });

  it('is not heard in silence, hiss or clicks', () => {
    const random = seeded(3);
    expect(heardLine(new Float32Array(RATE), RATE, LINE).notes).toEqual([]);
    expect(
      heardLine(
        Float32Array.from({ length: 2 * RATE }, () => 0.2 * random()),
        RATE,
        LINE,
      ).notes,
    ).toEqual([]);
    const clicks = new Float32Array(2 * RATE);
    for (let i = 1; i < 8; i++) clicks[i * 11_000] = 0.9;
    expect(heardLine(clicks, RATE, LINE).notes).toEqual([]);
  });

  it.each([8_000, 22_050, 96_000, 192_000])('is heard at %i samples a second', (rate) => {
    const { notes } = heardLine(renderTake(RIFF.slice(0, 5), { seconds: 1.9, rate }), rate, LINE);
    expect(notes.map((note) => note.midi)).toEqual(RIFF.slice(0, 5).map((note) => note.midi));
  });
});

describe('reference and beats', () => {
  it.each([-45, -17, 0, 22, 49])('a recording %i cents off says so', (cents) => {
    const found = referenceOf(renderTake(RIFF, { seconds: 3.4, cents }), RATE);
    // A quarter tone up and one down are one.
    const off = (((found?.cents ?? 99) - cents + 150) % 100) - 50;
    expect(Math.abs(off)).toBeLessThan(2);
    expect(found?.a4Hz).toBeCloseTo(440 * 2 ** ((found?.cents ?? 0) / 1200), 1);
  });

  it('power chords with drums say it too', () => {
    const chords = [40, 43, 45, 38].flatMap((root, i) =>
      [root, root + 7, root + 12].map((midi, index) =>
        note(0.3 + i * 0.6, 0.85 + i * 0.6, midi, { event: String(i), string: 6 - index }),
      ),
    );
    const found = referenceOf(
      renderTake(chords, { seconds: 3, cents: -31, drive: 3, drums: 1, beats: [0.3, 0.9, 1.5, 2.1] }),
      RATE,
    );
    expect(Math.abs((found?.cents ?? 99) + 31)).toBeLessThan(2);
  });

  it('eighths with drums give their tempo, or a multiple that is offered', () => {
    const beats = Array.from({ length: 16 }, (_, i) => 0.4 + i * 0.5);
    const notes = Array.from({ length: 32 }, (_, i) => note(0.4 + i * 0.25, 0.4 + i * 0.25 + 0.2, 40 + ((i * 5) % 12)));
    const found = beatsOf(renderTake(notes, { seconds: 9, drums: 1, beats }), RATE);
    expect(
      [found?.bpm ?? 0, ...(found?.alternatives ?? []).map((a) => a.bpm)].some((b) => Math.abs(b / 120 - 1) < 0.004),
    ).toBe(true);
    expect(beatsOf(renderTake(notes, { seconds: 9, drums: 1, beats }), RATE, 120)?.bpm).toBeCloseTo(120, 0);
  });

  it('hears swing from what lies between the beats', () => {
    const beats = Array.from({ length: 16 }, (_, i) => 0.4 + i * 0.5);
    const notes = beats.flatMap((b, i) => [note(b, b + 0.3, 45 + (i % 5)), note(b + 0.333, b + 0.48, 52)]);
    const found = beatsOf(renderTake(notes, { seconds: 9 }), RATE, 120);
    expect(found?.swing).toBeGreaterThan(1.8);
    expect(found?.swing).toBeLessThan(2.2);
  });

  it('say nothing of silence', () => {
    expect(referenceOf(new Float32Array(RATE), RATE)).toBeNull();
    expect(beatsOf(new Float32Array(RATE), RATE)).toBeNull();
    expect(
      listenTo(new Float32Array(RATE), RATE, { reachable: { open: OPEN, frets: 20, span: 4 }, low: 40, high: 80 }),
    ).toMatchObject({ reference: null, beats: null, strokes: [], notes: [], sets: [] });
  });
});

describe('notes struck together', () => {
  it('are told, the lowest among them, one a string and within the hand', () => {
    const grip = (at: number, midis: readonly number[]): PlayedNote[] =>
      midis.map((m, i) => note(at + i * 0.008, at + 0.9, m, { string: 6 - i }));
    const chords = [
      [40, 47, 52],
      [45, 52, 57, 61],
      [43, 50],
      [48, 52, 55, 60],
    ];
    const samples = renderTake(
      chords.flatMap((list, i) => grip(0.3 + i, list)),
      { seconds: 4.6 },
    );
    const sets = heardSets(samples, RATE, onsetsIn(samples, RATE), { open: OPEN, frets: 22, span: 4 }, 0);
    expect(sets.length).toBe(4);
    sets.forEach((set, i) => {
      const [best] = set.readings;
      const truth = chords[i] ?? [];
      expect(best?.notes[0]?.midi).toBe(truth[0]);
      expect(
        truth.filter((m) => set.readings.some((one) => one.notes.some((place) => place.midi === m))).length,
      ).toBeGreaterThanOrEqual(truth.length - 1);
      for (const one of set.readings) {
        expect(new Set(one.notes.map((place) => place.string)).size).toBe(one.notes.length);
        for (const place of one.notes) expect((OPEN[6 - place.string] ?? 0) + place.fret).toBe(place.midi);
        const frets = one.notes.map((place) => place.fret).filter((f) => f > 0);
        if (frets.length > 0) expect(Math.max(...frets) - Math.min(...frets)).toBeLessThanOrEqual(4);
      }
    });
  });
});

describe('drawing sound out', () => {
  it.each([0.25, 0.5, 0.8, 1.5])('keeps the pitch at %f of the speed', (speed) => {
    for (const hz of [73.4, 110, 440]) {
      const slow = stretched(tone(hz, 2), RATE, speed, []);
      expect(Math.abs(slow.length - (2 * RATE) / speed)).toBeLessThanOrEqual(1);
      const hearing = hearTone(slow, RATE, 0.5 * (2 / speed) - 0.2, 0.5 * (2 / speed) + 0.2);
      expect(Math.abs(hearing - (69 + 12 * Math.log2(hz / 440))) * 100).toBeLessThan(hz > 82 ? 1 : 3);
    }
  });

  it('moves the pitch by what is asked, and no stroke from its place', () => {
    const high = stretched(tone(220, 1.5), RATE, 1, [], 3);
    expect(Math.abs(hearTone(high, RATE, 0.5, 0.9) - 60) * 100).toBeLessThan(1);
    const samples = renderTake(RIFF, { seconds: 3.4 });
    const strokes = onsetsIn(samples, RATE);
    const slow = stretched(samples, RATE, 0.5, strokes);
    for (const one of strokes) expect(Math.abs(displaced(samples, slow, one, 2 * one))).toBeLessThan(0.006);
  });

  it('refuses speeds and pitches beyond its limits', () => {
    expect(() => stretched(tone(220, 0.2), RATE, 0.2, [])).toThrow(RangeError);
    expect(() => stretched(tone(220, 0.2), RATE, 1, [], 13)).toThrow(RangeError);
  });
});

describe('pictures and channels', () => {
  it('puts a tone on its row', () => {
    const rows = 40 * ROWS_PER_SEMITONE;
    const picture = pictureOf(forPictures(tone(220, 1), RATE), { from: 0.2, to: 0.8, columns: 10, low: 40, high: 80 });
    const column = Array.from({ length: rows }, (_, r) => picture[r * 10 + 5] ?? 0);
    expect(Math.floor(column.indexOf(Math.max(...column)) / ROWS_PER_SEMITONE) + 40).toBe(57);
  });

  it('keeps extremes in the overview, whatever its length', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 1, max: 300 }), (length, count) => {
        const samples = Float32Array.from({ length }, (_, i) => Math.sin(i));
        const out = overviewOf(samples, count);
        expect(out.length).toBe(2 * count);
        for (let i = 0; i < count; i++) expect(out[2 * i + 1]).toBeGreaterThanOrEqual(out[2 * i] ?? 0);
      }),
    );
  });

  it('parts middle from sides, and bands', () => {
    const left = tone(110, 0.5);
    const right = tone(110, 0.5).map((v) => -v);
    expect(Math.max(...heardChannel([left, right], 'middle'))).toBeLessThan(1e-6);
    expect(Math.max(...heardChannel([left, right], 'sides').subarray(0, 2000))).toBeGreaterThan(0.2);
    expect(heardChannel([left], 'right')).toEqual(left);
    expect(heardChannel([left, right, left], 'left').length).toBe(left.length);
    const power = (samples: Float32Array): number => samples.reduce((s, v) => s + v * v, 0);
    expect(power(banded(tone(2000, 0.5), RATE, 'bass'))).toBeLessThan(0.05 * power(tone(2000, 0.5)));
    expect(power(banded(tone(110, 0.5), RATE, 'bass'))).toBeGreaterThan(0.6 * power(tone(110, 0.5)));
  });
});

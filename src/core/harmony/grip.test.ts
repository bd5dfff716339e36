import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup, shapesHere, spellTuning, type Setup } from '../instrument';
import { noteName } from '../pitch';
import { bestWay, DEFAULT_OPTIONS, solve } from '../place';
import { quarter, ZERO } from '../time';
import { classesOf, gripTones, parseChord, shiftChord } from './index';
import { shapeShift } from '../instrument';

const on = (instrument: string, tuning?: string): Setup => must(makeSetup({ instrument, tuning })).setup;

const sound = (symbol: string, setup: Setup): string =>
  must(gripTones(symbol, setup))
    .pitches.map((pitch) => noteName(pitch, { octave: true }))
    .join(' ');

const SYMBOLS = [
  ...['Bm', 'B7', 'C7', 'E6', 'Gm', 'C', 'D/F#', 'C/E', 'F', 'Am7', 'Dmaj7'],
  ...['Asus4', 'Dsus2', 'Cadd9', 'Bm7b5', 'Bdim', 'Caug', 'A9'],
];
const SETUPS: readonly (readonly [string, string | undefined])[] = [
  ['guitar-6', undefined],
  ['guitar-6', 'drop-d'],
  ['guitar-6', 'down-1'],
  ['guitar-6', 'D G D G B D'],
  ['guitar-6', 'D A D F# A D'],
  ['guitar-6', 'D A D G A D'],
  ['guitar-6', 'x A2 D3 G3 B3 E4'],
  ['guitar-7', undefined],
  ['guitar-8', undefined],
  ['tenor-4', undefined],
  ['bass-5', undefined],
];

describe('a called chord', () => {
  it.each(SETUPS)('holds what names it, its bass lowest, and a hand can hold it: %s %s', (instrument, tuning) => {
    const setup = on(instrument, tuning);
    for (const symbol of SYMBOLS) {
      const chord = shiftChord(must(parseChord(symbol)), shapeShift(setup), null);
      const found = gripTones(symbol, setup);
      if (!found.ok) {
        // Refused with its name and what to do; five tones on four strings, or a reach no hand has.
        expect(found.error.words).toContain(symbol);
        expect(setup.open.length - setup.absent.length, symbol).toBeLessThanOrEqual(5);
        continue;
      }
      const { pitches, left } = found.value;
      const classes = pitches.map((pitch) => pitch % 12);
      const [root = 0, ...rest] = classesOf(chord);
      const bass = chord.bass ? classesOf({ ...chord, root: chord.bass, bass: null, kind: '5' })[0] : root;
      expect(classes[0], `${symbol} has its bass lowest`).toBe(bass);
      for (const tone of rest) {
        const isFifth = tone === (root + 7) % 12;
        if (!classes.includes(tone))
          expect([symbol, isFifth, left]).toEqual([symbol, true, expect.arrayContaining(['fifth'])]);
      }
      const events = [
        {
          id: 'a',
          at: ZERO,
          dur: quarter(4),
          link: null,
          ring: false,
          notes: pitches.map((pitch) => ({ pitch, lock: null, dur: null })),
        },
      ];
      const asked = {
        setup,
        tempo: [{ at: ZERO, bpm: 80 }],
        meters: [{ bar: 0, beats: 4, unit: 4 }],
        events,
        options: DEFAULT_OPTIONS,
      };
      const solution = solve(asked);
      expect(
        solution.blocked.map((one) => one.words),
        symbol,
      ).toEqual([]);
      expect(bestWay(solution).events).toHaveLength(1);
    }
  });

  it('is the grip that is meant by its name', () => {
    const standard = on('guitar-6');
    expect(sound('Am', standard)).toBe('A2 E3 A3 C4 E4');
    expect(sound('Bm', standard)).toBe('B2 F♯3 B3 D4 F♯4');
    expect(sound('D/F#', standard)).toMatch(/^F♯2 /);
    expect(sound('C/E', standard)).toMatch(/^E2 C3/);
    expect(sound('Gm', on('guitar-6', 'drop-d'))).toMatch(/^G2 D3 G3/);
    expect(sound('C', on('guitar-6', 'D G D G B D'))).toBe('C3 G3 C4 E4 G4');
    expect(sound('D', on('guitar-6', 'D A D F# A D'))).toBe('D2 A2 D3 F♯3 A3 D4');
    expect(sound('C5', standard)).toBe('C3 G3 C4');
    expect(sound('G5', on('guitar-6', 'drop-d'))).toBe('G2 D3 G3');
  });

  it('says what it leaves out', () => {
    expect(must(gripTones('B7', on('bass-4'))).left).toEqual(['fifth']);
  });
});

describe('names in altered tunings', () => {
  it('shapes have names only where strings are changed alike', () => {
    expect(shapesHere(on('guitar-6', 'down-1'))).toEqual({ shift: -1, on: 'all' });
    expect(shapesHere(on('guitar-6', 'drop-d'))).toEqual({ shift: 0, on: 'most' });
    expect(shapesHere(on('guitar-6', 'D G D G B D'))).toBeNull();
    expect(shapesHere(on('guitar-6', 'D A D G A D'))).toBeNull();
  });

  it('a tuning typed with flats comes back with flats, one with sharps with sharps', () => {
    const flats = on('guitar-6', 'Eb Ab Db Gb Bb Eb');
    expect(spellTuning(flats.open, flats.absent, flats.signs)).toBe('E♭ A♭ D♭ G♭ B♭ E♭');
    const sharps = on('guitar-6', 'D# G# C# F# A# D#');
    expect(spellTuning(sharps.open, sharps.absent, sharps.signs)).toBe('D♯ G♯ C♯ F♯ A♯ D♯');
  });
});

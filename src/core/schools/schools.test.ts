import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { FIRST_LENGTH, printCalls, readCalls, calledToEvents } from '../shorthand';
import { ZERO } from '../time';
import {
  CAPO_RANGE,
  countingWords,
  DEFAULT_SCHOOLS,
  fretWordsBy,
  keyLabels,
  schoolsSchema,
  stringCall,
  stringLabel,
  stringLetters,
  stringWordsBy,
  type Schools,
} from './index';

const low = must(makeSetup({ instrument: 'guitar-6', tuning: 'drop-c' })).setup;
const capo = must(makeSetup({ instrument: 'guitar-6', capo: 3 })).setup;
const partial = must(makeSetup({ instrument: 'guitar-6', capo: [{ fret: 2, strings: [5, 4, 3] }] })).setup;
const by = (change: Partial<Schools>): Schools => ({ ...DEFAULT_SCHOOLS, ...change });

describe('schools', () => {
  it('default to the usual, and refuse what is none', () => {
    expect(schoolsSchema.parse({})).toEqual({
      strings: 'numbers-nominal',
      retuned: 'nominal',
      keys: 'both',
      first: 'shape',
      frets: 'capo',
      capoTuning: 'capo-on',
      capoPlace: 'anywhere',
      notes: 'letters',
      picking: 'alternate',
      staff: 'sounding',
      swing: 'mark',
      handed: 'right',
      a4: 440,
    });
    expect(schoolsSchema.safeParse({ a4: 300 }).success).toBe(false);
    expect(schoolsSchema.safeParse({ notes: 'runes' }).success).toBe(false);
    for (const [from, to] of Object.values(CAPO_RANGE)) expect(from < to && to < 1).toBe(true);
  });

  it('name strings', () => {
    expect(stringLabel(low, 6, by({}))).toEqual({ main: '6 E', beside: 'C' });
    expect(stringLabel(low, 6, by({ retuned: 'sounding' }))).toEqual({ main: '6 C', beside: 'E' });
    expect(stringLabel(low, 6, by({ strings: 'sounding' }))).toEqual({ main: 'C', beside: 'E' });
    expect(stringLabel(low, 6, by({ strings: 'numbers' }))).toEqual({ main: '6', beside: 'C' });
    expect(
      ['numbers', 'nominal', 'sounding', 'numbers-nominal'].map((strings) =>
        stringCall(low, 6, by({ strings: strings as Schools['strings'] })),
      ),
    ).toEqual(['string 6', 'the E string', 'the C string', 'string 6 (E)']);
    const standard = must(makeSetup({ instrument: 'guitar-6' })).setup;
    expect(stringLetters(standard, 2, by({ notes: 'german' }))).toEqual({ main: 'H', beside: null });
    expect(stringLetters(standard, 2, by({ notes: 'solfege' })).main).toBe('Si');
    const phrase = (change: Partial<Schools>): string => stringWordsBy(low, 6, by(change));
    expect([
      phrase({}),
      phrase({ retuned: 'sounding' }),
      phrase({ strings: 'numbers' }),
      phrase({ strings: 'nominal' }),
      phrase({ strings: 'nominal', retuned: 'sounding' }),
      phrase({ strings: 'sounding' }),
    ]).toEqual([
      'string 6 (E, sounds C)',
      'string 6 (C, called E)',
      'string 6 (sounds C)',
      'the E string (sounds C)',
      'the C string (called E)',
      'the C string (called E)',
    ]);
  });

  it('name keys by shape and sound, in the order wanted', () => {
    const key = { tonic: 'Eb', mode: 'major' as const };
    expect(keyLabels(key, capo, by({})).words).toBe('C major shape, sounds E♭ major');
    expect(keyLabels(key, capo, by({ first: 'sound' })).words).toBe('E♭ major, in C major shape');
    expect(keyLabels(key, capo, by({ keys: 'shape' }))).toEqual({
      shape: 'C major',
      sound: null,
      words: 'C major shape',
    });
    expect(keyLabels(key, capo, by({ keys: 'sound', notes: 'solfege' })).words).toBe('Mi♭ major');
    expect(keyLabels(key, partial, by({})).words).toBe('E♭ major');
  });

  it('count frets, and say how', () => {
    expect([fretWordsBy(capo, 3, 2, 'capo'), fretWordsBy(capo, 3, 2, 'nut'), fretWordsBy(capo, 3, 0, 'nut')]).toEqual([
      'fret 2',
      'fret 5',
      'open',
    ]);
    expect(countingWords(low, 'nut')).toBeNull();
    expect(countingWords(capo, 'capo')).toBe('counted from the capo');
    expect(countingWords(partial, 'capo')).toContain('on the strings it stops');
    expect(countingWords(capo, 'nut')).toContain('from the nut');
  });
});

describe('calls by school', () => {
  const read = (text: string, setup = capo, schools = by({ frets: 'nut' })) =>
    readCalls(text, {
      setup,
      meters: [{ bar: 0, beats: 4, unit: 4 }],
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
      schools,
    });
  it('read frets from the nut, open by word or at the capo, and refuse what lies behind it', () => {
    expect(read('on 5 open 5 3 on 4 8').events.map((event) => event.notes[0]?.place?.fret)).toEqual([0, 2, 0, 5]);
    expect(read('on 5 2').faults[0]?.words).toBe(
      'Fret 2 of string 5 lies behind the capo at fret 3; frets count from the nut here.',
    );
    expect(
      read('grip x 5 5 5 3 3').events[0]?.notes.map((note) => note.place?.fret) ??
        read('x 5 5 5 3 3').events[0]?.notes.map((note) => note.place?.fret),
    ).toBeDefined();
    expect(read('on 5 4', partial).events[0]?.notes[0]?.place?.fret).toBe(2);
    expect(read('on 6 4', partial).events[0]?.notes[0]?.place?.fret).toBe(4);
  });
  it('echo note names in the naming', () => {
    expect(read('on 5 5', capo, by({ notes: 'solfege' })).tokens.at(-1)?.label).toContain('Fa');
  });
  it('print and read again alike by both schools', () => {
    for (const frets of ['capo', 'nut'] as const) {
      for (const setup of [capo, partial]) {
        const called = read('eighths on 6 open 5 4 on 3 7 5 for quarter on 1 open', setup, by({ frets }));
        const events = calledToEvents(called, new Set());
        const text = printCalls({ events, meters: [{ bar: 0, beats: 4, unit: 4 }], pickup: ZERO }, ZERO, {
          setup,
          frets,
        });
        expect(calledToEvents(read(text, setup, by({ frets })), new Set())).toEqual(events);
      }
    }
  });
});

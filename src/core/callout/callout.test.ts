import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { carryPart } from '../carry';
import { parseChord, gripTones } from '../harmony';
import { makeSetup } from '../instrument';
import { checkPart, makeEvent, makeNote, makePart, makePlace, makeRiff } from '../score';
import { quarter, ZERO } from '../time';
import { DEFAULT_SCHOOLS } from '../schools';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { callEvent, callNote, callRiff } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6', tuning: 'drop-c' }));
const note = makeNote('n', 53, 'instructor', { place: makePlace(4, 5, 'instructor', { finger: 3 }) });
const riff = makeRiff('r', 'Riff', {
  events: [
    makeEvent('a', ZERO, quarter(1), [{ ...note, join: 'hammer' }]),
    makeEvent('b', quarter(1), quarter(1), [makeNote('m', 55, 'instructor', { place: makePlace(4, 7, 'solver') })], {
      letRing: true,
    }),
    makeEvent('c', quarter(9, 2), quarter(1), [makeNote('o', 60, 'import')]),
  ],
});

describe('call-outs', () => {
  it('name a string in the instructor’s school', () => {
    const phrase = (strings: 'numbers' | 'nominal' | 'sounding' | 'numbers-nominal'): string =>
      callNote(note, setup, { schools: { ...DEFAULT_SCHOOLS, strings }, key: null }).split(', fret')[0] ?? '';
    expect([phrase('numbers'), phrase('nominal'), phrase('sounding'), phrase('numbers-nominal')]).toEqual([
      'string 4',
      'the D string',
      'the C string',
      'string 4 (D)',
    ]);
  });
  it('say string, fret, finger and what is heard', () => {
    expect(callNote(note, setup)).toBe('string 4 (D), fret 5, ring finger, sounding F');
    expect(callNote(makeNote('x', 60, 'import'), setup)).toBe('C, not placed yet');
  });
  it('go bar by bar with the count and the joins', () => {
    expect(callRiff(riff, setup)).toEqual([
      'Bar 1. on 1: string 4 (D), fret 5, ring finger, sounding F. on 2: hammer on to string 4 (D), fret 7, sounding G, let it ring.',
      'Bar 2. on the and of 1: C, not placed yet.',
    ]);
  });
});

describe('what is spoken of a stretch', () => {
  const guitar = must(makeSetup({ instrument: 'guitar-6' })).setup;
  const spokenLines = (calls: string, short = false): string[] => {
    const called = readCalls(calls, {
      setup: guitar,
      meters: [{ bar: 0, beats: 4, unit: 4 }],
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
    });
    const events = calledToEvents(called, new Set());
    return callRiff(makeRiff('r', 'r', { events }), guitar, { schools: DEFAULT_SCHOOLS, key: null, short });
  };
  it('names the beat with every offbeat', () => {
    const [line] = spokenLines('sixteenths on 5 3 3 3 3 eighths 3 5');
    expect(line).toMatch(/on 1: .* on the e of 1: .* on the and of 1: .* on the a of 1: .* on 2: .* on the and of 2: /);
  });
  it('says what is common once', () => {
    const [first, ...bars] = spokenLines('on 5 3 palm 5 palm 7 palm accent');
    expect(first).toBe('Throughout, palm muted.');
    expect(bars.join(' ')).not.toContain('palm');
    expect(bars.join(' ')).toContain('accent');
    expect(spokenLines('on 5 3 palm 5 7 palm')[0]).toMatch(/^Bar 1/);
  });
  it('can be short: no names of what sounds, strings only where they change', () => {
    expect(spokenLines('on 5 3 5 on 4 5', true)).toEqual([
      'Bar 1. on 1: string 5, fret 3. on the and of 1: fret 5. on 2: string 4, fret 5.',
    ]);
  });
});

describe('chord shapes', () => {
  it('sound as the set-up makes them, root lowest', () => {
    const standard = must(makeSetup({ instrument: 'guitar-6' })).setup;
    expect(must(gripTones('Am', standard))).toMatchObject({ pitches: [45, 52, 57, 60, 64] });
    expect(must(gripTones('F', standard))).toMatchObject({ pitches: [41, 48, 53, 57, 60, 65] });
    const capo = must(makeSetup({ instrument: 'guitar-6', capo: 3 })).setup;
    expect(must(gripTones('Am', capo))).toMatchObject({ pitches: [48, 55, 60, 63, 67] });
    expect(parseChord('Hm9').ok).toBe(false);
  });
});

describe('carrying over', () => {
  const part = makePart('p', 'Guitar', setup, { riffs: [riff] });
  const standard = must(makeSetup({ instrument: 'guitar-6' })).setup;
  it('keeps the sound and gives up places that no longer sound it', () => {
    const carried = carryPart(part, standard, 'sound');
    expect(carried).toMatchObject({ newPitches: 0, lostLocks: 1, unplaced: 3 });
    expect(carried.riffs[0]?.events.map((event) => event.notes[0]?.pitch.midi)).toEqual([53, 55, 60]);
    expect(checkPart({ ...part, setup: standard, riffs: carried.riffs }).ok).toBe(true);
  });
  it('keeps the shape and lets the pitch follow', () => {
    const carried = carryPart(part, standard, 'shape');
    expect(carried.newPitches).toBe(2);
    expect(carried.riffs[0]?.events.map((event) => event.notes[0]?.pitch.midi)).toEqual([55, 57, 60]);
    expect(checkPart({ ...part, setup: standard, riffs: carried.riffs }).ok).toBe(true);
  });
});

describe('everything that is done to a note', () => {
  const { setup: guitar } = must(makeSetup({ instrument: 'guitar-6' }));
  const spoken = (calls: string): string => {
    const called = readCalls(calls, {
      setup: guitar,
      meters: [{ bar: 0, beats: 4, unit: 4 }],
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
    });
    expect(called.faults, calls).toEqual([]);
    const events = calledToEvents(called, new Set());
    return events.map((event, i) => callEvent(event, events[i - 1], guitar)).join(' / ');
  };
  it('is spoken', () => {
    expect(spoken('on 3 7 bend whole released')).toContain('bent up to E and released');
    expect(spoken('on 3 7 prebend half pushed')).toContain('bent before it is struck, up to E♭, pushed');
    expect(spoken('on 3 7 vibrato wide guess palm stroke up')).toMatch(
      /with wide vibrato, a guess, palm muted, upstroke$/,
    );
    expect(spoken('on 3 9 bend whole + on 2 7')).toContain('a unison bend');
    expect(spoken('grace on 3 5 hammer 7')).toBe(
      'grace note string 3 (G), fret 5, sounding C / hammer on to string 3 (G), fret 7, sounding D',
    );
    expect(spoken('hole hit scrape')).toBe(
      'something is played here that is not written yet / a hit on the strings / the pick scraped along the strings',
    );
    expect(spoken('on 5 3 slide 7 quick')).toContain('quickly slide to');
    expect(spoken('on 5 3 either "or the E" why "it rings"')).toContain('either will do: or the E, because it rings');
    expect(spoken('on 5 3 tremolo thirty-second cut 30 ahead')).toContain(
      'struck again every thirty-second, ahead of its beat',
    );
  });
});

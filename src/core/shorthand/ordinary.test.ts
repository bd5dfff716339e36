import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { callRiff } from '../callout';
import { makeSetup, tiltCents } from '../instrument';
import { checkRiff, makeRiff, type Riff } from '../score';
import { ZERO } from '../time';
import { FIRST_LENGTH } from './print';
import { calledToEvents, printCalls, readCalls, type Called } from './index';

/** Ordinary things an instructor says, which were refused or misread once. */

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const METERS = [{ bar: 0, beats: 4, unit: 4 }];

const read = (text: string, extra: Partial<Parameters<typeof readCalls>[1]> = {}): Called =>
  readCalls(text, { setup, meters: METERS, at: ZERO, length: FIRST_LENGTH, string: null, ...extra });

function called(text: string): Riff {
  const made = read(text);
  expect(made.faults.map((fault) => fault.words)).toEqual([]);
  const riff = makeRiff('r', 'r', { events: calledToEvents(made, new Set()), pickup: made.frame.pickup ?? ZERO });
  must(checkRiff(riff, setup));
  return riff;
}
const why = (text: string): string => read(text).faults[0]?.words ?? '';
/** String.fret of every note of every event. */
const places = (riff: Riff): string[] =>
  riff.events.map((event) => event.notes.map((note) => `${note.place?.string}.${note.place?.fret}`).join('+'));

describe('a pickup', () => {
  it('is what is called up to the first bar line', () => {
    const made = read('pickup eighths on 5 3 5 | on 4 5');
    expect(made.frame.pickup).toBe('1');
    expect(made.events.map((event) => event.at)).toEqual(['-1', '-1/2', '0']);
    expect(made.warnings).toEqual([]);
  });
  it('may be all that is called, and is shorter than a bar', () => {
    expect(read('pickup on 5 3').events[0]?.at).toBe('-1/2');
    expect(why('pickup whole on 5 3 | 5')).toContain('shorter than a bar');
    expect(why('on 5 3 pickup on 5 3')).toContain('before everything else');
  });
});

describe('a mark for a whole chord', () => {
  it('is said once, with both or all', () => {
    const riff = called('on 4 2 + on 3 2 both bend half');
    expect(riff.events[0]?.notes.map((note) => note.technique?.bend)).toEqual([100, 100]);
    expect(
      called('on 4 2 + on 3 2 + on 2 3 all vibrato').events[0]?.notes.every((note) => note.technique?.vibrato),
    ).toBe(true);
  });
  it('goes to the notes of a grip that can, and is refused where none can', () => {
    const notes = called('grip x 0 2 2 1 0 off-lower').events[0]?.notes ?? [];
    // Neither an open string nor the first fret has anything below to slide over.
    expect(notes.map((note) => note.technique?.slideOut ?? null)).toEqual([null, 'lower', 'lower', null, null]);
    expect(why('grip 0 0 0 0 0 0 off-lower')).toContain('no finger that could slide');
  });
  it('goes to a note and its octave', () => {
    const riff = called('on 5 3 octave bend quarter');
    expect(places(riff)).toEqual(['5.3+3.5']);
    expect(riff.events[0]?.notes.every((note) => note.technique?.bend === 50)).toBe(true);
    expect(places(called('on 6 open octave'))).toEqual(['6.0+4.2']);
    expect(why('on 1 12 octave')).toContain('call it with +');
  });
});

describe('a group', () => {
  it('may have its string said before it', () => {
    expect(places(called('on 3 [12 14] twice'))).toEqual(['3.12', '3.14', '3.12', '3.14']);
  });
});

describe('another place that would do', () => {
  it('is called with "or", with its reason, and comes back as it was said', () => {
    const riff = called('A12 or D7 "rounder", on 5 5');
    expect(riff.events[0]?.notes[0]?.place).toMatchObject({
      string: 5,
      fret: 12,
      otherPlace: { string: 4, fret: 7, reason: 'rounder' },
    });
    // The string said last is still that of the note itself.
    expect(places(riff)).toEqual(['5.12', '5.5']);
    expect(printCalls(riff)).toContain('on 5 12 or on 4 7 "rounder"');
    expect(printCalls(called(printCalls(riff)))).toBe(printCalls(riff));
  });
  it('sounds the same, or is refused', () => {
    expect(why('A12 or D8')).toContain('another place sounds the same');
    expect(why('A12 or A12')).toBe('That is the same place.');
  });
});

describe('a slide from or to nowhere', () => {
  it('takes the fret it comes from or goes to, or how many it covers', () => {
    const technique = called('on 5 9 from-lower fret 5 off-lower by 4').events[0]?.notes[0]?.technique;
    expect(technique).toEqual({ slideIn: 'lower', slideInBy: 4, slideOut: 'lower', slideOutBy: 4 });
    expect(printCalls(called('on 5 9 from-lower fret 5'))).toContain('from-lower by 4');
    expect(callRiff(called('on 5 9 from-lower fret 5'), setup)[0]).toContain('slid into from 4 frets lower');
    expect(called('on 5 9 from-lower 5').events).toHaveLength(2);
  });
  it('goes the way it says, over frets that are there', () => {
    expect(why('on 5 9 from-lower fret 12')).toContain('covers 1 to 24');
    expect(why('on 5 3 off-lower by 3')).toContain('not so many frets');
  });
});

describe('a scrape', () => {
  it('takes strings, fret and which way, and comes back as it was said', () => {
    const riff = called('scrape over 6 to 5 from 12 lower for half on 5 3');
    expect(riff.events[0]).toMatchObject({ kind: 'scrape', scraped: { thick: 6, thin: 5, fret: 12, to: 'lower' } });
    expect(printCalls(called(printCalls(riff)))).toBe(printCalls(riff));
    expect(callRiff(riff, setup)[0]).toContain('on strings 6 to 5 from fret 12 towards lower frets');
    expect(called('scrape').events[0]?.scraped).toBeUndefined();
  });
  it('of strings or frets that are not there is refused', () => {
    expect(why('scrape over 9 lower')).toContain('Strings are');
    expect(why('scrape over 6 from 99 lower')).toContain('no fret 99');
  });
});

describe('a tilted bar', () => {
  it('puts each string beside its fret, as the panel does', () => {
    const [event] = called('on 4 5 + on 3 5 bottleneck tilted 5').events;
    const cents = tiltCents(setup, { string: 3, fret: 5 }, 4, 5);
    expect(event?.notes.map((note) => note.pitch.cents)).toEqual([0, cents]);
    expect(cents).toBeGreaterThan(0);
    expect(called('on 4 5 + on 3 5 sharp 0 bottleneck tilted 5').events[0]?.notes[1]?.pitch.cents).toBe(0);
  });
});

describe('the thumb over the neck', () => {
  it('stops a single note too', () => {
    expect(called('on 6 3 with thumb').events[0]?.notes[0]?.place?.finger).toBe(5);
  });
});

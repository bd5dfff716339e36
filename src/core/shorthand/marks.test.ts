import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { ZERO } from '../time';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const METERS = [{ bar: 0, beats: 4, unit: 4 }];
const read = (text: string) => readCalls(text, { setup, meters: METERS, at: ZERO, length: FIRST_LENGTH, string: null });
const first = (text: string) => read(text).events[0];
const fault = (text: string): string => read(text).faults[0]?.words ?? 'none';
const again = (text: string): string =>
  printCalls({ events: calledToEvents(read(text), new Set()), meters: METERS, pickup: ZERO }, ZERO, {
    setup,
    frets: 'capo',
  });

describe('bends and trills', () => {
  it('are called by size or cents, by fret or semitones', () => {
    expect(first('on 3 7 bend whole')?.notes[0]?.technique).toEqual({ bend: 200 });
    expect(first('on 3 7 bend quarter')?.notes[0]?.technique).toEqual({ bend: 50 });
    expect(first('on 3 7 bend 130')?.notes[0]?.technique).toEqual({ bend: 130 });
    expect(first('on 4 5 trill 7')?.notes[0]?.technique).toEqual({ trill: 2 });
    expect(first('note A3 trill by 2')?.notes[0]?.technique).toEqual({ trill: 2 });
  });
  it('say how they were understood', () => {
    expect(read('on 3 7 bend whole').tokens.map((understood) => understood.label)).toContain(
      'bent up 200 cents, to E4',
    );
    expect(read('on 4 5 trill 7').tokens.map((understood) => understood.label)).toContain('trilled with A');
  });
  it('that can’t be are refused with the reason', () => {
    expect(fault('on 3 open bend half')).toContain('no finger that could bend');
    expect(fault('on 3 7 bend 900')).toContain('10 to 700 cents');
    expect(fault('on 3 7 trill 5')).toContain('higher fret');
    expect(fault('note A3 trill 9')).toContain('trill by 2');
  });
});

describe('dead notes, harmonics, thumb, kept fingers, slide bar', () => {
  it('are called as they are said', () => {
    expect(first('on 5 dead')?.notes[0]).toMatchObject({ place: { string: 5, fret: 0 }, technique: { dead: true } });
    expect(read('note G2 dead').events[1]?.notes[0]).toMatchObject({
      pitch: 43,
      place: null,
      technique: { dead: true },
    });
    expect(first('note G2 muffled')?.notes[0]).toMatchObject({ pitch: 43, place: null, technique: { dead: true } });
    expect(first('on 5 dead 7')?.notes[0]).toMatchObject({ place: { fret: 7 }, technique: { dead: true } });
    expect(first('on 4 harmonic 12')?.notes[0]).toMatchObject({
      pitch: 62,
      place: { string: 4, fret: 12 },
      technique: { harmonic: true },
    });
    expect(first('on 6 harmonic 3.2')?.notes[0]?.pitch).toBe(40 + 31);
    expect(first('on 6 harmonic 2.7')?.notes[0]?.pitch).toBe(40 + 34);
    expect(first('on 6 2 with thumb')?.notes[0]?.finger).toEqual({ finger: 5, sure: true });
    expect(first('on 5 5 down whole')?.notes[0]?.technique).toEqual({ hold: '4' });
    expect(first('on 2 5 flat 25 bottleneck')).toMatchObject({ slideBar: true, notes: [{ cents: -25 }] });
  });
  it('that can’t be are refused with the reason', () => {
    expect(fault('on 4 harmonic 6')).toContain('No harmonic sounds clearly there');
    expect(fault('dead')).toContain('On which string?');
    expect(fault('harmonic 12')).toContain('On which string?');
    expect(fault('on 4 5 with 9')).toContain('"thumb"');
    expect(fault('on 4 5 sharp 200')).toContain('0 and 99');
    expect(fault('on 5 dead bend half')).toContain('no pitch');
  });
  it('come back from print as they went in', () => {
    for (const text of [
      'on 3 7 bend whole 9 bend 130',
      'on 4 5 trill by 2',
      'on 5 dead dead 7',
      'on 6 harmonic 2.7 harmonic 3.2',
      'on 6 2 with thumb',
      'on 5 5 raked pick-slap',
      'on 5 5 down 4',
      'note G2 note G2 muffled',
      'on 2 5 flat 25 bottleneck',
    ]) {
      expect(again(text), text).toBe(text);
    }
  });
  it('mean the same with a capo: a harmonic counts from the string’s own end', () => {
    const capo = must(makeSetup({ instrument: 'guitar-6', capo: 3 })).setup;
    const called = readCalls('on 4 harmonic 12', {
      setup: capo,
      meters: METERS,
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
    });
    expect(called.events[0]?.notes[0]?.pitch).toBe(50 + 3 + 12);
  });
});

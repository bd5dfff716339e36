import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { ZERO } from '../time';
import {
  barresOf,
  chordBend,
  findIn,
  FINDABLE,
  makePart,
  makePiece,
  makeRiff,
  parseFind,
  unspecifiedIn,
  type Riff,
} from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
function riffOf(calls: string): Riff {
  const called = readCalls(calls, {
    setup,
    meters: [{ bar: 0, beats: 4, unit: 4 }],
    at: ZERO,
    length: FIRST_LENGTH,
    string: null,
  });
  expect(called.faults, calls).toEqual([]);
  return makeRiff('r', 'Riff', { events: calledToEvents(called, new Set()) });
}

const riff = riffOf(
  'eighths on 3 14 bend whole on 3 9 guess on 5 open palm on 5 3 hammer 5 on 1 12 tapped likely hole on 4 5 + on 3 5 rolled thick-first staccato note G3? accent'.replace(
    'note G3?',
    'note G3',
  ),
);
const found = (text: string): number[] =>
  findIn(riff, must(parseFind(text))).map((one) => riff.events.indexOf(one.event));

describe('find', () => {
  it('reads what one would say, all of it to hold', () => {
    expect(found('every bend')).toEqual([0]);
    expect(found('all on string 3 above fret 12')).toEqual([0]);
    expect(found('string 3')).toEqual([0, 1, 7]);
    expect(found('below fret 6 on string 5')).toEqual([2, 3, 4]);
    expect(found('hammer-ons')).toEqual([4]);
    expect(found('palm mutes')).toEqual([2]);
    expect(found('not sure')).toEqual([1, 5]);
    expect(found('holes')).toEqual([6]);
    expect(found('rolled chords')).toEqual([7]);
    expect(found('open A')).toEqual([2]);
    expect(found('G3')).toEqual([7, 8]);
    expect(found('unplaced')).toEqual([8]);
    expect(found('slides')).toEqual([]);
  });
  it('says what it does not understand, and where', () => {
    const why = (text: string): string => {
      const made = parseFind(text);
      return made.ok ? 'ok' : made.error.words;
    };
    expect(why('')).toContain('Say what to look for');
    expect(why('every')).toContain('beside "every"');
    expect(why('bend wobble')).toContain('"wobble" is nothing');
    expect(why('string')).toContain('Which string?');
    expect(why('above')).toContain('Which fret?');
    expect(why('finger x')).toContain('Which finger?');
    expect(FINDABLE.every((word) => parseFind(word).ok)).toBe(true);
  });
});

describe('what is unsaid', () => {
  it('is listed from the piece down to the note', () => {
    const open = riffOf('on 3 7 bend ? on 3 5 trill ? note E4 hole');
    const piece = makePiece('p', 'P', {
      unspecified: ['tempo'],
      parts: [
        makePart('p0', 'Guitar', setup, {
          unspecified: ['tuning'],
          riffs: [open, { ...riffOf('on 5 3'), id: 'r1', plays: 2 }],
        }),
      ],
    });
    expect(unspecifiedIn(piece).map((finding) => finding.rule)).toEqual([
      'tempo',
      'tuning',
      'plays',
      'bend',
      'trill',
      'string',
      'hole',
    ]);
    expect(unspecifiedIn(piece).filter((finding) => finding.locus.event !== undefined)).toHaveLength(4);
    expect(unspecifiedIn(makePiece('p', 'P'))).toEqual([]);
  });
});

describe('grips', () => {
  const event = (calls: string) => riffOf(calls).events[0] as Riff['events'][number];
  it('know bends against another note', () => {
    expect(chordBend(event('on 3 9 bend whole + on 2 7'))).toBe('unison');
    expect(chordBend(event('on 3 9 bend whole + on 2 8'))).toBeNull();
    expect(chordBend(event('on 3 9 bend half + on 2 8 bend half'))).toBe('together');
    expect(chordBend(event('on 3 9 bend whole'))).toBeNull();
    expect(chordBend(event('on 3 2 bend whole + on 1 7'))).toBe('octave');
  });
  it('know fingers that lie over several strings', () => {
    expect(barresOf(event('on 3 5 with 1 + on 2 5 with 1 + on 1 5 with 1'))).toEqual([
      { finger: 1, fret: 5, thick: 3, thin: 1 },
    ]);
    expect(barresOf(event('on 3 5 with 1 + on 2 6 with 2'))).toEqual([]);
  });
});

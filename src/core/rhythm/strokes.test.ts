import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import type { Picking } from '../schools';
import { makeRiff, type Riff } from '../score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { ZERO } from '../time';
import { barFindings, strokeFigures, strokesOf } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const bass = must(makeSetup({ instrument: 'bass-4' })).setup;

function riffOf(calls: string, on = setup, meters: Riff['meters'] = [{ bar: 0, beats: 4, unit: 4 }]): Riff {
  const called = readCalls(calls, { setup: on, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  expect(called.faults, calls).toEqual([]);
  return makeRiff('r', 'r', { meters, bars: 1, events: calledToEvents(called, new Set()) });
}

const SHORT: Readonly<Record<string, string>> = {
  down: 'D',
  up: 'U',
  same: '=',
  thumb: 'p',
  index: 'i',
  middle: 'm',
  third: 'a',
  slap: 'S',
  pop: 'P',
};
const signs = (calls: string, school: Picking, on = setup, meters?: Riff['meters']): string =>
  strokesOf(riffOf(calls, on, meters), on, school)
    .map((struck) => (struck.stroke ? (SHORT[struck.stroke] ?? struck.stroke) : '-'))
    .join('');

describe('strokes by school', () => {
  it('alternate by the grid: down on, up off, whatever is left out', () => {
    // The grid changes within a bar, beat by beat.
    expect(signs('sixteenths on 5 3 3 3 3 eighths 3 3', 'alternate')).toBe('DUDUDU');
    expect(signs('eighths on 5 3 3 3 3', 'alternate')).toBe('DUDU');
    // A hammered sixteenth asks nothing of the picking hand: the eighths around it go on down and up.
    expect(signs('eighths on 5 3 3 sixteenths 3 hammer 5 eighths 3 3 3', 'alternate')).toBe('DUD-UDU');
    // An eighth on the "and" in a bar of sixteenths is a down: the hand keeps its motion.
    expect(signs('sixteenths on 5 3 rest 3 3', 'alternate')).toBe('DDU');
    expect(signs('rest for sixteenth on 5 3 for sixteenth 3 for eighth', 'alternate')).toBe('UD');
  });
  it('alternate through triplets, and in threes where the meter is', () => {
    expect(signs('triplet eighths on 5 3 3 3 3 3 3', 'alternate')).toBe('DUDUDU');
    expect(signs('eighths on 5 3 3 3 3 3 3', 'alternate', setup, [{ bar: 0, beats: 6, unit: 8 }])).toBe('DUDUDU');
  });
  it('alternate by the note, skipping what is slurred, and begin anew after a breath', () => {
    expect(signs('eighths on 5 3 hammer 5 3 3', 'by-note')).toBe('D-UD');
    expect(signs('eighths on 5 3 3 3 rest for half 3 3', 'by-note')).toBe('DUDDU');
  });
  it('slurred notes take none; by the grid the next goes on as if they had', () => {
    expect(signs('sixteenths on 5 3 hammer 5 pull 3 3', 'alternate')).toBe('D--U');
    expect(signs('eighths on 5 3 shift 7', 'alternate')).toBe('DU');
  });
  it('economy goes on in the direction of travel', () => {
    expect(signs('sixteenths on 5 3 on 4 3 on 3 3 on 2 3', 'economy')).toBe('DDDD');
    expect(signs('sixteenths on 2 3 on 3 3 on 3 5 on 4 3', 'economy')).toBe('DUDU');
    expect(signs('sixteenths on 5 3 5 7 on 4 3', 'economy')).toBe('DUDD');
  });
  it('all down, off the beat up, fingers, slap and pop', () => {
    expect(signs('eighths on 5 3 3 3 3', 'down')).toBe('DDDD');
    expect(signs('eighths on 5 3 3 3 3', 'off-up')).toBe('DUDU');
    expect(signs('eighths on 5 3 on 3 open on 2 1 on 1 open', 'fingers')).toBe('pima');
    expect(signs('eighths on 4 open open open open', 'fingers', bass)).toBe('imim');
    expect(signs('eighths on 4 open on 2 2 on 4 3 on 1 4', 'slap', bass)).toBe('SPSP');
  });
  it('keep what the instructor says, and count several notes to one stroke', () => {
    const riff = riffOf(
      'sixteenths on 5 3 stroke up on 4 3 stroke same on 3 3 stroke same hole hit scrape on 1 12 tapped',
    );
    const all = strokesOf(riff, setup, 'alternate');
    expect(all.map((struck) => [struck.stroke, struck.by])).toEqual([
      ['up', 'instructor'],
      ['same', 'instructor'],
      ['same', 'instructor'],
      [null, null],
      [null, null],
      ['down', 'school'],
      [null, null],
    ]);
    expect(new Set(all.slice(0, 3).map((struck) => struck.group)).size).toBe(1);
    expect(strokeFigures(riff, all, [{ at: ZERO, bpm: 100 }]).groups).toBe(1);
  });
});

describe('how fast strokes come', () => {
  const figures = (calls: string, bpm: number, school: Picking = 'alternate') => {
    const riff = riffOf(calls);
    return { riff, ...strokeFigures(riff, strokesOf(riff, setup, school), [{ at: ZERO, bpm }]) };
  };
  it('finds the fastest run and leaves slurs out', () => {
    const { hardest, strokes, fastest, riff } = figures(
      'quarters on 5 3 sixteenths 3 3 on 4 3 on 5 3 3 quarters 3',
      120,
    );
    expect(strokes).toBe(7);
    expect(fastest).toBeCloseTo(8, 6);
    expect(hardest?.strokes).toBe(6);
    expect(hardest?.perSecond).toBeCloseTo(8, 6);
    expect(hardest?.crossed).toBe(2);
    expect([hardest?.from, hardest?.to]).toEqual([riff.events[1]?.id, riff.events[6]?.id]);
    expect(figures('sixteenths on 5 3 hammer 5 pull 3 hammer 5 pull 3', 120).hardest).toBeNull();
  });
  it('counts a tremolo by its strokes and feels the swing', () => {
    expect(figures('on 5 3 for quarter tremolo 1/8', 60).strokes).toBe(8);
    const riff = { ...riffOf('eighths on 5 3 3 3 3 3 3'), feel: [{ at: ZERO, swing: 75, unit: '1/2' as const }] };
    expect(strokeFigures(riff, strokesOf(riff, setup, 'down'), [{ at: ZERO, bpm: 60 }]).fastest).toBeCloseTo(4, 6);
  });
});

describe('bars that do not come out', () => {
  const words = (calls: string): string[] => barFindings(riffOf(calls)).map((b) => `${b.locus.bar + 1} ${b.words}`);
  it('are found with the slips that would explain them', () => {
    expect(words('quarters on 5 3 3 3 3')).toEqual([]);
    expect(words('quarters on 5 3 3 3 eighths 3')[0]).toMatch(
      /^1 1\/2 of 4 quarters missing: note 4 may be a quarter, not a eighth|^1 1\/2 of 4 quarters missing: /,
    );
    expect(words('eighths on 5 3 3 3 quarters 3 3 3')[0]).toContain('1/2 quarters more than 4');
    expect(words('eighths on 5 3 3 3 quarters 3 3 3')[0]).toContain('may be triplets');
    expect(words('halves on 5 3 3 for half tied quarter')[0]).toContain('1 quarters more than 4');
  });
  it('leave rings and rests between notes alone', () => {
    expect(words('quarters on 5 3 held 3 under rest 3 3')).toEqual([]);
    expect(words('quarters on 5 3 held 4 ring 3 ring 3 ring 3 ring')).toEqual([]);
  });
});

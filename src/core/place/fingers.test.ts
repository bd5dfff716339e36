import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { makeRiff } from '../score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { ZERO } from '../time';
import { bestWay, problemOf, solve } from './index';

/**
 * Small fingerings as any teacher would say them, written down before the model was asked. Of each note of each event
 * the finger, "-" between events; where teachers differ, every answer that is good.
 */
const GUITAR: readonly (readonly [calls: string, ...fingers: string[]])[] = [
  // A note struck again keeps its finger.
  ['on 5 5 5 5 5', '1-1-1-1', '2-2-2-2', '3-3-3-3'],
  ['on 5 5 5 5 5 12 12 12 12 12', '1-1-1-1-1-1-1-1-1', '1-1-1-1-3-3-3-3-3', '1-1-1-1-4-4-4-4-4'],
  ['on 6 open on 5 7 on 6 open on 5 7', '0-1-0-1', '0-2-0-2', '0-3-0-3'],
  ['on 6 3 6 3 3 6', '1-4-1-1-4'],
  ['on 2 8 8 8 5 5', '4-4-4-1-1'],
  // Neighbouring strings at one fret are one flat finger.
  ['on 3 7 on 2 5 on 1 5', '3-1-1'],
  ['on 3 7 on 2 5 on 1 5 on 2 5 on 3 7', '3-1-1-1-3'],
  ['on 2 8 on 1 5 on 2 5', '4-1-1'],
  ['on 4 5 on 3 5 on 2 5', '1-1-1'],
  ['on 4 2 on 3 2 on 2 2', '1-1-1'],
  ['on 6 3 on 5 3', '1-1', '2-2', '3-3'],
  ['on 6 5 on 5 5 7', '1-1-3'],
  ['on 4 5 + on 3 5 + on 2 5', '111', '333'],
  ['on 3 5 + on 2 5', '11', '33'],
  ['on 2 5 + on 1 5 on 3 7', '11-3'],
  ['on 3 7 + on 2 7 on 3 5 + on 2 5', '33-11'],
  ['on 4 7 on 3 7 on 4 5', '3-3-1'],
  // One finger a fret.
  ['on 6 1 2 3 4', '1-2-3-4'],
  ['on 5 5 6 7 8', '1-2-3-4'],
  ['on 1 8 7 6 5', '4-3-2-1'],
  ['on 5 5 7 on 4 5 7', '1-3-1-3'],
  ['on 6 5 8 on 5 5 7 on 4 5 7 on 3 5 7 on 2 5 8 on 1 5 8', '1-4-1-3-1-3-1-3-1-4-1-4'],
  ['on 1 5 8 7 5', '1-4-3-1'],
  ['on 2 5 8 5', '1-4-1'],
  ['on 1 12 15 12', '1-4-1', '1-3-1'],
  ['on 5 7 9 10', '1-3-4'],
  // The thumb comes over where it is said to, whatever the player's habit.
  ['on 6 3 with thumb', '5'],
  ['on 6 2 with thumb + on 4 2 + on 3 2', '512', '511', '523', '513', '522', '533', '534'],
  // Joins.
  ['on 4 5 hammer 7', '1-3'],
  ['on 4 7 pull 5', '3-1'],
  ['on 2 8 pull 5', '4-1'],
  ['on 2 5 hammer 8 pull 5', '1-4-1'],
  ['on 3 5 hammer 6', '1-2'],
  ['on 5 5 slide 7 slide 9', '1-1-1', '2-2-2', '3-3-3'],
  ['on 3 7 bend whole on 2 5', '3-1'],
  ['on 3 7 bend whole + on 2 5', '31'],
  ['on 4 5 + on 3 5 hammer on 4 7', '11-3'],
  ['on 4 9 + on 3 9 + on 2 9 hammer on 4 11 + on 2 10', '111-32'],
  // Grips that move.
  ['on 6 3 + on 5 5', '13'],
  ['on 6 3 + on 5 5 + on 4 5', '134', '133'],
  ['on 6 3 + on 5 5 on 6 5 + on 5 7', '13-13'],
  ['on 6 5 + on 4 7', '13', '14'],
  ['on 5 3 + on 3 5 slide on 5 5 + on 3 7', '13-13', '14-14'],
  ['on 3 5 + on 2 5 slide on 3 7 + on 2 7', '11-11', '33-33', '22-22'],
  // Open grips: thick to thin.
  ['grip 0 2 2 1 0 0', '023100'],
  ['grip x 0 2 2 1 0', '02310'],
  ['grip x 3 2 0 1 0', '32010'],
  ['grip x x 0 2 3 2', '0132'],
  ['grip x 0 2 2 2 0', '01230', '01110', '02130', '02340'],
  ['grip 1 3 3 2 1 1', '134211'],
  ['grip x 2 4 4 3 2', '13421'],
  // A finger both grips need stays.
  ['grip x 0 2 2 1 0 grip x 3 2 0 1 0', '02310-32010'],
  ['grip 0 2 2 0 0 0 grip 0 2 2 1 0 0', '023000-023100'],
];

const BASS: readonly (readonly [string, ...string[]])[] = [
  ['on 4 1 2 3', '1-2-4'],
  ['on 3 3 3 3 3', '1-1-1-1', '2-2-2-2', '4-4-4-4'],
  ['on 4 5 on 3 7 on 2 7', '1-3-3', '1-4-4', '1-3-4'],
  ['on 4 5 on 2 7', '1-4', '1-3'],
];

function fingers(calls: string, instrument: string): string {
  const { setup } = must(makeSetup({ instrument }));
  const meters = [{ bar: 0, beats: 4, unit: 4 }];
  const called = readCalls(calls, { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  expect(called.faults, calls).toEqual([]);
  const riff = makeRiff('r', 'r', { events: calledToEvents(called, new Set()) });
  return bestWay(solve(problemOf(riff, setup, [{ at: ZERO, bpm: 90 }])))
    .events.map((event) => event.notes.map((note) => note?.finger ?? 'x').join(''))
    .join('-');
}

describe('fingers as a teacher would say', () => {
  it.each(GUITAR)('guitar: %s', (calls, ...good) => {
    expect(good).toContain(fingers(calls, 'guitar-6'));
  });
  it.each(BASS)('bass: %s', (calls, ...good) => {
    expect(good).toContain(fingers(calls, 'bass-4'));
  });
});

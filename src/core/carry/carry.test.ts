import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { makeEvent, makeNote, makePart, makePlace, makeRiff, type Note } from '../score';
import { quarter, ZERO } from '../time';
import { carryPart } from './index';

const setupOf = (tuning: string) => must(makeSetup({ instrument: 'guitar-6', tuning })).setup;
const standard = setupOf('standard');
const low = makeNote('low', 43, 'instructor', { place: makePlace(6, 3, 'instructor', { reason: 'seen live' }) });
const touched = makeNote('touched', 62, 'instructor', {
  place: makePlace(4, 12, 'instructor'),
  technique: { harmonic: true },
});
const part = makePart('p', 'g', standard, {
  riffs: [
    makeRiff('r', 'r', {
      events: [makeEvent('a', ZERO, quarter(1), [low]), makeEvent('b', quarter(1), quarter(1), [touched])],
    }),
  ],
});
const notes = (tuning: string, mode: 'sound' | 'shape'): Note[] =>
  carryPart(part, setupOf(tuning), mode).riffs[0]?.events.flatMap((event) => [...event.notes]) ?? [];

describe('a part on another set-up', () => {
  it('keeping the sound gives up places that no longer sound it, and keeps the reason given for them', () => {
    const [first, second] = notes('drop-d', 'sound');
    expect(first).toMatchObject({
      pitch: { midi: 43 },
      place: null,
      evidence: { basis: null, at: null, remark: 'seen live' },
    });
    expect(second).toEqual(touched);
    expect(carryPart(part, setupOf('drop-d'), 'sound')).toMatchObject({ lostLocks: 1, newPitches: 0, unplaced: 1 });
  });
  it('keeping the shape keeps places and reasons, and the pitch follows', () => {
    const [first] = notes('drop-d', 'shape');
    expect(first).toMatchObject({
      pitch: { midi: 41 },
      place: { string: 6, fret: 3, reason: 'seen live' },
      evidence: null,
    });
  });
  it('a harmonic keeps its node and sounds it on the new string', () => {
    const lowered = carryPart(part, setupOf('D2 A2 C3 G3 B3 E4'), 'shape').riffs[0]?.events[1]?.notes[0];
    expect(lowered).toMatchObject({
      pitch: { midi: 60 },
      place: { string: 4, fret: 12 },
      technique: { harmonic: true },
    });
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { fullCapo, makeSetup, openPitch, pitchAt, TUNINGS, type Setup } from '../instrument';
import { makeEvent, makeNote, makePlace, type RiffEvent } from '../score';
import { quarter } from '../time';
import { moveShape, moveSound, moveStrings } from './move';

const guitar = must(makeSetup({ instrument: 'guitar-6' })).setup;
/** A line of places on a set-up, one after the other. */
const lineOn = (setup: Setup, places: readonly (readonly [string: number, fret: number])[]): RiffEvent[] =>
  places.map(([string, fret], i) =>
    makeEvent(`e${i}`, quarter(i), quarter(1), [
      makeNote(`n${i}`, must(pitchAt(setup, { string, fret })), 'instructor', {
        place: makePlace(string, fret, 'instructor', { finger: fret === 0 ? 0 : 1 }),
      }),
    ]),
  );
const placesOf = (events: readonly RiffEvent[]) =>
  events.map(({ notes }) => [notes[0]?.place?.string, notes[0]?.place?.fret]);
const pitchesOf = (events: readonly RiffEvent[]) => events.map(({ notes }) => notes[0]?.pitch.midi);

const setups = fc
  .tuple(
    fc.constantFrom(...TUNINGS.filter((one) => one.instruments.includes('guitar-6')).map((one) => one.id)),
    fc.constantFrom(0, 2, 5),
  )
  .map(([tuning, capo]): Setup => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6', tuning }));
    return capo > 0 ? { ...setup, capos: fullCapo(capo) } : setup;
  });
/** Stopped places in the middle of the neck, on the inner strings. */
const middle = fc.array(fc.tuple(fc.integer({ min: 2, max: 5 }), fc.integer({ min: 4, max: 9 })), {
  minLength: 1,
  maxLength: 8,
});

describe('a move along the neck', () => {
  it('goes by as many semitones in any tuning, under any capo, and back again', () => {
    fc.assert(
      fc.property(setups, middle, fc.integer({ min: -3, max: 3 }), (setup, places, frets) => {
        const line = lineOn(setup, places);
        const moved = must(moveShape(setup, line, frets));
        expect(moved.lostOpen).toBe(0);
        expect(placesOf(moved.events)).toEqual(places.map(([string, fret]) => [string, fret + frets]));
        expect(pitchesOf(moved.events)).toEqual(pitchesOf(line).map((midi) => (midi ?? 0) + frets));
        expect(must(moveShape(setup, moved.events, -frets)).events).toEqual(line);
      }),
    );
  });

  it('counts the open strings it stops, and refuses to go below them', () => {
    const line = lineOn(guitar, [
      [6, 0],
      [5, 2],
      [4, 0],
    ]);
    expect(must(moveShape(guitar, line, 2)).lostOpen).toBe(2);
    expect(must(moveShape(guitar, line, 0)).lostOpen).toBe(0);
    const below = moveShape(guitar, line, -1);
    expect(below.ok ? '' : below.error.words).toContain('no fret below the open string');
    expect(moveShape(guitar, lineOn(guitar, [[1, 20]]), 9).ok).toBe(false);
  });

  it('leaves no finger on an open string, and asks for one where a string was open', () => {
    const down = must(moveShape(guitar, lineOn(guitar, [[5, 3]]), -3)).events[0]?.notes[0]?.place;
    expect(down).toMatchObject({ fret: 0, finger: 0 });
    const up = must(moveShape(guitar, lineOn(guitar, [[5, 0]]), 3)).events[0]?.notes[0]?.place;
    expect(up).toMatchObject({ fret: 3, finger: null, fingerBy: 'solver' });
  });
});

describe('a move across the strings', () => {
  it('keeps frets, sounds what the tuning gives, and back again', () => {
    fc.assert(
      fc.property(setups, middle, fc.constantFrom(-1, 1), (setup, places, strings) => {
        const line = lineOn(setup, places);
        const moved = must(moveStrings(setup, line, strings));
        expect(placesOf(moved.events)).toEqual(places.map(([string, fret]) => [string + strings, fret]));
        expect(pitchesOf(moved.events)).toEqual(
          places.map(([string, fret]) => openPitch(setup, string + strings) + fret),
        );
        expect(must(moveStrings(setup, moved.events, -strings)).events).toEqual(line);
      }),
    );
  });

  it('ends at the outer strings, and needs a place to start from', () => {
    expect(moveStrings(guitar, lineOn(guitar, [[6, 3]]), 1).ok).toBe(false);
    expect(moveStrings(guitar, lineOn(guitar, [[1, 3]]), -1).ok).toBe(false);
    const bare = [makeEvent('e0', quarter(0), quarter(1), [makeNote('n0', 52, 'instructor')])];
    const refused = moveStrings(guitar, bare, 1);
    expect(refused.ok ? '' : refused.error.rule).toBe('no-place');
  });

  it('passes over a string that is off', () => {
    const five: Setup = { ...guitar, absent: [4] };
    expect(placesOf(must(moveStrings(five, lineOn(five, [[3, 5]]), 1)).events)).toEqual([[5, 5]]);
  });
});

describe('a move in sound', () => {
  it('gives up places and counts the locked ones among them', () => {
    fc.assert(
      fc.property(setups, middle, fc.integer({ min: -4, max: 4 }), (setup, places, semitones) => {
        const line = lineOn(setup, places);
        const moved = must(moveSound(setup, line, semitones));
        expect(pitchesOf(moved.events)).toEqual(pitchesOf(line).map((midi) => (midi ?? 0) + semitones));
        expect(moved.events.every((event) => event.notes.every((note) => note.place === null))).toBe(true);
        const locked = line.flatMap((event) => event.notes).filter((note) => note.place?.locked).length;
        expect(moved.lostLocks).toBe(locked);
      }),
    );
  });

  it('keeps within what the set-up can sound', () => {
    const low = lineOn(guitar, [[6, 0]]);
    const refused = moveSound(guitar, low, -1);
    expect(refused.ok ? '' : refused.error.words).toContain('an octave the other way');
    expect(moveSound(guitar, low, 12).ok).toBe(true);
    expect(moveSound(guitar, low, 100).ok).toBe(false);
  });
});

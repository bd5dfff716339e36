import { describe, expect, it } from 'vitest';
import { must, type Result } from '../base';
import { makeSetup } from '../instrument';
import { applyEdit, type Edit } from '../edit';
import {
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makePlace,
  makeRiff,
  type Note,
  type Piece,
  type RiffEvent,
  joinOf,
} from '../score';
import {
  insertEvents,
  lockAt,
  moveEvents,
  removeEvents,
  setFinger,
  setLength,
  setJoin,
  setLetRing,
  shiftPitch,
  toNextString,
  unlock,
} from './index';
import { quarter, ZERO } from '../time';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const pitch = (string: number, fret: number): number => (setup.open[6 - string] ?? 0) + fret;
const placed = (id: string, string: number, fret: number, locked = true): Note =>
  makeNote(id, pitch(string, fret), 'instructor', {
    place: makePlace(string, fret, locked ? 'instructor' : 'solver', { finger: fret === 0 ? 0 : 1 }),
  });
const EVENTS: RiffEvent[] = [
  makeEvent('a', ZERO, quarter(1), [{ ...placed('na', 5, 3), join: 'hammer' }]),
  makeEvent('b', quarter(1), quarter(1), [placed('nb', 5, 5)]),
  makeEvent('c', quarter(2), quarter(1), [placed('nc', 4, 5), placed('nd', 3, 5, false)]),
  makeEvent('d', quarter(3), quarter(1), [makeNote('ne', 64, 'import')]),
];
const piece: Piece = makePiece('p', 'Piece', {
  parts: [makePart('p0', 'Guitar', setup, { riffs: [makeRiff('r', 'Riff', { events: EVENTS })] })],
});
const ref = (event: string, note: string) => ({ riff: 'r', event, note });
const after = (made: Result<Edit>): readonly RiffEvent[] =>
  must(applyEdit(piece, must(made))).parts[0]?.riffs[0]?.events ?? [];
const noteAfter = (made: Result<Edit>, id: string): Note =>
  after(made)
    .flatMap((event) => event.notes)
    .find((note) => note.id === id) as Note;
const why = (made: Result<Edit>): string => (made.ok ? 'ok' : made.error.rule);

describe('locking', () => {
  it('keeps the pitch where the place sounds it', () => {
    const made = lockAt(piece, ref('d', 'ne'), 2, 5, 'rings into the chord');
    expect(must(made).type).toBe('placeNote');
    expect(noteAfter(made, 'ne').place).toMatchObject({
      string: 2,
      fret: 5,
      locked: true,
      by: 'instructor',
      reason: 'rings into the chord',
      finger: null,
    });
    expect(noteAfter(made, 'ne').pitch).toEqual({ midi: 64, cents: 0, by: 'import' });
  });

  it('changes the pitch with the place where it sounds another', () => {
    expect(noteAfter(lockAt(piece, ref('d', 'ne'), 1, 3), 'ne').pitch).toEqual({
      midi: 67,
      cents: 0,
      by: 'instructor',
    });
  });

  it('takes the string of a chord note that is not locked, and refuses that of one that is', () => {
    const events = after(lockAt(piece, ref('c', 'nc'), 3, 0));
    const chord = events.find((event) => event.id === 'c');
    expect(chord?.notes.map((note) => note.place?.string ?? null)).toEqual([3, null]);
    expect(why(lockAt(piece, ref('c', 'nd'), 4, 10))).toBe('string-taken');
  });

  it('is refused off the neck and for notes that are gone', () => {
    expect([
      why(lockAt(piece, ref('a', 'na'), 9, 3)),
      why(lockAt(piece, ref('a', 'na'), 5, 40)),
      why(lockAt(piece, ref('a', 'gone'), 5, 3)),
    ]).toEqual(['no-string', 'no-fret', 'no-note']);
  });

  it('can be given back: the place stays as a proposal', () => {
    expect(noteAfter(unlock(piece, ref('a', 'na')), 'na').place).toMatchObject({
      string: 5,
      fret: 3,
      locked: false,
      by: 'solver',
      reason: null,
    });
    expect(why(unlock(piece, ref('d', 'ne')))).toBe('no-place');
  });
});

describe('moving a note', () => {
  it('goes to the same pitch on the next string that has it', () => {
    expect(noteAfter(toNextString(piece, ref('b', 'nb'), -1), 'nb').place).toMatchObject({ string: 4, fret: 0 });
    expect(noteAfter(toNextString(piece, ref('b', 'nb'), 1), 'nb').place).toMatchObject({ string: 6, fret: 10 });
    expect(why(toNextString(piece, ref('a', 'na'), -1))).toBe('no-string');
  });

  it('by a semitone stays on its string when locked, and is placed anew when not', () => {
    expect(noteAfter(shiftPitch(piece, ref('a', 'na'), 1), 'na')).toMatchObject({
      pitch: { midi: pitch(5, 4) },
      place: { string: 5, fret: 4 },
    });
    expect(noteAfter(shiftPitch(piece, ref('d', 'ne'), -1), 'ne')).toMatchObject({ pitch: { midi: 63 }, place: null });
    expect(why(shiftPitch(piece, ref('d', 'ne'), 60))).toBe('off-neck');
  });
});

describe('fingers, lengths, joins, rings', () => {
  it('are set on the notes chosen', () => {
    expect(noteAfter(setFinger(piece, ref('a', 'na'), 3), 'na').place).toMatchObject({
      finger: 3,
      fingerBy: 'instructor',
      locked: true,
    });
    expect(why(setFinger(piece, ref('d', 'ne'), 1))).toBe('no-finger');
    expect(why(setFinger(piece, ref('a', 'na'), 0))).toBe('no-finger');
    expect(after(setLength(piece, 'r', ['a', 'b'], quarter(1, 2))).map((event) => event.dur)).toEqual([
      '1/2',
      '1/2',
      '1',
      '1',
    ]);
    expect(joinOf(after(setJoin(piece, 'r', ['b'], 'slide'))[1])).toBe('slide');
    expect(after(setLetRing(piece, 'r', ['c', 'd'], true)).map((event) => event.letRing)).toEqual([
      false,
      false,
      true,
      true,
    ]);
    expect(why(setLetRing(piece, 'r', [], true))).toBe('nothing-chosen');
    expect(why(setLetRing(piece, 'elsewhere', ['a'], true))).toBe('no-riff');
  });
});

describe('events', () => {
  it('removed take the join that led to them along', () => {
    const events = after(removeEvents(piece, 'r', ['b']));
    expect(events.map((event) => [event.id, joinOf(event)])).toEqual([
      ['a', null],
      ['c', null],
      ['d', null],
    ]);
    expect(why(removeEvents(piece, 'r', ['nothing']))).toBe('nothing-chosen');
  });

  it('move in time unless they would land on another or before the riff', () => {
    expect(after(moveEvents(piece, 'r', ['d'], quarter(1, 2))).at(-1)?.at).toBe('7/2');
    expect(why(moveEvents(piece, 'r', ['b'], quarter(1)))).toBe('taken');
    expect(why(moveEvents(piece, 'r', ['a'], quarter(-1)))).toBe('before-start');
    expect(after(moveEvents(piece, 'r', ['b', 'c'], quarter(1, 4))).map((event) => event.at)).toEqual([
      '0',
      '5/4',
      '9/4',
      '3',
    ]);
  });

  it('put in make those that begin within their stretch give way, and no other', () => {
    const fresh = [
      makeEvent('x', quarter(1), quarter(1, 2), [makeNote('y', 60, 'instructor')]),
      makeEvent('x2', quarter(3, 2), quarter(1, 2), [makeNote('y2', 62, 'instructor')]),
    ];
    const events = after(insertEvents(piece, 'r', fresh, quarter(2), 'over-locked'));
    expect(events.map((event) => event.at)).toEqual(['0', '1', '3/2', '2', '3']);
    expect(events.map((event) => event.notes[0]?.pitch.midi)).toEqual([pitch(5, 3), 60, 62, pitch(4, 5), 64]);
    const ids = events.flatMap((event) => [event.id, ...event.notes.map((note) => note.id)]);
    expect(new Set(ids).size).toBe(ids.length);
    expect(why(insertEvents(piece, 'r', [], ZERO))).toBe('nothing');
  });
});

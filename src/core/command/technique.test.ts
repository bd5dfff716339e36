import { describe, expect, it } from 'vitest';
import { must, type Result, fail } from '../base';
import { makeSetup } from '../instrument';
import type { Mend } from '../place';
import { applyEdit, type Edit } from '../edit';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, type Note, type Piece, joinOf } from '../score';
import {
  lockAt,
  mendEdit,
  setSlideBar,
  setCents,
  setTechnique,
  setWish,
  shiftPitch,
  toNextString,
  unlock,
  type NoteRef,
} from './index';
import { quarter, ZERO } from '../time';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const riff = makeRiff('r', 'r', {
  events: [
    makeEvent(
      'a',
      ZERO,
      quarter(2),
      [
        makeNote('n', 57, 'instructor', {
          join: 'hammer',
          place: makePlace(4, 7, 'instructor', { finger: 3, reason: 'seen live' }),
        }),
      ],
      { letRing: true },
    ),
    makeEvent('b', quarter(1), quarter(1), [
      makeNote('m', 60, 'instructor'),
      makeNote('o', 40, 'instructor', { place: makePlace(6, 0, 'instructor') }),
    ]),
  ],
});
const start = makePiece('p', 'p', { parts: [makePart('p0', 'g', setup, { riffs: [riff] })] });
const ref: NoteRef = { riff: 'r', event: 'a', note: 'n' };
const other: NoteRef = { riff: 'r', event: 'b', note: 'm' };
const done = (piece: Piece, made: Result<Edit>): Piece => must(applyEdit(piece, must(made)));
const noteIn = (piece: Piece, id: string): Note =>
  piece.parts[0]?.riffs[0]?.events.flatMap((event) => event.notes).find((note) => note.id === id) as Note;
const why = (made: Result<Edit>): string => (made.ok ? 'ok' : made.error.words);

describe('techniques of a note', () => {
  it('are set, changed and taken away, and leave nothing behind', () => {
    const bent = done(start, setTechnique(start, ref, { bend: 200 }));
    expect(noteIn(bent, 'n').technique).toEqual({ bend: 200 });
    const more = done(bent, setTechnique(bent, ref, { trill: 2, hold: quarter(3) }));
    expect(noteIn(more, 'n').technique).toEqual({ bend: 200, trill: 2, hold: '3' });
    const none = done(more, setTechnique(more, ref, { bend: null, trill: null, hold: null }));
    expect('tech' in noteIn(none, 'n')).toBe(false);
    expect(noteIn(none, 'n')).toEqual(noteIn(start, 'n'));
  });

  it('a harmonic takes the pitch of its node, and gives it back', () => {
    const touched = done(start, setTechnique(start, ref, { harmonic: true }));
    expect(noteIn(touched, 'n').pitch.midi).toBe(50 + 19);
    expect(noteIn(touched, 'n').place).toMatchObject({ string: 4, fret: 7, locked: true, reason: 'seen live' });
    const moved = done(touched, lockAt(touched, ref, 3, 12));
    expect(noteIn(moved, 'n').pitch.midi).toBe(67);
    expect(why(lockAt(moved, ref, 3, 11))).toContain('nodes are at');
    expect(noteIn(done(moved, setTechnique(moved, ref, { harmonic: null })), 'n').pitch.midi).toBe(67);
  });

  it('a dead note needs no finger; alive again it is given one anew', () => {
    const dead = done(start, setTechnique(start, ref, { dead: true }));
    expect(noteIn(dead, 'n').place?.finger).toBe(0);
    expect(noteIn(done(dead, setTechnique(dead, ref, { dead: null })), 'n').place?.finger).toBeNull();
  });

  it('that no hand can do are refused with the reason', () => {
    expect(why(setTechnique(start, { riff: 'r', event: 'b', note: 'o' }, { bend: 100 }))).toContain(
      'no finger that could bend',
    );
    expect(why(setTechnique(start, ref, { dead: true, bend: 100 }))).toContain('dead note');
    expect(why(setTechnique(start, ref, { harmonic: true, trill: 2 }))).toContain('touched');
    expect(why(setTechnique(start, other, { harmonic: true }))).toContain('choose a place');
    expect(why(setTechnique(start, { ...ref, note: 'gone' }, { bend: 100 }))).toContain('not there');
    const high = done(start, lockAt(start, ref, 4, 22));
    expect(why(setTechnique(high, ref, { trill: 2 }))).toContain('beyond the last fret');
  });

  it('with the bar a note lies between frets; without it back on them', () => {
    const bar = done(start, setSlideBar(start, 'r', ['a'], true));
    const flat = done(bar, setCents(bar, ref, -30));
    expect(noteIn(flat, 'n').pitch).toEqual({ midi: 57, cents: -30, by: 'instructor' });
    expect(why(setCents(flat, ref, 120))).toContain('99');
    const off = done(flat, setSlideBar(flat, 'r', ['a'], false));
    expect(noteIn(off, 'n').pitch.cents).toBe(0);
    expect(off.parts[0]?.riffs[0]?.events[0]).toEqual(start.parts[0]?.riffs[0]?.events[0]);
  });
});

describe('wishes', () => {
  const wish = { from: ZERO, to: quarter(2), hand: 7, liking: null, avoid: [1], prefer: [] };
  it('are added in order, changed by id, and taken back', () => {
    const later = done(start, setWish(start, 'r', null, { ...wish, from: quarter(1), hand: 3 }));
    const both = done(later, setWish(later, 'r', null, wish));
    expect(both.parts[0]?.riffs[0]?.wishes?.map((wish) => wish.hand)).toEqual([7, 3]);
    const id = both.parts[0]?.riffs[0]?.wishes?.[0]?.id ?? '';
    const changed = done(both, setWish(both, 'r', id, { ...wish, hand: 9 }));
    expect(changed.parts[0]?.riffs[0]?.wishes?.map((wish) => wish.hand)).toEqual([9, 3]);
    const gone = done(
      done(changed, setWish(changed, 'r', id, null)),
      setWish(
        done(changed, setWish(changed, 'r', id, null)),
        'r',
        changed.parts[0]?.riffs[0]?.wishes?.[1]?.id ?? '',
        null,
      ),
    );
    expect(gone.parts[0]?.riffs[0]?.wishes ?? []).toHaveLength(0);
  });
  it('that can’t be kept are refused: no stretch, a string both ways, no string left', () => {
    expect(why(setWish(start, 'r', null, { ...wish, to: ZERO }))).toContain('ends after it begins');
    expect(why(setWish(start, 'r', null, { ...wish, prefer: [1] }))).toContain('both');
    expect(why(setWish(start, 'r', null, { ...wish, avoid: [1, 2, 3, 4, 5, 6] }))).toContain('Every string');
  });
});

describe('an instructor’s reason', () => {
  it('is never lost: not by another string, not by giving the place back, not by the pitch', () => {
    expect(noteIn(done(start, toNextString(start, ref, -1)), 'n').place?.reason).toBe('seen live');
    const free = done(start, unlock(start, ref));
    expect(noteIn(free, 'n').place?.reason).toBe('seen live');
    expect(noteIn(done(free, shiftPitch(free, ref, 2)), 'n').evidence?.remark).toBe('seen live');
    const again = done(free, {
      ok: true,
      value: {
        type: 'proposePlaces',
        part: 'p0',
        riff: 'r',
        places: [{ note: 'n', place: { ...(noteIn(free, 'n').place ?? makePlace(4, 7, 'solver')), finger: 1 } }],
      },
    });
    expect(noteIn(again, 'n').place?.reason).toBe('seen live');
  });
});

describe('mends as edits', () => {
  const mend = (one: Mend): Piece => done(start, mendEdit(start, 'r', one) ?? fail('none', 'none'));
  const words = 'x';
  it('let a note end where the next begins', () => {
    const event = mend({ kind: 'release', event: 'a', note: 0, words }).parts[0]?.riffs[0]?.events[0];
    expect(event).toMatchObject({ dur: '1', letRing: false });
  });
  it('pick anew, free a place, go an octave, leave a note out or a whole event', () => {
    expect(joinOf(mend({ kind: 'unlink', event: 'a', words }).parts[0]?.riffs[0]?.events[0])).toBeNull();
    expect(noteIn(mend({ kind: 'unlock', event: 'a', note: 0, words }), 'n').place?.locked).toBe(false);
    expect(noteIn(mend({ kind: 'octave', event: 'b', note: 0, by: 12, words }), 'm').pitch.midi).toBe(72);
    expect(mend({ kind: 'leave', event: 'b', note: 0, words }).parts[0]?.riffs[0]?.events[1]?.notes).toHaveLength(1);
    expect(mend({ kind: 'leave', event: 'a', note: 0, words }).parts[0]?.riffs[0]?.events).toHaveLength(1);
  });
  it('play unbent, and allow strings again', () => {
    const bent = done(start, setTechnique(start, ref, { bend: 200 }));
    expect(
      'tech' in
        noteIn(done(bent, mendEdit(bent, 'r', { kind: 'unbend', event: 'a', note: 0, words }) ?? fail('', '')), 'n'),
    ).toBe(false);
    const wished = done(
      start,
      setWish(start, 'r', null, { from: ZERO, to: quarter(4), hand: null, liking: null, avoid: [4], prefer: [] }),
    );
    const allowed = done(wished, mendEdit(wished, 'r', { kind: 'allow', event: 'a', words }) ?? fail('', ''));
    expect(allowed.parts[0]?.riffs[0]?.wishes ?? []).toEqual([]);
  });
  it('leave set-ups to their own page, and say when the note is gone', () => {
    expect(mendEdit(start, 'r', { kind: 'tuning', tuning: 'drop-d', words })).toBeNull();
    expect(mendEdit(start, 'r', { kind: 'unlink', event: 'gone', words })).toMatchObject({ ok: false });
  });
});

import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import {
  checkPiece,
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makeRiff,
  readPiece,
  type Piece,
  type Section,
} from '../score';
import { quarter, ZERO } from '../time';
import { applyEdit, describeEdit, editSchema, invertEdit, patchOf, touchesOf, type Edit } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const variant = { id: 'x1', name: 'last time', change: { replaced: [], removed: ['e1'], inserted: [] } };
const riff = makeRiff('r1', 'Opening', {
  events: [makeEvent('e1', ZERO, quarter(1), [makeNote('n1', 60, 'instructor')])],
  variants: [variant],
});
const bare = makePiece('p', 'P', {
  parts: [makePart('p1', 'Guitar', setup, { riffs: [riff, makeRiff('r2', 'Spare')] })],
});
const verse: Section = {
  id: 's1',
  name: 'Verse',
  kind: 'verse',
  bars: 8,
  context: { key: [{ at: ZERO, tonic: 'G', mode: 'minor' }], chords: [{ at: ZERO, dur: quarter(4), chord: 'Gm' }] },
  rows: [{ part: 'p1', uses: [{ id: 'u1', riff: 'r1', plays: 4, endings: [{ passes: [4, 'last'], variant: 'x1' }] }] }],
};
const done = (piece: Piece, edit: Edit): Piece => must(applyEdit(piece, edit));
const why = (piece: Piece, edit: Edit): string => {
  const made = applyEdit(piece, edit);
  return made.ok ? 'ok' : made.error.rule;
};
const withVerse = done(bare, { type: 'addSection', section: verse, at: 0 });
const whole = done(withVerse, {
  type: 'setForm',
  form: [{ id: 'f1', section: 's1', plays: 2, differences: [{ passes: [2], use: 'u1', variant: 'x1' }] }],
});

describe('sections and form', () => {
  it('are added, changed, ordered and taken back exactly, stored and read again', () => {
    const edits: [Piece, Edit][] = [
      [bare, { type: 'addSection', section: verse, at: 0 }],
      [
        withVerse,
        { type: 'patchSection', section: 's1', set: { name: 'Verse 1', cue: 'after the bell' }, clear: ['context'] },
      ],
      [
        withVerse,
        { type: 'setForm', form: [{ id: 'f1', section: 's1', plays: 3, stop: { kind: 'slowing', bars: 2 } }] },
      ],
      [withVerse, { type: 'removeSection', section: 's1' }],
      [bare, { type: 'patchContext', set: { chords: [{ at: ZERO, dur: quarter(4), chord: 'C' }] }, clear: [] }],
    ];
    for (const [piece, edit] of edits) {
      const after = done(piece, edit);
      expect(must(checkPiece(after))).toBe(after);
      expect({ ...done(after, must(invertEdit(piece, edit))), lastId: 0 }).toEqual({ ...piece, lastId: 0 });
      expect(editSchema.parse(JSON.parse(JSON.stringify(edit)))).toEqual(edit);
      expect(describeEdit(piece, edit).length).toBeGreaterThan(5);
      expect(touchesOf(edit)[0]?.aspects.length).toBeGreaterThan(0);
      expect(must(readPiece(JSON.parse(JSON.stringify(after))))).toEqual(after);
    }
  });

  it('hold what they name: a riff, part, section or variant in use can’t be deleted under them', () => {
    expect(why(withVerse, { type: 'removeRiff', part: 'p1', riff: 'r1' })).toBe('riff-in-use');
    expect(why(withVerse, { type: 'removeRiff', part: 'p1', riff: 'r2' })).toBe('ok');
    expect(why(withVerse, { type: 'removePart', part: 'p1' })).toBe('no-part');
    expect(why(whole, { type: 'removeSection', section: 's1' })).toBe('no-section');
    expect(why(withVerse, { type: 'patchRiff', part: 'p1', riff: 'r1', set: {}, clear: ['variants'] })).toBe(
      'no-variant',
    );
    expect(why(bare, { type: 'setForm', form: [{ id: 'f1', section: 's9', plays: 1 }] })).toBe('no-section');
    expect(why(withVerse, { type: 'addSection', section: verse, at: 0 })).toBe('duplicate-id');
    const twice = { ...verse, id: 's2', rows: [...verse.rows, ...verse.rows] };
    expect(why(bare, { type: 'addSection', section: twice, at: 0 })).not.toBe('ok');
    const stray = { ...verse, rows: [{ part: 'p1', uses: [{ id: 'u1', riff: 'nothing', plays: 1 }] }] };
    expect(why(bare, { type: 'addSection', section: stray, at: 0 })).toBe('riff-in-use');
    const difference = [{ passes: ['odd' as const], use: 'u9' }];
    expect(
      why(withVerse, { type: 'setForm', form: [{ id: 'f1', section: 's1', plays: 1, differences: difference }] }),
    ).toBe('no-use');
  });
});

describe('patches', () => {
  it('rename a riff and leave its tempo, feel, click, plays, picking and key alone', () => {
    const frame = {
      tempo: [{ at: ZERO, bpm: 90 }],
      feel: [{ at: ZERO, swing: 60, unit: '1/2' as const }],
      click: 2,
      plays: 4,
      picking: 'down' as const,
      key: { tonic: 'D', mode: 'minor' as const },
    };
    const full = done(bare, { type: 'patchRiff', part: 'p1', riff: 'r1', set: frame, clear: [] });
    const named = done(full, { type: 'patchRiff', part: 'p1', riff: 'r1', set: { name: 'Closing' }, clear: [] });
    expect(named.parts[0]?.riffs[0]).toMatchObject({ name: 'Closing', ...frame });
    const cleared = done(named, { type: 'patchRiff', part: 'p1', riff: 'r1', set: {}, clear: ['tempo', 'plays'] });
    expect(Object.keys(cleared.parts[0]?.riffs[0] ?? {})).not.toContain('tempo');
    expect(cleared.parts[0]?.riffs[0]).toMatchObject({ click: 2, key: { tonic: 'D' } });
  });

  it('say nothing where nothing would change, and refuse fields that are none', () => {
    expect(patchOf({ name: 'a', plays: 2 as number | undefined }, { name: 'a', plays: 2 })).toBeNull();
    expect(patchOf({ name: 'a', plays: 2 as number | undefined }, { name: 'b', plays: null })).toEqual({
      set: { name: 'b' },
      clear: ['plays'],
    });
    expect(
      editSchema.safeParse({ type: 'patchRiff', part: 'p', riff: 'r', set: { events: [] }, clear: [] }).success,
    ).toBe(false);
    expect(editSchema.safeParse({ type: 'patchRiff', part: 'p', riff: 'r', set: {}, clear: ['name'] }).success).toBe(
      false,
    );
  });
});

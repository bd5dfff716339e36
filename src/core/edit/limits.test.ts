import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { changeEvents, renamePart, setTempo } from '../command';
import { makeSetup } from '../instrument';
import { LIMITS, makeEvent, makeNote, makePart, makePiece, makeRiff, readPiece, type Piece } from '../score';
import { quarter, ZERO } from '../time';
import { applyEdit, compactEdit, invertEdit, readEdit, type Edit } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const sixteenths = (count: number) =>
  Array.from({ length: count }, (_, i) =>
    makeEvent(`e${i}`, quarter(i, 4), quarter(1, 4), [makeNote(`n${i}`, 40 + (i % 20), 'instructor')]),
  );
const pieceOf = (events: number, parts = 1): Piece =>
  makePiece('p', 'Size', {
    lastId: 10_000_000,
    parts: Array.from({ length: parts }, (_, i) =>
      makePart(`p${i}`, `Guitar ${i}`, setup, {
        riffs: [makeRiff(`r${i}`, 'Long', { events: i === 0 ? sixteenths(events) : [] })],
      }),
    ),
  });

describe('what an edit may be, the same on the page and on the server', () => {
  const rulesOf = (edit: unknown): string => {
    const read = readEdit(edit);
    return read.ok ? 'ok' : read.error.words;
  };

  it('names what is too long, out of range or unknown', () => {
    expect(rulesOf(renamePart('p0', 'x'.repeat(121)))).toContain('"name" can\'t be kept');
    expect(rulesOf(setTempo([{ at: ZERO, bpm: 5000 }]))).toContain('"bpm"');
    expect(rulesOf({ type: 'fly' })).toContain("can't be kept");
    expect(rulesOf(null)).toContain("can't be kept");
  });

  it('takes a name cut inside an emoji and one with NUL, mended', () => {
    expect(must(readEdit(renamePart('p0', 'Owls \ud83e')))).toEqual(renamePart('p0', 'Owls \ufffd'));
    expect(must(readEdit(renamePart('p0', 'Ow\u0000ls')))).toEqual(renamePart('p0', 'Owls'));
  });
});

describe('size', () => {
  it('is bounded at every edit as it is on reading: nothing can be made that can’t be read', () => {
    const full = pieceOf(4, LIMITS.parts);
    const one = full.parts[0];
    if (!one) throw new Error('no part');
    const edit: Edit = { type: 'addPart', at: 0, part: { ...one, id: 'more', riffs: [] } };
    const refused = applyEdit(full, edit);
    expect(refused.ok ? '' : refused.error.words).toBe(
      `${LIMITS.parts + 1} parts in a piece: ${LIMITS.parts} at most. Put the rest into a piece of its own.`,
    );
    const tooLong = applyEdit(pieceOf(LIMITS.events), {
      type: 'putEvents',
      part: 'p0',
      riff: 'r0',
      put: [makeEvent('more', quarter(20_000), quarter(1), [makeNote('m', 50, 'instructor')])],
      remove: [],
    });
    expect(tooLong.ok ? '' : tooLong.error.rule).toBe('too-large');
    const crowded = readPiece({ ...full, parts: [...full.parts, { ...one, id: 'more', riffs: [] }] });
    expect(crowded.ok).toBe(false);
  });

  it('of a piece that is too large already can be brought down, not up', () => {
    const full = pieceOf(4, LIMITS.parts);
    const one = full.parts[1];
    if (!one) throw new Error('no part');
    const more = [0, 1, 2].map((i) => ({ ...one, id: `more${i}`, riffs: [] }));
    const crowded = { ...full, parts: [...full.parts, ...more] };
    const renamed = applyEdit(crowded, renamePart('p0', 'Still readable'));
    expect(renamed.ok).toBe(true);
    const smaller = must(applyEdit(crowded, { type: 'removePart', part: 'more0' }));
    expect(smaller.parts).toHaveLength(LIMITS.parts + 2);
    expect(applyEdit(smaller, { type: 'addPart', at: 0, part: { ...one, id: 'again', riffs: [] } }).ok).toBe(false);
  });

  it('of a form are those of what it comes to when it is played', () => {
    const section = {
      id: 's',
      name: 'Verse',
      kind: 'verse' as const,
      bars: 40,
      rows: [{ part: 'p0', uses: [{ id: 'u', riff: 'r0', plays: 9 }] }],
    };
    const form = (plays: number) => ({ type: 'setForm' as const, form: [{ id: 'f', section: 's', plays }] });
    const verse = must(applyEdit(pieceOf(40), { type: 'addSection', section, at: 0 }));
    const played = must(applyEdit(verse, form(250)));
    const long = applyEdit(played, form(251));
    expect(long.ok ? '' : long.error.words).toContain('10040 bars in the form: 10000 at most');
    const dense = must(applyEdit(pieceOf(4000), { type: 'addSection', section, at: 0 }));
    expect(applyEdit(dense, form(5)).ok).toBe(true);
    const many = applyEdit(dense, form(6));
    expect(many.ok ? '' : many.error.words).toContain('216000 notes and chords for');
    expect(readPiece({ ...played, form: [{ id: 'f', section: 's', plays: 900 }] }).ok).toBe(false);
  });

  it('of a mark set over 300 bars is a small part of the riff, there and back', () => {
    const piece = pieceOf(4800);
    const ids = piece.parts[0]?.riffs[0]?.events.map((event) => event.id) ?? [];
    const whole = must(changeEvents(piece, 'r0', ids, (event) => ({ ...event, mute: 'palm' })));
    const short = compactEdit(piece, whole);
    const bytes = JSON.stringify([short, must(invertEdit(piece, short))]).length;
    expect(bytes).toBeLessThan(JSON.stringify([whole, must(invertEdit(piece, whole))]).length / 20);
    expect(must(applyEdit(piece, short))).toEqual(must(applyEdit(piece, whole)));
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { freshIds, idNumber, must } from '../base';
import {
  addGrace,
  insertEvents,
  insertPart,
  insertRiff,
  keepAlternative,
  putSpecial,
  removeEvents,
  setWish,
} from '../command';
import { makeEvent, makeNote, makeRiff, type Piece } from '../score';
import { pieceArbitrary } from '../score/test-support/arbitrary';
import { quarter } from '../time';
import { applyEdit, invertEdit, type Edit } from './index';

/** Ids of everything in a piece that is found by one, with what they stand for. */
function idsIn(piece: Piece): Map<string, string> {
  const ids = new Map<string, string>();
  for (const part of piece.parts) {
    ids.set(part.id, 'part');
    for (const riff of part.riffs) {
      ids.set(riff.id, 'riff');
      for (const wish of riff.wishes ?? []) ids.set(wish.id, 'wish');
      for (const one of riff.alternatives ?? []) ids.set(one.id, 'alternative');
      for (const event of riff.events) {
        ids.set(event.id, 'event');
        for (const note of event.notes) ids.set(note.id, 'note');
      }
    }
  }
  return ids;
}

/** Every way of making something new. */
function made(piece: Piece, pick: (below: number) => number): Edit | null {
  const part = piece.parts[pick(piece.parts.length)];
  const riff = part?.riffs[pick(part.riffs.length)];
  if (!part || !riff) return null;
  const event = riff.events[pick(riff.events.length)];
  const at = quarter(pick(24), 2);
  const fresh = makeEvent('x', at, quarter(1), [makeNote('y', 60, 'instructor')]);
  const wish = { from: quarter(0), to: quarter(2), hand: 5, liking: null, avoid: [], prefer: [] };
  const answers = [
    () => insertEvents(piece, riff.id, [fresh], at),
    () => addGrace(piece, riff.id, event?.id ?? ''),
    () => putSpecial(piece, riff.id, 'hole', at, quarter(1)),
    () => setWish(piece, riff.id, null, wish),
    () => keepAlternative(piece, riff.id, quarter(0), quarter(4), 'kept'),
    () => removeEvents(piece, riff.id, event ? [event.id] : []),
    () => ({ ok: true as const, value: insertPart(piece, part).edit }),
    () => {
      const answer = insertRiff(piece, part.id, makeRiff('r', 'New', { events: [fresh] }));
      return answer.ok ? { ok: true as const, value: answer.value.edit } : answer;
    },
  ];
  const answer = answers[pick(answers.length)]?.();
  return answer?.ok ? answer.value : null;
}

describe('ids', () => {
  it('are never given twice in a piece’s life: not after deletions, nor after undoing', () => {
    fc.assert(
      fc.property(
        pieceArbitrary,
        fc.array(fc.nat({ max: 1_000_000 }), { minLength: 60, maxLength: 200 }),
        (start, numbers) => {
          let next = 0;
          const pick = (below: number): number => (below <= 0 ? 0 : (numbers[next++ % numbers.length] ?? 0) % below);
          let piece = start;
          const given = new Set(idsIn(start).keys());
          const undone: Edit[] = [];
          for (let turn = 0; turn < 25; turn++) {
            const back = pick(3) === 0 ? undone.pop() : undefined;
            const edit = back ?? made(piece, pick);
            if (!edit) continue;
            const inverse = invertEdit(piece, edit);
            const after = applyEdit(piece, edit);
            if (!after.ok || !inverse.ok) continue;
            const before = idsIn(piece);
            const appeared = [...idsIn(after.value).keys()].filter((id) => !before.has(id));
            // What comes back is what was there; what is new has a number nobody had.
            for (const id of appeared) expect(given.has(id), id).toBe(back !== undefined);
            for (const id of appeared) given.add(id);
            expect(after.value.lastId).toBeGreaterThanOrEqual(piece.lastId);
            if (!back) undone.push(must(inverse));
            piece = after.value;
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('count up in one row whatever their letter, and other ids are no numbers', () => {
    const fresh = freshIds(0);
    const ids = Array.from({ length: 2000 }, (_, i) => fresh('env'.charAt(i % 3)));
    expect(new Set(ids.map((id) => id.slice(1))).size).toBe(2000);
    expect(ids.map(idNumber)).toEqual(ids.map((_, i) => i + 1));
    for (const other of ['', 'e', 'chorus', 'p-1', '930eaff5280b12', 'e!']) expect(idNumber(other)).toBe(0);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makePiece, SAID_LIMITS, type Piece } from '../score';
import { applyEdit, describeEdit, invertEdit, readEdit, type Edit } from './index';

const start = makePiece('p', 'Moth');
const claim = (id: string, words: string): Edit => ({ type: 'putClaim', id, claim: { id, words } });
const answer = (finding: string, reason = ''): Edit => ({
  type: 'answerFinding',
  finding,
  answer: { finding, ground: 'g1', answer: 'meant', reason },
});

/** Any edit of what is said, over a few names. */
const said = fc.oneof(
  fc
    .tuple(fc.constantFrom('c1', 'c2', 'c3'), fc.constantFrom('Dorian', 'played twice'))
    .map(([id, words]) => claim(id, words)),
  fc.constantFrom('c1', 'c2', 'c3').map((id): Edit => ({ type: 'putClaim', id })),
  fc
    .tuple(fc.constantFrom('copy.1', 'key.2'), fc.constantFrom('', 'the lamp'))
    .map(([id, reason]) => answer(id, reason)),
  fc.constantFrom('copy.1', 'key.2').map((finding): Edit => ({ type: 'answerFinding', finding })),
);

describe('what is said and answered', () => {
  it('is taken back exactly, in any order of doing', () => {
    fc.assert(
      fc.property(fc.array(said, { maxLength: 12 }), (edits) => {
        let piece: Piece = start;
        const back: Edit[] = [];
        for (const edit of edits) {
          back.unshift(must(invertEdit(piece, edit)));
          piece = must(applyEdit(piece, edit));
        }
        for (const edit of back) piece = must(applyEdit(piece, edit));
        expect({ ...piece, lastId: start.lastId }).toEqual(start);
      }),
    );
  });

  it('is one of a name, absent where there is none, and told in words', () => {
    const once = must(applyEdit(start, claim('c1', 'Dorian')));
    const other = must(applyEdit(once, claim('c1', 'Lydian')));
    expect(other.claims).toEqual([{ id: 'c1', words: 'Lydian' }]);
    expect(must(applyEdit(other, { type: 'putClaim', id: 'c1' })).claims).toBeUndefined();
    expect(describeEdit(start, claim('c1', 'Dorian'))).toBe('said of it: "Dorian"');
    expect(describeEdit(once, { type: 'putClaim', id: 'c1' })).toBe('took back "Dorian"');
    expect(describeEdit(start, answer('copy.1', 'the lamp'))).toBe('called a question meant: the lamp');
    expect(describeEdit(start, { type: 'answerFinding', finding: 'x' })).toBe('opened a question again');
  });

  it('is refused under another name, malformed, and beyond its bounds', () => {
    expect(applyEdit(start, { type: 'putClaim', id: 'c2', claim: { id: 'c1', words: 'Dorian' } }).ok).toBe(false);
    expect(readEdit({ type: 'putClaim', id: 'c1', claim: { id: 'c1', words: '' } }).ok).toBe(false);
    expect(readEdit({ type: 'answerFinding', finding: 'Not A Name' }).ok).toBe(false);
    const many = {
      ...start,
      claims: Array.from({ length: SAID_LIMITS.claims }, (_, i) => ({ id: `k${i}`, words: 'x' })),
    };
    expect(applyEdit(many, claim('c1', 'one more')).ok).toBe(false);
    expect(applyEdit(many, claim('k1', 'said otherwise')).ok).toBe(true);
  });

  it('keeps what was heard, one of each riff', () => {
    const heard = (source: string): Edit => ({
      type: 'putHearing',
      riff: 'r1',
      hearing: { riff: 'r1', source, from: '0', to: '4', notes: [{ at: 0.51, midi: 40 }] } as never,
    });
    const kept = must(applyEdit(must(applyEdit(start, heard('matinee'))), heard('evening')));
    expect(kept.hearings?.map(({ source }) => source)).toEqual(['evening']);
    expect(must(applyEdit(kept, { type: 'putHearing', riff: 'r1' })).hearings).toBeUndefined();
    expect(describeEdit(start, heard('matinee'))).toBe('kept what was heard in "matinee"');
  });
});

import { fail, freshIds, ok, type Result } from '../base';
import type { Edit } from '../edit';
import type { Answer, Claim, Hearing, Piece } from '../score';

/** What is said of a piece and answered to its questions, as edits. */

/** Something said of a stretch, in words. */
export function addClaim(piece: Piece, words: string, about: Omit<Claim, 'id' | 'words'> = {}): Result<Edit> {
  const text = words.trim().slice(0, 300);
  if (text === '') return fail('no-words', 'Say something first: "all A minor pentatonic".', 'words');
  const id = freshIds(piece.lastId)('c');
  return ok({ type: 'putClaim', id, claim: { id, words: text, ...about } });
}

export const dropClaim = (id: string): Edit => ({ type: 'putClaim', id });

/** An answer to a finding as it stands; null opens it again. */
export function answerTo(
  finding: { readonly id: string; readonly ground: string },
  answer: Answer['answer'] | null,
  reason = '',
): Edit {
  if (answer === null) return { type: 'answerFinding', finding: finding.id };
  return {
    type: 'answerFinding',
    finding: finding.id,
    answer: { finding: finding.id, ground: finding.ground, answer, reason: reason.trim().slice(0, 300) },
  };
}

/** What was heard where a riff is played, to be compared with what is written there. */
export const keepHearing = (hearing: Hearing): Edit => ({
  type: 'putHearing',
  riff: hearing.riff,
  hearing: { ...hearing, notes: hearing.notes.map((note) => ({ ...note, at: Math.round(note.at * 1000) / 1000 })) },
});
export const dropHearing = (riff: string): Edit => ({ type: 'putHearing', riff });

import { z } from 'zod';
import { fail, ok } from '../base';
import { answerSchema, claimSchema, hearingSchema, SAID_LIMITS, type Piece } from '../score';
import { spec } from './spec';

/** Claims, answers to questions, and what was heard: each kept beside the notes and changed one at a time. */

const said = { part: null, riff: null, aspects: ['said'] } as const;

/** A list with one of its items put, or taken out; at its end where it is new. */
function put<Item>(list: readonly Item[] = [], same: (one: Item) => boolean, item: Item | null): Item[] {
  if (item === null) return list.filter((one) => !same(one));
  return list.some(same) ? list.map((one) => (same(one) ? item : one)) : [...list, item];
}

/** A list of the document: absent where nothing is in it. */
const kept = <Key extends 'claims' | 'answers' | 'hearings'>(
  piece: Piece,
  key: Key,
  list: NonNullable<Piece[Key]>,
): Piece => {
  const { [key]: _, ...rest } = piece;
  return (list.length === 0 ? rest : { ...piece, [key]: list }) as Piece;
};

const full = (what: string, most: number) =>
  fail('too-large', `There are ${most} ${what} already: delete some first.`, {});

/** What is said about a stretch; without a claim the one of that id is taken out. */
export const putClaim = spec({
  schema: z.object({ type: z.literal('putClaim'), id: z.string(), claim: claimSchema.optional() }),
  apply: (piece, { id, claim }) => {
    if (claim && claim.id !== id) return fail('claim-id', 'A claim is put under its own id.', {});
    const list = put(piece.claims, (one) => one.id === id, claim ?? null);
    return list.length > SAID_LIMITS.claims ? full('claims', SAID_LIMITS.claims) : ok(kept(piece, 'claims', list));
  },
  invert: (piece, { id }) => {
    const before = piece.claims?.find((one) => one.id === id);
    return ok({ type: 'putClaim', id, ...(before ? { claim: before } : {}) });
  },
  describe: (piece, { id, claim }) =>
    claim
      ? `said of it: "${claim.words}"`
      : `took back "${piece.claims?.find((one) => one.id === id)?.words ?? 'what was said'}"`,
  touches: () => said,
});

const ANSWERS = { meant: 'called a question meant', later: 'put a question off' } as const;

/** What is answered to a question; without an answer the question is open again. */
export const answerFinding = spec({
  schema: z.object({
    type: z.literal('answerFinding'),
    finding: answerSchema.shape.finding,
    answer: answerSchema.optional(),
  }),
  apply: (piece, { finding, answer }) => {
    if (answer && answer.finding !== finding) return fail('answer-id', 'An answer is put under its own question.', {});
    const list = put(piece.answers, (one) => one.finding === finding, answer ?? null);
    return list.length > SAID_LIMITS.answers ? full('answers', SAID_LIMITS.answers) : ok(kept(piece, 'answers', list));
  },
  invert: (piece, { finding }) => {
    const before = piece.answers?.find((one) => one.finding === finding);
    return ok({ type: 'answerFinding', finding, ...(before ? { answer: before } : {}) });
  },
  describe: (_, { answer }) =>
    answer ? `${ANSWERS[answer.answer]}${answer.reason ? `: ${answer.reason}` : ''}` : 'opened a question again',
  touches: () => said,
});

/** What was heard where a riff is played; without it what was kept of that riff is taken out. */
export const putHearing = spec({
  schema: z.object({ type: z.literal('putHearing'), riff: z.string(), hearing: hearingSchema.optional() }),
  apply: (piece, { riff, hearing }) => {
    if (hearing && hearing.riff !== riff) return fail('hearing-riff', 'What was heard is kept under its own riff.', {});
    const list = put(piece.hearings, (one) => one.riff === riff, hearing ?? null);
    return list.length > SAID_LIMITS.hearings
      ? full('riffs with what was heard', SAID_LIMITS.hearings)
      : ok(kept(piece, 'hearings', list));
  },
  invert: (piece, { riff }) => {
    const before = piece.hearings?.find((one) => one.riff === riff);
    return ok({ type: 'putHearing', riff, ...(before ? { hearing: before } : {}) });
  },
  describe: (_, { hearing }) => (hearing ? `kept what was heard in "${hearing.source}"` : 'let go of what was heard'),
  touches: () => said,
});

'use server';

import { z } from 'zod';
import { ok, wellFormed, type Result } from '@/core/base';
import { migrateStep, stepSchema, type Step } from '@/core/edit';
import { pieceId, refusedId } from '@/server/ids';
import { action } from '@/server/action';
import { saveSteps, settleStale, type SaveAnswer } from '@/server/pieces';
import { lastSteps, type LoggedStep } from '@/server/repositories/history';

const MOST_REVISIONS = 2_000_000_000;
/** Steps a save takes at most: a longer queue is sent in portions. */
const MOST_STEPS = 500;

/** A window that is still open from before an update sends edits as they were then. */
const anyStep = z.preprocess(
  (step) => (typeof step === 'object' && step !== null ? migrateStep(wellFormed(step)) : step),
  stepSchema,
);

const saveInput = z.object({
  piece: pieceId,
  base: z.number().int().min(0).max(MOST_REVISIONS),
  save: z.string().regex(/^[\w-]{8,60}$/, 'no id of a save'),
  steps: z.array(anyStep).min(1).max(MOST_STEPS),
});

export interface SaveInput {
  readonly piece: string;
  readonly base: number;
  readonly save: string;
  readonly steps: readonly Step[];
}

const saveSteppedAction = action(
  'write',
  z.tuple([saveInput]),
  ({ actor, db }, { piece, base, save, steps }): Promise<SaveAnswer> =>
    saveSteps(db, actor, piece, base, save, steps as readonly Step[]),
  ({ locus, words }): SaveAnswer => {
    const [field, step] = locus.path ?? [];
    return { status: 'rejected', message: words, step: field === 'steps' && typeof step === 'number' ? step : null };
  },
);

export async function saveAction(input: SaveInput): Promise<SaveAnswer> {
  return saveSteppedAction(input);
}

/**
 * Settles a refused save, with what was done since it was sent; gives the path of the piece made of it when it is
 * kept.
 */
const settleSteppedAction = action(
  'write',
  z.tuple([refusedId, z.boolean(), z.array(anyStep).max(20_000)]),
  async ({ actor, db }, refused, keep, more): Promise<Result<string | null>> => {
    const made = await settleStale(db, actor, refused, keep, more as readonly Step[]);
    return made.ok ? ok(made.value && `/pieces/${made.value.id}`) : made;
  },
  (why): Result<string | null> => ({ ok: false, error: why }),
);

export async function settleAction(
  refused: string,
  keep: boolean,
  more: readonly Step[],
): Promise<Result<string | null>> {
  return settleSteppedAction(refused, keep, more as never);
}

/** The steps of a piece up to a revision that can still be taken back, a page of them. */
export const historyAction = action(
  'read',
  z.tuple([pieceId, z.number().int().min(0).max(MOST_REVISIONS)]),
  ({ actor, db }, piece, upTo): Promise<LoggedStep[]> => lastSteps(db, actor, piece, upTo),
);

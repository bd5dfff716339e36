'use server';

import { z } from 'zod';
import { pathWords } from '@/core/base';
import { migrateStep, stepSchema, type Step } from '@/core/edit';
import { pieceId, refusedId } from '@/server/ids';
import { action } from '@/server/action';
import { saveSteps, settleStale, type SaveAnswer } from '@/server/pieces';

/** A window that is still open from before an update sends edits as they were then. */
const anyStep = z.preprocess(
  (step) => (typeof step === 'object' && step !== null ? migrateStep(step) : step),
  stepSchema,
);

const saveInput = z.object({
  piece: pieceId,
  base: z.number().int().min(0),
  save: z.string().min(8).max(60),
  steps: z.array(anyStep).min(1).max(2000),
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
  ({ locus, words }): SaveAnswer => ({
    status: 'rejected',
    message: `The change can't be kept: ${words} (${pathWords(locus)}).`,
  }),
);

export async function saveAction(input: SaveInput): Promise<SaveAnswer> {
  return saveSteppedAction(input);
}

/** Settles a refused save; gives the path of the piece made of it when it is kept. */
export const settleAction = action(
  'write',
  z.tuple([refusedId, z.boolean()]),
  async ({ actor, db }, refusedId, keep): Promise<string | null> => {
    const made = await settleStale(db, actor, refusedId, keep);
    return made.ok && made.value ? `/pieces/${made.value.id}` : null;
  },
);

'use server';

import { z } from 'zod';
import { migrateStep, stepSchema, type Step } from '@/core/edit';
import { currentStudio, db } from '@/server/context';
import { saveSteps, settleStale, type SaveAnswer } from '@/server/pieces';

const saveInput = z.object({
  piece: z.string().max(40),
  base: z.number().int().min(0),
  save: z.string().min(8).max(60),
  // A window that is still open from before an update sends edits as they were then.
  steps: z
    .array(z.preprocess((step) => (typeof step === 'object' && step !== null ? migrateStep(step) : step), stepSchema))
    .min(1)
    .max(2000),
});

export interface SaveInput {
  readonly piece: string;
  readonly base: number;
  readonly save: string;
  readonly steps: readonly Step[];
}

export async function saveAction(input: SaveInput): Promise<SaveAnswer> {
  const parsed = saveInput.safeParse(input);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return {
      status: 'rejected',
      message: `The change can't be kept: ${issue?.message ?? 'malformed'} (${issue?.path.join('.') ?? ''}).`,
    };
  }
  const { piece, base, save, steps } = parsed.data;
  return saveSteps(db(), currentStudio(), piece, base, save, steps);
}

/** Settles a refused save; gives the path of the piece made of it when it is kept. */
export async function settleAction(refusedId: string, keep: boolean): Promise<string | null> {
  const made = await settleStale(db(), currentStudio(), z.string().max(60).parse(refusedId), z.boolean().parse(keep));
  return made.ok && made.value ? `/pieces/${made.value.id}` : null;
}

import { z } from 'zod';
import { wellFormed } from '@/core/base';
import { migrateStep, stepSchema, type Step } from '@/core/edit';
import { SCHEMA_VERSION } from '@/core/score';
import { action } from './action';
import { pieceId } from './ids';
import { saveSteps, type SaveAnswer } from './pieces';

export const MOST_REVISIONS = 2_000_000_000;
/** Steps a save takes at most: a longer queue is sent in portions. */
const MOST_STEPS = 500;
/** Bytes a save takes at most: a long imported part travels in one step. */
export const MOST_SAVE_BYTES = 24 * 1024 * 1024;

/** A window that is still open from before an update sends edits as they were then. */
export const anyStep = z.preprocess(
  (step) => (typeof step === 'object' && step !== null ? migrateStep(wellFormed(step)) : step),
  stepSchema,
);

const saveInput = z.object({
  piece: pieceId,
  base: z.number().int().min(0).max(MOST_REVISIONS),
  save: z.string().regex(/^[\w-]{8,60}$/, 'no id of a save'),
  steps: z.array(anyStep).min(1).max(MOST_STEPS),
});

/** Steps made in a window on the revision `base`, under an id of their own: sent again, they are kept once. */
export interface SaveInput {
  readonly piece: string;
  readonly base: number;
  readonly save: string;
  readonly steps: readonly Step[];
}

/** Saves what a window sends; what can't be kept is answered with the step and the reason. */
export const save = action(
  'write',
  z.tuple([saveInput]),
  ({ actor, db }, { piece, base, save, steps }): Promise<SaveAnswer> =>
    saveSteps(db, actor, piece, base, save, steps as readonly Step[]),
  ({ locus, words }): SaveAnswer => {
    const [field, step] = locus.path ?? [];
    return { status: 'rejected', message: words, step: field === 'steps' && typeof step === 'number' ? step : null };
  },
);

/** Whether steps were written by a newer program than this one: they are not wrong, and may not be set aside here. */
export const ofNewerProgram = (sent: unknown): boolean => {
  const { steps } = (sent ?? {}) as { readonly steps?: unknown };
  return (
    Array.isArray(steps) &&
    steps.some((step) => Number((step as { readonly version?: unknown } | null)?.version) > SCHEMA_VERSION)
  );
};

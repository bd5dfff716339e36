'use server';

import { z } from 'zod';
import { ok, type Result } from '@/core/base';
import type { Step } from '@/core/edit';
import { pieceId, refusedId } from '@/server/ids';
import { action } from '@/server/action';
import { settleStale } from '@/server/pieces';
import { anyStep, MOST_REVISIONS } from '@/server/saving';
import { lastSteps, type LoggedStep } from '@/server/repositories/history';

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

'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { fail, ok, stableId, type Result, pathOf } from '@/core/base';
import { costTableSchema, profileSchema, type CostTable, type Profile } from '@/core/hand';
import type { PieceCosts, Player } from '@/core/score';
import { currentStudio, db } from '@/server/context';
import { acceptFit, askFit, setFitAside } from '@/server/learning';
import {
  addCostTable,
  latestFit,
  listPlayers,
  putPlayer,
  setPlayerDeleted,
  type KeptFit,
} from '@/server/repositories/learning';

const id = z.string().max(60);
const everywhere = (): void => revalidatePath('/', 'layout');

const playerInput = z.object({
  id: z
    .string()
    .regex(/^[a-z0-9-]{1,40}$/)
    .nullable(),
  name: z.string().trim().min(1, 'give the hand a name').max(80),
  profile: profileSchema,
});

/** Keeps a player's hand; a new one gets an id. */
export async function savePlayerAction(player: {
  readonly id: string | null;
  readonly name: string;
  readonly profile: Profile;
}): Promise<Result<Player>> {
  const parsed = playerInput.safeParse(player);
  if (!parsed.success)
    return fail('schema', `${parsed.error.issues[0]?.message ?? 'malformed'}.`, {
      path: pathOf(parsed.error.issues[0]?.path),
    });
  const taken = new Set((await listPlayers(db(), currentStudio())).map((p) => p.id ?? ''));
  const kept = { ...parsed.data, id: parsed.data.id ?? stableId('h', new Set([...taken, 'adult'])) };
  await putPlayer(db(), currentStudio(), kept);
  everywhere();
  return ok(kept);
}

export async function deletePlayerAction(player: string, deleted: boolean): Promise<boolean> {
  const done = await setPlayerDeleted(db(), currentStudio(), id.parse(player), z.boolean().parse(deleted));
  everywhere();
  return done;
}

/** Keeps a cost table under a version of its own. */
export async function saveCostsAction(name: string, weights: CostTable): Promise<Result<PieceCosts>> {
  const parsed = z
    .object({ name: z.string().trim().min(1, 'give the table a name').max(80), weights: costTableSchema })
    .safeParse({ name, weights });
  if (!parsed.success)
    return fail(
      'schema',
      `${parsed.error.issues[0]?.path.join('.') ?? ''}: ${parsed.error.issues[0]?.message ?? 'malformed'}.`,
      { path: pathOf(parsed.error.issues[0]?.path) },
    );
  const kept = await addCostTable(db(), currentStudio(), parsed.data.name, parsed.data.weights as CostTable);
  everywhere();
  return ok(kept);
}

export async function askFitAction(): Promise<Result<KeptFit>> {
  return askFit(db(), currentStudio());
}

export async function latestFitAction(): Promise<KeptFit | null> {
  return latestFit(db(), currentStudio());
}

export async function acceptFitAction(fit: string): Promise<Result<PieceCosts>> {
  const done = await acceptFit(db(), currentStudio(), id.parse(fit));
  if (done.ok) everywhere();
  return done;
}

export async function setFitAsideAction(fit: string): Promise<boolean> {
  return setFitAside(db(), currentStudio(), id.parse(fit));
}

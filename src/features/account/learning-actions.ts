'use server';

import { z } from 'zod';
import { ok, pathWords, stableId, type Finding, type Result } from '@/core/base';
import { costTableSchema, profileSchema, type CostTable } from '@/core/hand';
import type { PieceCosts, Player } from '@/core/score';
import { fitId, playerId } from '@/server/ids';
import { action } from '@/server/action';
import { acceptFit, askFit, setFitAside } from '@/server/learning';
import {
  addCostTable,
  latestFit,
  listPlayers,
  putPlayer,
  setPlayerDeleted,
  type KeptFit,
} from '@/server/repositories/learning';

const refused = (error: Finding): { readonly ok: false; readonly error: Finding } => ({ ok: false, error });

const playerInput = z.object({
  id: z
    .string()
    .regex(/^[a-z0-9-]{1,40}$/)
    .nullable(),
  name: z.string().trim().min(1, 'give the hand a name').max(80),
  profile: profileSchema,
});

/** Keeps a player's hand; a new one gets an id. */
export const savePlayerAction = action(
  'write',
  z.tuple([playerInput]),
  async ({ actor, db }, player): Promise<Result<Player>> => {
    const taken = new Set((await listPlayers(db, actor)).map((one) => one.id ?? ''));
    const kept = { ...player, id: player.id ?? stableId('h', new Set([...taken, 'adult'])) };
    await putPlayer(db, actor, kept);
    return ok(kept);
  },
  (why) => refused({ ...why, words: `${why.words}.` }),
);

export const deletePlayerAction = action('write', z.tuple([playerId, z.boolean()]), ({ actor, db }, player, deleted) =>
  setPlayerDeleted(db, actor, player, deleted),
);

const tableName = z.string().trim().min(1, 'give the table a name').max(80);

/** Keeps a cost table under a version of its own. */
export const saveCostsAction = action(
  'write',
  z.tuple([z.object({ name: tableName, weights: costTableSchema })]),
  async ({ actor, db }, { name, weights }): Promise<Result<PieceCosts>> => {
    const kept = await addCostTable(db, actor, name, weights as CostTable);
    return ok(kept);
  },
  (why) => refused({ ...why, words: `${pathWords(why.locus)}: ${why.words}.` }),
);

export const askFitAction = action('write', z.tuple([]), ({ actor, db }): Promise<Result<KeptFit>> =>
  askFit(db, actor),
);

export const latestFitAction = action('read', z.tuple([]), ({ actor, db }) => latestFit(db, actor));

export const acceptFitAction = action('write', z.tuple([fitId]), ({ actor, db }, fit) => acceptFit(db, actor, fit));

export const setFitAsideAction = action('write', z.tuple([fitId]), ({ actor, db }, fit) => setFitAside(db, actor, fit));

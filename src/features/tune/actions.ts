'use server';

import { z } from 'zod';
import { instrumentId } from '@/server/ids';
import { action } from '@/server/action';
import { addReadings, deleteReading, listReadings } from '@/server/repositories/rack';

const readingId = z.string().regex(/^\d{1,18}$/);
const readingInput = z.object({
  string: z.number().int().min(1).max(12),
  kind: z.enum(['open', 'capo', 'harmonic12', 'stopped12']),
  capo: z.number().int().min(0).max(12),
  cents: z.number().min(-1200).max(1200),
});

/** Writes a reading into an instrument's tuner log; gives the log as it is then. */
export const logReadingAction = action(
  'write',
  z.tuple([instrumentId, readingInput]),
  async ({ actor, db }, instrument, reading) => {
    await addReadings(db, actor, instrument, [reading]);
    return listReadings(db, actor, instrument);
  },
);

export const readingsAction = action('read', z.tuple([instrumentId]), ({ actor, db }, instrument) =>
  listReadings(db, actor, instrument),
);

/** Strikes a reading that can't be true; gives the log as it is then. */
export const deleteReadingAction = action(
  'write',
  z.tuple([instrumentId, readingId]),
  async ({ actor, db }, instrument, reading) => {
    await deleteReading(db, actor, reading);
    return listReadings(db, actor, instrument);
  },
);

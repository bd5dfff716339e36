'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { pathWords, type Result } from '@/core/base';
import { ownTuningSchema, rackInstrumentSchema, type RackInstrument, type Tuning } from '@/core/instrument';
import { instrumentId, tuningId } from '@/server/ids';
import { action } from '@/server/action';
import { copyInstrument, importRack, keepTuning, saveInstrument, type RackSave } from '@/server/rack';
import { listTones } from '@/server/repositories/pieces';
import { setInstrumentDeleted, setTuningDeleted } from '@/server/repositories/rack';

const everywhere = (): void => revalidatePath('/', 'layout');

/** Puts a copy of an instrument on the rack; gives its id. */
export const copyInstrumentAction = action(
  'write',
  z.tuple([z.string().max(60), z.string().max(200)]),
  async ({ actor, db }, source, name): Promise<Result<string>> => {
    const made = await copyInstrument(db, actor, source, name);
    if (!made.ok) return made;
    everywhere();
    return { ok: true, value: made.value.instrument.id };
  },
);

export const saveInstrumentAction = action(
  'write',
  z.tuple([rackInstrumentSchema, z.number().int().min(0)]),
  async ({ actor, db }, document, revision): Promise<RackSave> => {
    const saved = await saveInstrument(db, actor, document as RackInstrument, revision);
    if (saved.status === 'saved') everywhere();
    return saved;
  },
  ({ locus, words }): RackSave => {
    const at = pathWords(locus);
    return {
      status: 'refused',
      at: at.replace(/^instrument\./, ''),
      message: `${at || 'The instrument'}: ${words}.`,
    };
  },
);

export const deleteInstrumentAction = action(
  'write',
  z.tuple([instrumentId, z.boolean()]),
  async ({ actor, db }, instrument, deleted) => {
    const done = await setInstrumentDeleted(db, actor, instrument, deleted);
    everywhere();
    return done;
  },
);

export const keepTuningAction = action(
  'write',
  z.tuple([ownTuningSchema.omit({ id: true })]),
  async ({ actor, db }, tuning): Promise<Result<Tuning>> => {
    const kept = await keepTuning(db, actor, tuning);
    if (kept.ok) everywhere();
    return kept;
  },
  (why): Result<Tuning> => ({
    ok: false,
    error: { ...why, words: `${pathWords(why.locus) || 'tuning'}: ${why.words}.` },
  }),
);

export const deleteTuningAction = action(
  'write',
  z.tuple([tuningId, z.boolean()]),
  async ({ actor, db }, tuning, deleted) => {
    const done = await setTuningDeleted(db, actor, tuning, deleted);
    everywhere();
    return done;
  },
);

export const importRackAction = action('write', z.tuple([z.string()]), async ({ actor, db }, text) => {
  const read = await importRack(db, actor, text);
  if (read.ok) everywhere();
  return read;
});

/** Sounds written down in the studio's pieces, each with where: to be copied to another part. */
export const tonesAction = action('read', z.tuple([]), ({ actor, db }) => listTones(db, actor));

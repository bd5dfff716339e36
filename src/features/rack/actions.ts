'use server';

import { z } from 'zod';
import { pathWords, type Result } from '@/core/base';
import { ownTuningSchema, rackInstrumentSchema, type RackInstrument, type Tuning } from '@/core/instrument';
import { instrumentId, tuningId } from '@/server/ids';
import { action } from '@/server/action';
import { copyInstrument, importRack, keepTuning, saveInstrument, type RackSave } from '@/server/rack';
import { listTones } from '@/server/repositories/pieces';
import { setInstrumentDeleted, setTuningDeleted } from '@/server/repositories/rack';

/** Puts a copy of an instrument on the rack; gives its id. */
export const copyInstrumentAction = action(
  'write',
  z.tuple([z.string().max(60), z.string().max(200)]),
  async ({ actor, db }, source, name): Promise<Result<string>> => {
    const made = await copyInstrument(db, actor, source, name);
    return made.ok ? { ok: true, value: made.value.instrument.id } : made;
  },
);

export const saveInstrumentAction = action(
  'write',
  z.tuple([rackInstrumentSchema, z.number().int().min(0)]),
  ({ actor, db }, document, revision): Promise<RackSave> =>
    saveInstrument(db, actor, document as RackInstrument, revision),
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
  ({ actor, db }, instrument, deleted) => setInstrumentDeleted(db, actor, instrument, deleted),
);

export const keepTuningAction = action(
  'write',
  z.tuple([ownTuningSchema.omit({ id: true })]),
  ({ actor, db }, tuning): Promise<Result<Tuning>> => keepTuning(db, actor, tuning),
  (why): Result<Tuning> => ({
    ok: false,
    error: { ...why, words: `${pathWords(why.locus) || 'tuning'}: ${why.words}.` },
  }),
);

export const deleteTuningAction = action('write', z.tuple([tuningId, z.boolean()]), ({ actor, db }, tuning, deleted) =>
  setTuningDeleted(db, actor, tuning, deleted),
);

export const importRackAction = action('write', z.tuple([z.string()]), ({ actor, db }, text) =>
  importRack(db, actor, text),
);

/** Sounds written down in the studio's pieces, each with where: to be copied to another part. */
export const tonesAction = action('read', z.tuple([]), ({ actor, db }) => listTones(db, actor));

import type { InstrumentId } from './ids';
import type { Actor } from './actor';
import { randomBytes } from 'node:crypto';
import { fail, ok, type Result, pathWords } from '@/core/base';
import {
  checkInstrument,
  describeRackChange,
  INSTRUMENTS,
  makeSetup,
  readRack,
  TUNINGS,
  type MadeSetup,
  type RackInstrument,
  type SetupRequest,
  type Tuning,
} from '@/core/instrument';
import type { Db } from './db/connection';
import {
  getInstrumentForUpdate,
  instrumentChanges,
  listInstruments,
  listTunings,
  putInstrument,
  putTuning,
  type RackChange,
  type RackEntry,
} from './repositories/rack';

/** The rules of the rack. Every function acts for one studio. */

export interface Rack {
  readonly instruments: readonly RackEntry[];
  readonly tunings: readonly Tuning[];
}

export async function openRack(db: Db, actor: Actor): Promise<Rack> {
  const [instruments, tunings] = await Promise.all([listInstruments(db, actor), listTunings(db, actor)]);
  return { instruments, tunings };
}

export const newInstrumentId = (): InstrumentId => `r-${randomBytes(5).toString('hex')}` as InstrumentId;

/** Resolves a set-up that may name an instrument or a tuning of the studio's own. */
export async function makeStudioSetup(db: Db, actor: Actor, request: SetupRequest): Promise<Result<MadeSetup>> {
  const rack = await openRack(db, actor);
  const own = rack.instruments.find((entry) => entry.instrument.id === request.instrument);
  return makeSetup({ ...request, instrument: own?.instrument ?? request.instrument }, rack.tunings);
}

/** Puts a copy of a catalogue instrument, or of one's own, on the rack under a new id. */
export async function copyInstrument(
  db: Db,
  actor: Actor,
  sourceId: string,
  name: string,
): Promise<Result<RackInstrument>> {
  const rack = await listInstruments(db, actor);
  const own = rack.find((entry) => entry.instrument.id === sourceId);
  const catalogued = INSTRUMENTS.find((instrument) => instrument.id === sourceId);
  const source: RackInstrument | undefined =
    own ?? (catalogued && { instrument: catalogued, description: '', tones: [] });
  if (!source) return fail('unknown-instrument', `There is no instrument "${sourceId}" to copy.`, 'source');
  const title = name.trim() || `${source.instrument.name}, copy`;
  const copy: RackInstrument = {
    description: source.description,
    tones: source.tones,
    instrument: { ...source.instrument, id: newInstrumentId(), name: title.slice(0, 120) },
  };
  await db
    .transaction()
    .execute((tx) => putInstrument(tx, actor, copy, 0, `put on the rack, from ${source.instrument.name}`));
  return ok(copy);
}

export type RackSave =
  | { readonly status: 'saved'; readonly revision: number; readonly changes: readonly RackChange[] }
  | { readonly status: 'stale' | 'refused'; readonly at: string; readonly message: string };

/**
 * Changes an instrument, keeping what was done in its history. A save on an old state is refused: nothing is
 * overwritten.
 */
export async function saveInstrument(
  db: Db,
  actor: Actor,
  document: RackInstrument,
  baseRevision: number,
): Promise<RackSave> {
  const checked = checkInstrument(document.instrument);
  if (!checked.ok) return { status: 'refused', at: pathWords(checked.error.locus), message: checked.error.words };
  return db.transaction().execute(async (tx): Promise<RackSave> => {
    const id = document.instrument.id as InstrumentId;
    const there = await getInstrumentForUpdate(tx, actor, id);
    if (!there) return { status: 'refused', at: '', message: 'This instrument is not on the rack any more.' };
    if (there.revision !== baseRevision)
      return {
        status: 'stale',
        at: '',
        message: 'This instrument was changed elsewhere. Load it anew; copy what you typed first.',
      };
    const lines = describeRackChange(there.document, document);
    const revision = lines.length > 0 ? baseRevision + 1 : baseRevision;
    if (lines.length > 0) await putInstrument(tx, actor, document, revision, lines.join('; ').slice(0, 1000));
    return { status: 'saved', revision, changes: await instrumentChanges(tx, actor, id) };
  });
}

/** Keeps a tuning of the studio's own; its id is made from its spelling, so that the same tuning is kept once. */
export async function keepTuning(db: Db, actor: Actor, tuning: Omit<Tuning, 'id'>): Promise<Result<Tuning>> {
  const id = `own-${tuning.spelling
    .toLowerCase()
    .replaceAll('#', 's')
    .replace(/[^a-z0-9]+/g, '-')}`.slice(0, 60);
  if (TUNINGS.some((one) => one.spelling === tuning.spelling))
    return fail(
      'known-tuning',
      `The catalogue has this tuning already: ${TUNINGS.find((one) => one.spelling === tuning.spelling)?.name}.`,
      'name',
    );
  const kept: Tuning = { ...tuning, id };
  await putTuning(db, actor, kept);
  return ok(kept);
}

/** Puts what a rack file holds on the rack: instruments under new ids, tunings under their own. All or nothing. */
export async function importRack(
  db: Db,
  actor: Actor,
  text: string,
): Promise<Result<{ readonly instruments: number; readonly tunings: number; readonly questions: readonly string[] }>> {
  const read = readRack(text);
  if (!read.ok) return read;
  const { instruments, tunings, questions } = read.value;
  await db.transaction().execute(async (tx) => {
    for (const one of instruments)
      await putInstrument(
        tx,
        actor,
        { ...one, instrument: { ...one.instrument, id: newInstrumentId() } },
        0,
        'put on the rack, from a file',
      );
    for (const tuning of tunings) await putTuning(tx, actor, tuning);
  });
  return ok({
    instruments: instruments.length,
    tunings: tunings.length,
    questions: questions.map((question) => question.message),
  });
}

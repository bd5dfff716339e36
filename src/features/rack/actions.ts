'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { fail, type Result } from '@/core/base';
import { ownTuningSchema, rackInstrumentSchema, type RackInstrument, type Tuning } from '@/core/instrument';
import { currentStudio, db } from '@/server/context';
import { copyInstrument, importRack, keepTuning, saveInstrument, type RackSave } from '@/server/rack';
import { setInstrumentDeleted, setTuningDeleted } from '@/server/repositories/rack';

const id = z.string().max(60);
const everywhere = (): void => revalidatePath('/', 'layout');

/** Puts a copy of an instrument on the rack; gives its id. */
export async function copyInstrumentAction(source: string, name: string): Promise<Result<string>> {
  const made = await copyInstrument(db(), currentStudio(), id.parse(source), z.string().max(200).parse(name));
  if (!made.ok) return made;
  everywhere();
  return { ok: true, value: made.value.instrument.id };
}

const saveInput = z.object({ document: rackInstrumentSchema, revision: z.number().int().min(0) });

export async function saveInstrumentAction(document: RackInstrument, revision: number): Promise<RackSave> {
  const parsed = saveInput.safeParse({ document, revision });
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    const at = issue?.path.slice(1).join('.') ?? '';
    return {
      status: 'refused',
      at: at.replace(/^instrument\./, ''),
      message: `${at || 'The instrument'}: ${issue?.message ?? 'malformed'}.`,
    };
  }
  const saved = await saveInstrument(
    db(),
    currentStudio(),
    parsed.data.document as RackInstrument,
    parsed.data.revision,
  );
  if (saved.status === 'saved') everywhere();
  return saved;
}

export async function deleteInstrumentAction(instrument: string, deleted: boolean): Promise<boolean> {
  const done = await setInstrumentDeleted(db(), currentStudio(), id.parse(instrument), z.boolean().parse(deleted));
  everywhere();
  return done;
}

const tuningInput = ownTuningSchema.omit({ id: true });

export async function keepTuningAction(tuning: Omit<Tuning, 'id'>): Promise<Result<Tuning>> {
  const parsed = tuningInput.safeParse(tuning);
  if (!parsed.success)
    return fail(
      'schema',
      `${parsed.error.issues[0]?.path.join('.') ?? 'tuning'}: ${parsed.error.issues[0]?.message ?? 'malformed'}.`,
      String(parsed.error.issues[0]?.path[0] ?? 'name'),
    );
  const kept = await keepTuning(db(), currentStudio(), parsed.data);
  if (kept.ok) everywhere();
  return kept;
}

export async function deleteTuningAction(tuning: string, deleted: boolean): Promise<boolean> {
  const done = await setTuningDeleted(db(), currentStudio(), id.parse(tuning), z.boolean().parse(deleted));
  everywhere();
  return done;
}

export async function importRackAction(
  text: string,
): Promise<Result<{ instruments: number; tunings: number; questions: readonly string[] }>> {
  const read = await importRack(db(), currentStudio(), z.string().parse(text));
  if (read.ok) everywhere();
  return read;
}

'use server';

import { z } from 'zod';
import type { TunerReading } from '@/core/tuner';
import { currentStudio, db } from '@/server/context';
import { addReadings, deleteReading, listReadings } from '@/server/repositories/rack';

const id = z.string().max(60);
const readingInput = z.object({
  string: z.number().int().min(1).max(12),
  kind: z.enum(['open', 'capo', 'harmonic12', 'stopped12']),
  capo: z.number().int().min(0).max(12),
  cents: z.number().min(-1200).max(1200),
});

/** Writes a reading into an instrument's tuner log; gives the log as it is then. */
export async function logReadingAction(
  instrument: string,
  reading: z.input<typeof readingInput>,
): Promise<TunerReading[]> {
  const studio = currentStudio();
  await addReadings(db(), studio, id.parse(instrument), [readingInput.parse(reading)]);
  return listReadings(db(), studio, instrument);
}

export async function readingsAction(instrument: string): Promise<TunerReading[]> {
  return listReadings(db(), currentStudio(), id.parse(instrument));
}

/** Strikes a reading that can't be true. */
export async function deleteReadingAction(instrument: string, reading: string): Promise<TunerReading[]> {
  const studio = currentStudio();
  await deleteReading(
    db(),
    studio,
    z
      .string()
      .regex(/^\d{1,18}$/)
      .parse(reading),
  );
  return listReadings(db(), studio, id.parse(instrument));
}

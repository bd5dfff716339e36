import { fitId, pieceId } from '../ids';
import { programIn } from '../actor';
import type { TaskList } from 'graphile-worker';
import { z } from 'zod';
import type { Db } from '../db/connection';
import { logChoices, runFit } from '../learning';
import { writeDocument } from '../pieces';
import { purge } from '../purge';
import { indexPiece } from '../search';

const pieceJob = z.object({ studio: z.string(), piece: pieceId });
const fitJob = z.object({ studio: z.string(), fit: fitId });

/** When what repeats is done: the day's clearing up, at night. */
export const CRONTAB = '20 3 * * * purge';

/** What the queue can be asked to do. Each task can be repeated without harm. */
export const tasksFor = (db: Db): TaskList => ({
  'log-choices': async (payload) => {
    const { studio, piece } = pieceJob.parse(payload);
    await writeDocument(db, programIn(studio), piece);
    await indexPiece(db, programIn(studio), piece);
    await logChoices(db, programIn(studio), piece);
  },
  purge: async () => {
    await purge(db);
  },
  'fit-weights': async (payload) => {
    const { studio, fit } = fitJob.parse(payload);
    await runFit(db, programIn(studio), fit);
  },
});

import { currentActor, db } from '@/server/context';
import { csvFile } from '@/server/csv';
import { requestLog } from '@/server/repositories/logs';
import { guarded } from '@/server/guarded';

export const dynamic = 'force-dynamic';

const COLUMNS = [
  ...['asked', 'asker', 'title', 'version', 'state', 'due', 'release', 'covered', 'left_out', 'later'],
  ...['credit', 'piece', 'changed_at'],
];

/** Every request of the studio, as CSV. */
export const GET = guarded(async (): Promise<Response> => {
  return csvFile('requests', await requestLog(db(), await currentActor()), COLUMNS);
});

import { currentActor, db } from '@/server/context';
import { csvFile } from '@/server/csv';
import { tunerLog } from '@/server/repositories/logs';
import { guarded } from '@/server/guarded';

export const dynamic = 'force-dynamic';

/** Every tuner reading of the studio, as CSV. */
export const GET = guarded(async (): Promise<Response> => {
  const columns = ['read_at', 'instrument', 'string', 'what', 'capo', 'cents'];
  return csvFile('tuner-log', await tunerLog(db(), await currentActor()), columns);
});

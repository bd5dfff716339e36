import { finding } from '@/core/base';
import { currentActor, db } from '@/server/context';
import { csvFile } from '@/server/csv';
import { refusal } from '@/server/http';
import { pieceId, readId } from '@/server/ids';
import { historyLog } from '@/server/repositories/logs';
import { guarded } from '@/server/guarded';

export const dynamic = 'force-dynamic';

/** What was done to a piece (`?piece=ID`), as CSV. */
export const GET = guarded(async (request: Request): Promise<Response> => {
  const piece = readId(pieceId, new URL(request.url).searchParams.get('piece') ?? '');
  if (!piece) return refusal(finding('malformed', 'error', 'A piece is wanted.', { path: ['piece'] }), 400);
  return csvFile('history', await historyLog(db(), await currentActor(), piece), [
    'revision',
    'made_at',
    'kind',
    'what',
  ]);
});

import { Shelf } from '@/features/shelf/shelf';
import { currentActor, db } from '@/server/context';
import { listRequests } from '@/server/repositories/desk';
import { listPieces } from '@/server/repositories/pieces';
import { studioName } from '@/server/repositories/studios';
import { today } from '@/server/today';

export const dynamic = 'force-dynamic';

export default async function ShelfPage() {
  const actor = await currentActor();
  const [name, page, requests] = await Promise.all([
    studioName(db(), actor),
    listPieces(db(), actor),
    listRequests(db(), actor),
  ]);
  return <Shelf studio={name ?? ''} initial={page} requests={requests} today={today()} />;
}

import { Shelf } from '@/features/shelf/shelf';
import { currentActor, db } from '@/server/context';
import { openRequests } from '@/server/repositories/desk';
import { listPieces } from '@/server/repositories/pieces';
import { today } from '@/server/today';
import { studio } from '../studio';

export const dynamic = 'force-dynamic';

export default async function ShelfPage() {
  const actor = await currentActor();
  const [{ name }, page, requests] = await Promise.all([studio(), listPieces(db(), actor), openRequests(db(), actor)]);
  return <Shelf studio={name} initial={page} requests={requests} today={today()} />;
}

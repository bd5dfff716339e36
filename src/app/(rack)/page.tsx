import { Shelf } from '@/features/shelf/shelf';
import { currentActor, db } from '@/server/context';
import { listPieces } from '@/server/repositories/pieces';
import { studioName } from '@/server/repositories/studios';

export const dynamic = 'force-dynamic';

export default async function ShelfPage() {
  const actor = await currentActor();
  const [name, page] = await Promise.all([studioName(db(), actor), listPieces(db(), actor)]);
  return <Shelf studio={name ?? ''} initial={page} />;
}

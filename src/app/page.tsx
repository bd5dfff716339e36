import { Shelf } from '@/features/shelf/shelf';
import { currentStudio, db } from '@/server/context';
import { listPieces } from '@/server/repositories/pieces';
import { studioName } from '@/server/repositories/studios';

export const dynamic = 'force-dynamic';

export default async function ShelfPage() {
  const studio = currentStudio();
  const [name, entries] = await Promise.all([studioName(db(), studio), listPieces(db(), studio)]);
  return <Shelf studio={name ?? ''} initial={entries} />;
}

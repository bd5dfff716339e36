import { notFound } from 'next/navigation';
import { FilesPage } from '@/features/files/files-page';
import { currentActor, db } from '@/server/context';
import { pieceId, readId } from '@/server/ids';
import { listOriginals } from '@/server/repositories/originals';

export default async function PieceFilesPage({ params }: { readonly params: Promise<{ piece: string }> }) {
  const id = readId(pieceId, (await params).piece);
  if (!id) notFound();
  return <FilesPage originals={await listOriginals(db(), await currentActor(), id)} />;
}

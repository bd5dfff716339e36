import { pieceId, readId } from '@/server/ids';
import { notFound, redirect } from 'next/navigation';
import { currentActor, db } from '@/server/context';
import { getPiece } from '@/server/repositories/pieces';

/** The way into a piece: its first riff, or, while it has none, bringing one in. */
export default async function PiecePage({ params }: { readonly params: Promise<{ piece: string }> }) {
  const id = readId(pieceId, (await params).piece);
  const piece = id && (await getPiece(db(), await currentActor(), id));
  if (!piece) notFound();
  const riff = piece.document.parts.flatMap((part) => part.riffs)[0];
  redirect(riff ? `/pieces/${id}/riffs/${riff.id}` : `/pieces/${id}/bring-in`);
}

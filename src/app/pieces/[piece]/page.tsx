import { notFound, redirect } from 'next/navigation';
import { currentActor, db } from '@/server/context';
import { pieceId, readId } from '@/server/ids';
import { firstRiff } from '@/server/repositories/pieces';

/** The way into a piece: its first riff, or, while it has none, bringing one in. */
export default async function PiecePage({ params }: { readonly params: Promise<{ piece: string }> }) {
  const id = readId(pieceId, (await params).piece);
  const riff = id ? await firstRiff(db(), await currentActor(), id) : undefined;
  if (riff === undefined) notFound();
  redirect(riff === null ? `/pieces/${id}/bring-in` : `/pieces/${id}/riffs/${riff}`);
}

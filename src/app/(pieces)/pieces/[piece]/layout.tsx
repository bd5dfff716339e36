import { pieceId, readId } from '@/server/ids';
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { cache, type ReactNode } from 'react';
import { PieceProvider } from '@/features/piece/provider';
import { currentActor, db } from '@/server/context';
import { openPiece } from '@/server/pieces';

export const dynamic = 'force-dynamic';

const load = cache(async (text: string) => {
  const id = readId(pieceId, text);
  return id && openPiece(db(), await currentActor(), id);
});

interface Props {
  readonly params: Promise<{ piece: string }>;
  readonly children: ReactNode;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const open = await load((await params).piece);
  return { title: open?.document.title ?? 'No such piece' };
}

export default async function PieceLayout({ params, children }: Props) {
  const open = await load((await params).piece);
  if (!open) notFound();
  return (
    <PieceProvider key={open.document.id} opened={JSON.stringify(open)}>
      {children}
    </PieceProvider>
  );
}

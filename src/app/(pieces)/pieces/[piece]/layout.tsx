import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { cache, type ReactNode } from 'react';
import { OpenedPiece } from '@/features/piece/opened-piece';
import { currentActor, db } from '@/server/context';
import { pieceId, readId } from '@/server/ids';
import { pieceHead } from '@/server/repositories/pieces';

export const dynamic = 'force-dynamic';

const load = cache(async (text: string) => {
  const id = readId(pieceId, text);
  const head = id && (await pieceHead(db(), await currentActor(), id));
  return head && { id, ...head };
});

interface Props {
  readonly params: Promise<{ piece: string }>;
  readonly children: ReactNode;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const head = await load((await params).piece);
  return { title: head?.title ?? 'No such piece' };
}

/** The piece itself is not in the page: the page asks for it while it comes to life. */
export default async function PieceLayout({ params, children }: Props) {
  const head = await load((await params).piece);
  if (!head) notFound();
  return (
    <OpenedPiece key={head.id} {...head}>
      {children}
    </OpenedPiece>
  );
}

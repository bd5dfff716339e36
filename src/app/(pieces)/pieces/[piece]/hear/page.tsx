import { notFound } from 'next/navigation';
import { pieceId, readId } from '@/server/ids';
import { z } from 'zod';
import { HearPage } from '@/features/hear/hear-page';
import { currentActor, db } from '@/server/context';
import { listClips } from '@/server/repositories/clips';

export const metadata = { title: 'Hear' };

interface Props {
  readonly params: Promise<{ piece: string }>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

const query = z.object({
  clip: z.string().max(64).optional().catch(undefined),
  at: z.coerce.number().min(0).max(36_000).optional().catch(undefined),
});

export default async function Page({ params, searchParams }: Props) {
  const piece = readId(pieceId, (await params).piece);
  if (!piece) notFound();
  const { clip, at } = query.parse(await searchParams);
  return <HearPage first={await listClips(db(), await currentActor(), piece)} open={clip ?? null} at={at ?? null} />;
}

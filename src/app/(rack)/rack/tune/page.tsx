import type { Metadata } from 'next';
import { TunePage } from '@/features/tune/tune-page';
import { currentActor, db } from '@/server/context';
import { listSetups } from '@/server/repositories/pieces';

export const metadata: Metadata = { title: 'Tune up' };

type Asked = Readonly<Record<string, string | string[] | undefined>>;

/** A set-up to tune to: of a piece's part, or an instrument and a tuning. */
export default async function RackTunePage({ searchParams }: { readonly searchParams: Promise<Asked> }) {
  const asked = await searchParams;
  const text = (name: string): string | null => {
    const value = asked[name];
    return typeof value === 'string' ? value.slice(0, 120) : null;
  };
  const piece = text('piece');
  const part = text('part');
  const found = piece
    ? (await listSetups(db(), await currentActor())).find(
        (entry) => entry.piece === piece && (part === null || entry.partId === part),
      )
    : undefined;
  const instrument = text('instrument');
  const tuning = text('tuning');
  return (
    <TunePage startSetup={found?.setup ?? null} start={instrument ? { instrument, tuning: tuning ?? '' } : null} />
  );
}

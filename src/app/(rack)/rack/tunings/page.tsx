import type { Metadata } from 'next';
import { TuningsPage } from '@/features/rack/tunings-page';

export const metadata: Metadata = { title: 'Tunings' };

interface Props {
  readonly searchParams: Promise<{ readonly instrument?: string | string[]; readonly tuning?: string | string[] }>;
}

export default async function RackTuningsPage({ searchParams }: Props) {
  const { instrument, tuning } = await searchParams;
  return (
    <TuningsPage
      instrument={typeof instrument === 'string' ? instrument : null}
      tuning={typeof tuning === 'string' ? tuning.slice(0, 120) : null}
    />
  );
}

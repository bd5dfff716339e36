import { Bench } from '@/features/place/bench';

interface Props {
  readonly params: Promise<{ riff: string }>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function BenchPage({ params, searchParams }: Props) {
  const { riff } = await params;
  const search = await searchParams;
  const bar = Number(search.bar);
  return (
    <Bench
      riffId={riff}
      startBar={Number.isInteger(bar) && bar > 0 ? bar : null}
      startNote={typeof search.note === 'string' ? search.note : null}
      use={typeof search.use === 'string' ? search.use : null}
      variant={typeof search.variant === 'string' ? search.variant : null}
      startTab={search.show === 'riff' ? 'riff' : 'note'}
    />
  );
}

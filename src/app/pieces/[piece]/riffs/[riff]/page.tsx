import { Bench } from '@/features/place/bench';

interface Props {
  readonly params: Promise<{ riff: string }>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function BenchPage({ params, searchParams }: Props) {
  const { riff } = await params;
  const bar = Number((await searchParams).bar);
  return <Bench riffId={riff} startBar={Number.isInteger(bar) && bar > 0 ? bar : null} />;
}

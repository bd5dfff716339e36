import { FindSetupPage } from '@/features/setup/find-page';

interface Props {
  readonly params: Promise<{ part: string }>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

const one = (value: string | string[] | undefined): string | null =>
  typeof value === 'string' && value.length <= 120 ? value : null;

export default async function PartFindPage({ params, searchParams }: Props) {
  const { riff, from, to } = await searchParams;
  const bars = [one(from), one(to)].map(Number);
  return (
    <FindSetupPage
      partId={(await params).part}
      start={{
        riff: one(riff),
        bars:
          bars.every((bar) => Number.isInteger(bar) && bar >= 0 && bar < 10_000) && one(from) !== null
            ? { from: bars[0] ?? 0, to: bars[1] ?? 0 }
            : null,
      }}
    />
  );
}

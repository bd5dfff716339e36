import { SetupPage } from '@/features/setup/setup-page';

interface Props {
  readonly params: Promise<{ part: string }>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

const one = (value: string | string[] | undefined): string | null =>
  typeof value === 'string' && value.length <= 120 ? value : null;

export default async function PartSetupPage({ params, searchParams }: Props) {
  const { tuning, instrument } = await searchParams;
  return <SetupPage partId={(await params).part} asked={{ tuning: one(tuning), instrument: one(instrument) }} />;
}

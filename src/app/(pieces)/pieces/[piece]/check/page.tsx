import { CheckPage } from '@/features/check/check-page';

export const metadata = { title: 'Check' };

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function PieceCheckPage({ searchParams }: Props) {
  const { show } = await searchParams;
  return <CheckPage start={show === 'unsaid' ? 'unsaid' : 'open'} />;
}

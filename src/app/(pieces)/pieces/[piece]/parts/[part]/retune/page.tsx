import { RetunePage } from '@/features/setup/retune-page';

interface Props {
  readonly params: Promise<{ part: string }>;
}

export default async function PartRetunePage({ params }: Props) {
  return <RetunePage partId={(await params).part} />;
}

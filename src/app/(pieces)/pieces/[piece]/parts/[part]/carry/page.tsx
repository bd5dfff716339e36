import { CarryPage } from '@/features/setup/carry-page';

interface Props {
  readonly params: Promise<{ part: string }>;
}

export default async function PartCarryPage({ params }: Props) {
  return <CarryPage partId={(await params).part} />;
}

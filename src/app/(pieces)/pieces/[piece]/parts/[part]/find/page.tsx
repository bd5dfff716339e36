import { FindSetupPage } from '@/features/setup/find-page';

interface Props {
  readonly params: Promise<{ part: string }>;
}

export default async function PartFindPage({ params }: Props) {
  return <FindSetupPage partId={(await params).part} />;
}

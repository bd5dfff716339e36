import { SetupPage } from '@/features/setup/setup-page';

export default async function PartSetupPage({ params }: { readonly params: Promise<{ part: string }> }) {
  return <SetupPage partId={(await params).part} />;
}

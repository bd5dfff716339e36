import { UnsaidPage } from '@/features/piece/unsaid-page';

export const metadata = { title: 'Still unsaid' };

export default function Page() {
  return <UnsaidPage />;
}

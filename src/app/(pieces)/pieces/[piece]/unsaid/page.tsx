import { UnspecifiedPage } from '@/features/piece/unspecified-page';

export const metadata = { title: 'Still unsaid' };

export default function Page() {
  return <UnspecifiedPage />;
}

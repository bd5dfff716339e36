import type { Metadata } from 'next';
import { HandsPage } from '@/features/account/hands-page';

export const metadata: Metadata = { title: 'Hands' };

export default function Page() {
  return <HandsPage />;
}

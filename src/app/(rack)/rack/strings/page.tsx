import type { Metadata } from 'next';
import { StringsPage } from '@/features/rack/strings-page';

export const metadata: Metadata = { title: 'Strings' };

export default function RackStringsPage() {
  return <StringsPage />;
}

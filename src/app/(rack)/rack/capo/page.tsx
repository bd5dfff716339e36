import type { Metadata } from 'next';
import { CapoPage } from '@/features/rack/capo-page';

export const metadata: Metadata = { title: 'Capo' };

export default function RackCapoPage() {
  return <CapoPage />;
}

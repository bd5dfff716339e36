import type { Metadata } from 'next';
import { InstrumentsPage } from '@/features/rack/instruments-page';

export const metadata: Metadata = { title: 'Instruments' };

export default function RackPage() {
  return <InstrumentsPage />;
}

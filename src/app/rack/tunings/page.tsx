import type { Metadata } from 'next';
import { RoutedTunings } from '@/features/rack/routed';

export const metadata: Metadata = { title: 'Tunings' };

export default function Page() {
  return <RoutedTunings />;
}

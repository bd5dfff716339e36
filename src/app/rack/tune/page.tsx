import type { Metadata } from 'next';
import { RoutedTune } from '@/features/tune/routed';

export const metadata: Metadata = { title: 'Tune up' };

export default function Page() {
  return <RoutedTune />;
}

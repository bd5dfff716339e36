import type { Metadata } from 'next';
import { RoutedWeights } from '@/features/account/routed';

export const metadata: Metadata = { title: 'Weights' };

export default function Page() {
  return <RoutedWeights />;
}

import type { Metadata } from 'next';
import { RoutedDay } from '@/features/rack/routed';

export const metadata: Metadata = { title: 'The day' };

export default function Page() {
  return <RoutedDay />;
}

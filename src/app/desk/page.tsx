import type { Metadata } from 'next';
import { RoutedDesk } from '@/features/desk/routed';

export const metadata: Metadata = { title: 'Desk' };

export default function Page() {
  return <RoutedDesk />;
}

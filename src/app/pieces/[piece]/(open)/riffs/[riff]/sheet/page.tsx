import { RoutedSheet } from '@/features/teach/routed';

export default function Page() {
  return <RoutedSheet />;
}

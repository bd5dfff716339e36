import { RoutedFind } from '@/features/setup/routed';

export default function Page() {
  return <RoutedFind />;
}

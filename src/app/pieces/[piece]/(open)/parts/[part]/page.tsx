import { RoutedSetup } from '@/features/setup/routed';

export default function Page() {
  return <RoutedSetup />;
}

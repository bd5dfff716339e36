import { RoutedCarry } from '@/features/setup/routed';

export default function Page() {
  return <RoutedCarry />;
}

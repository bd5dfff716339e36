import { RoutedRetune } from '@/features/setup/routed';

export default function Page() {
  return <RoutedRetune />;
}

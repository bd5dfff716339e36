import { RoutedBench } from '@/features/place/routed';

export default function Page() {
  return <RoutedBench />;
}

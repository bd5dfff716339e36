import { RoutedPlaces } from '@/features/setup/routed';

export default function Page() {
  return <RoutedPlaces />;
}

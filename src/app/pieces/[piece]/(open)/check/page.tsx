import { RoutedCheck } from '@/features/check/routed';

export default function Page() {
  return <RoutedCheck />;
}

import { RoutedHear } from '@/features/hear/routed';

export default function Page() {
  return <RoutedHear />;
}

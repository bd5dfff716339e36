import { RoutedAbout } from '@/features/desk/routed';

export default function Page() {
  return <RoutedAbout />;
}

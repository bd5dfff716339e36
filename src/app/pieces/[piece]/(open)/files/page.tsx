import { RoutedFiles } from '@/features/files/routed';

export default function Page() {
  return <RoutedFiles />;
}

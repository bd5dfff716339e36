import { RoutedShelf } from '@/features/shelf/routed';

export default function Page() {
  return <RoutedShelf />;
}

import type { Metadata } from 'next';
import { RoutedSearch } from '@/features/desk/routed';
import { WithStudio } from '@/features/studio/with-studio';

export const metadata: Metadata = { title: 'Search' };

export default function Page() {
  return (
    <WithStudio>
      <RoutedSearch />
    </WithStudio>
  );
}

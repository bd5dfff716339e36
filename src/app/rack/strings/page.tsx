import type { Metadata } from 'next';
import { StringsPage } from '@/features/rack/strings-page';
import { WithStudio } from '@/features/studio/with-studio';

export const metadata: Metadata = { title: 'Strings' };

export default function Page() {
  return (
    <WithStudio>
      <StringsPage />
    </WithStudio>
  );
}

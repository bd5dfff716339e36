import type { Metadata } from 'next';
import { ArchivePage } from '@/features/account/archive-page';
import { WithStudio } from '@/features/studio/with-studio';

export const metadata: Metadata = { title: 'Archive' };

export default function Page() {
  return (
    <WithStudio>
      <ArchivePage />
    </WithStudio>
  );
}

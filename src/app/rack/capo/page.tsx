import type { Metadata } from 'next';
import { CapoPage } from '@/features/rack/capo-page';
import { WithStudio } from '@/features/studio/with-studio';

export const metadata: Metadata = { title: 'Capo' };

export default function Page() {
  return (
    <WithStudio>
      <CapoPage />
    </WithStudio>
  );
}

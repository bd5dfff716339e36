import type { Metadata } from 'next';
import { InstrumentsPage } from '@/features/rack/instruments-page';
import { WithStudio } from '@/features/studio/with-studio';

export const metadata: Metadata = { title: 'Instruments' };

export default function Page() {
  return (
    <WithStudio>
      <InstrumentsPage />
    </WithStudio>
  );
}

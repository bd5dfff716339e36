import type { Metadata } from 'next';
import { HandsPage } from '@/features/account/hands-page';
import { WithStudio } from '@/features/studio/with-studio';

export const metadata: Metadata = { title: 'Hands' };

export default function Page() {
  return (
    <WithStudio>
      <HandsPage />
    </WithStudio>
  );
}

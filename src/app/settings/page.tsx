import type { Metadata } from 'next';
import { SettingsPage } from '@/features/account/settings-page';
import { WithStudio } from '@/features/studio/with-studio';

export const metadata: Metadata = { title: 'Settings' };

export default function Page() {
  return (
    <WithStudio>
      <SettingsPage />
    </WithStudio>
  );
}

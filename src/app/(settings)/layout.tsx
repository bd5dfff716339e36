import type { ReactNode } from 'react';
import { HandsProvider } from '@/features/account/players-context';
import { studio } from '../studio';

/** The settings: hands and weights, no rack. */
export default async function SettingsLayout({ children }: { readonly children: ReactNode }) {
  const { players, tables } = await studio();
  return (
    <HandsProvider players={players} tables={tables}>
      {children}
    </HandsProvider>
  );
}

import type { ReactNode } from 'react';
import { HandsProvider } from '@/features/account/players-context';
import { currentActor, db } from '@/server/context';
import { listCostTables, listPlayers } from '@/server/repositories/learning';

/** The settings: hands and weights, no rack. */
export default async function SettingsLayout({ children }: { readonly children: ReactNode }) {
  const actor = await currentActor();
  const [players, tables] = await Promise.all([listPlayers(db(), actor), listCostTables(db(), actor)]);
  return (
    <HandsProvider players={players} tables={tables}>
      {children}
    </HandsProvider>
  );
}

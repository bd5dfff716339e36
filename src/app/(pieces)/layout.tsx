import type { ReactNode } from 'react';
import { HandsProvider } from '@/features/account/players-context';
import { RackProvider } from '@/features/rack/rack-context';
import { currentActor, db } from '@/server/context';
import { openRack } from '@/server/rack';
import { listCostTables, listPlayers } from '@/server/repositories/learning';

/** A piece: it is set up from the rack and placed for a hand. */
export default async function PiecesLayout({ children }: { readonly children: ReactNode }) {
  const actor = await currentActor();
  const [rack, players, tables] = await Promise.all([
    openRack(db(), actor),
    listPlayers(db(), actor),
    listCostTables(db(), actor),
  ]);
  return (
    <RackProvider rack={rack}>
      <HandsProvider players={players} tables={tables}>
        {children}
      </HandsProvider>
    </RackProvider>
  );
}

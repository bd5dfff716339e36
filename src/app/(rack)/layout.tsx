import type { ReactNode } from 'react';
import { RackProvider } from '@/features/rack/rack-context';
import { currentActor, db } from '@/server/context';
import { openRack } from '@/server/rack';

/** The shelf and the rack: instruments and tunings, no hands. */
export default async function RackLayout({ children }: { readonly children: ReactNode }) {
  return <RackProvider rack={await openRack(db(), await currentActor())}>{children}</RackProvider>;
}

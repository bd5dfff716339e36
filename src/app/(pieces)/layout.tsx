import type { ReactNode } from 'react';
import { HandsProvider } from '@/features/account/players-context';
import { RackProvider } from '@/features/rack/rack-context';
import { studio } from '../studio';

/** A piece: it is set up from the rack and placed for a hand. */
export default async function PiecesLayout({ children }: { readonly children: ReactNode }) {
  const { instruments, tunings, players, tables } = await studio();
  return (
    <RackProvider rack={{ instruments, tunings }}>
      <HandsProvider players={players} tables={tables}>
        {children}
      </HandsProvider>
    </RackProvider>
  );
}

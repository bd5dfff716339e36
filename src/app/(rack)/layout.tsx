import type { ReactNode } from 'react';
import { RackProvider } from '@/features/rack/rack-context';
import { studio } from '../studio';

/** The shelf and the rack: instruments and tunings, no hands. */
export default async function RackLayout({ children }: { readonly children: ReactNode }) {
  const { instruments, tunings } = await studio();
  return <RackProvider rack={{ instruments, tunings }}>{children}</RackProvider>;
}

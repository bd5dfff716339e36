'use client';

import { createContext, useContext, type ReactNode } from 'react';
import { INSTRUMENTS, type Instrument } from '@/core/instrument';
import type { Rack } from '@/server/rack';

const EMPTY: Rack = { instruments: [], tunings: [] };
const Context = createContext<Rack>(EMPTY);

/** The studio's own instruments and tunings for everything below. */
export function RackProvider({ rack, children }: { readonly rack: Rack; readonly children: ReactNode }) {
  return <Context.Provider value={rack}>{children}</Context.Provider>;
}

export const useRack = (): Rack => useContext(Context);

/** An instrument by id: the studio's own or of the catalogue. */
export const instrumentBy = (rack: Rack, id: string): Instrument | undefined =>
  rack.instruments.find((entry) => entry.instrument.id === id)?.instrument ??
  INSTRUMENTS.find((instrument) => instrument.id === id);

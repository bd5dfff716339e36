'use client';

import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { ADULT_HAND } from '@/core/hand';
import type { PieceCosts, Player } from '@/core/score';

/** The hand a part is placed for when nobody is named. */
export const ADULT: Player = { id: 'adult', name: 'Adult hand', profile: ADULT_HAND };

interface Hands {
  readonly players: readonly Player[];
  /** The studio's cost tables, newest first. */
  readonly tables: readonly PieceCosts[];
}

const Context = createContext<Hands>({ players: [ADULT], tables: [] });

/** The studio's players and cost tables for everything below; an adult hand comes first. */
export function HandsProvider({ players, tables, children }: Hands & { readonly children: ReactNode }) {
  const held = useMemo(() => ({ players: [ADULT, ...players], tables }), [players, tables]);
  return <Context.Provider value={held}>{children}</Context.Provider>;
}

export const usePlayers = (): readonly Player[] => useContext(Context).players;
export const useCostTables = (): readonly PieceCosts[] => useContext(Context).tables;

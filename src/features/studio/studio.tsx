'use client';

import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';
import { HandsProvider } from '@/features/account/players-context';
import { RackProvider } from '@/features/rack/rack-context';
import { DEFAULT_SCHOOLS, type Schools } from '@/core/schools';
import type { StudioView } from '@/server/repositories/studios';
import { SchoolsProvider } from '@/ui/schools';

interface Held {
  /** Null until the first page has brought it. */
  readonly studio: StudioView | null;
  readonly setStudio: (studio: StudioView) => void;
  /** Grows with every wish to see anew what the server has. */
  readonly round: number;
  readonly refresh: () => void;
}

const Context = createContext<Held | null>(null);

function useHeld(): Held {
  const held = useContext(Context);
  if (!held) throw new Error('used outside the studio');
  return held;
}

export const useStudio = (): Held => useHeld();

/** Asks the server anew for what the page shows and for the studio: after something of either was changed. */
export const useRefresh = (): (() => void) => useHeld().refresh;

const NOBODY: StudioView['players'] = [];
const NONE: StudioView['tables'] = [];

/**
 * The studio for all pages: brought by the first of them, kept while one goes from page to page. Its schools, rack and
 * hands are given on from here; until it is there, pages wait (`FromServer`).
 */
export function StudioProvider({ children }: { readonly children: ReactNode }) {
  const [studio, setStudio] = useState<StudioView | null>(null);
  const [round, setRound] = useState(0);
  const held = useMemo(
    () => ({ studio, setStudio, round, refresh: () => setRound((before) => before + 1) }),
    [studio, round],
  );
  const rack = useMemo(
    () => ({ instruments: studio?.instruments ?? [], tunings: studio?.tunings ?? [] }),
    [studio?.instruments, studio?.tunings],
  );
  const setSchools = useMemo(() => (schools: Schools) => setStudio((before) => before && { ...before, schools }), []);
  return (
    <Context.Provider value={held}>
      <SchoolsProvider schools={studio?.schools ?? DEFAULT_SCHOOLS} setSchools={setSchools}>
        <RackProvider rack={rack}>
          <HandsProvider players={studio?.players ?? NOBODY} tables={studio?.tables ?? NONE}>
            {children}
          </HandsProvider>
        </RackProvider>
      </SchoolsProvider>
    </Context.Provider>
  );
}

'use client';

import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { DEFAULT_SCHOOLS, type Schools } from '@/core/schools';

interface Held {
  readonly schools: Schools;
  readonly setSchools: (schools: Schools) => void;
}

const Context = createContext<Held>({ schools: DEFAULT_SCHOOLS, setSchools: () => undefined });

/** The instructor's schools for everything below: a change is seen everywhere at once. */
export function SchoolsProvider({ schools, setSchools, children }: Held & { readonly children: ReactNode }) {
  const held = useMemo(() => ({ schools, setSchools }), [schools, setSchools]);
  return <Context.Provider value={held}>{children}</Context.Provider>;
}

export const useSchools = (): Schools => useContext(Context).schools;
export const useSetSchools = (): Held['setSchools'] => useContext(Context).setSchools;

'use client';

import { useRouter } from 'next/navigation';
import { createContext, useContext, useEffect, useMemo, useRef, useState, useSyncExternalStore, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { findPart, findRiff, type Part, type Piece, type Riff } from '@/core/score';
import type { OpenPiece } from '@/server/pieces';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { saveAction, settleAction } from './actions';
import { PlacementKeeper } from './placement';
import { createPieceStore, type PieceState } from './store';

interface Open {
  readonly store: ReturnType<typeof createPieceStore>;
  /** Null on the server and before the first effect. */
  readonly keeper: { current: PlacementKeeper | null };
  readonly answers: { subscribe: (listener: () => void) => () => void; version: () => number };
}

const Context = createContext<Open | null>(null);

function useOpen(): Open {
  const open = useContext(Context);
  if (!open) throw new Error('used outside an open piece');
  return open;
}

/** A slice of the open piece's state. */
export const usePiece = <T,>(select: (state: PieceState) => T): T => useStore(useOpen().store, select);

export const usePieceStore = (): Open['store'] => useOpen().store;

/** The worker that places, and a number that grows with each of its answers. */
export function usePlacement(): { keeper: PlacementKeeper | null; version: number } {
  const { keeper, answers } = useOpen();
  const version = useSyncExternalStore(answers.subscribe, answers.version, () => 0);
  return { keeper: keeper.current, version };
}

export const usePart = (id: string): Part | undefined => usePiece((s) => findPart(s.document, id));
export function useRiff(id: string): { part: Part; riff: Riff; piece: Piece } | null {
  const piece = usePiece((s) => s.document);
  return useMemo(() => {
    const found = findRiff(piece, id);
    return found ? { ...found, piece } : null;
  }, [piece, id]);
}

export function PieceProvider({ open, children }: { readonly open: OpenPiece; readonly children: ReactNode }) {
  const [value] = useState<Open>(() => {
    const storage = typeof window === 'undefined' ? null : window.localStorage;
    const listeners = new Set<() => void>();
    let version = 0;
    return {
      store: createPieceStore(open, saveAction, storage),
      keeper: { current: null },
      answers: {
        subscribe: (listener) => {
          listeners.add(listener);
          return () => listeners.delete(listener);
        },
        version: () => version,
        notify: () => {
          version++;
          listeners.forEach((l) => l());
        },
      } as Open['answers'] & { notify: () => void },
    };
  });
  useEffect(() => {
    const notify = (value.answers as Open['answers'] & { notify: () => void }).notify;
    value.keeper.current = new PlacementKeeper(value.store, notify);
    notify();
    const leaving = (e: BeforeUnloadEvent): void => {
      if (value.store.getState().saveState === 'saving') {
        void value.store.getState().flush();
        e.preventDefault();
      }
    };
    window.addEventListener('beforeunload', leaving);
    return () => {
      window.removeEventListener('beforeunload', leaving);
      value.keeper.current?.close();
      value.keeper.current = null;
    };
  }, [value]);
  return (
    <Context.Provider value={value}>
      {children}
      <StaleDialog />
    </Context.Provider>
  );
}

/** Two saved versions: nothing is overwritten, the user says which to go on with. */
function StaleDialog() {
  const router = useRouter();
  const store = usePieceStore();
  const stale = usePiece((s) => s.stale);
  const busy = useRef(false);
  if (!stale) return null;
  const settle = async (keep: boolean): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    const path = await settleAction(stale.refusedId, keep);
    busy.current = false;
    store.getState().takeTheirs();
    if (path) router.push(path);
  };
  const last = stale.current.steps.at(-1);
  return (
    <Dialog open onOpenChange={() => undefined} title="This piece was changed elsewhere" description={`Your last changes were not saved over it. Both versions are kept.${last ? ` The other one last ${last.what}.` : ''}`}>
      <div className="flex flex-wrap gap-3">
        <Button tone="yours" onClick={() => void settle(true)}>Keep mine as a piece of its own</Button>
        <Button onClick={() => void settle(false)}>Go on with the other version</Button>
      </div>
    </Dialog>
  );
}

'use client';

import { useRouter } from 'next/navigation';
import {
  createContext,
  startTransition,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { useStore } from 'zustand';
import { findPart, findRiff, type Part, type Piece, type Riff } from '@/core/score';
import type { OpenPiece } from '@/server/pieces';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { saveAction, settleAction } from './actions';
import { PlacementKeeper } from './placement';
import { createPieceStore, type PieceState } from './store';

/** An open piece: its store, and while it is on the screen the worker that places. */
class Session {
  readonly store: ReturnType<typeof createPieceStore>;
  keeper: PlacementKeeper | null = null;
  private version = 0;
  private readonly listeners = new Set<() => void>();

  constructor(open: OpenPiece) {
    this.store = createPieceStore(open, saveAction, typeof window === 'undefined' ? null : window.localStorage);
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** Grows with each answer of the worker. */
  readonly answers = (): number => this.version;

  private readonly notify = (): void => {
    this.version++;
    this.listeners.forEach((l) => l());
  };

  /** Begins work; gives what ends it. */
  start(): () => void {
    this.store.getState().recover();
    this.keeper = new PlacementKeeper(this.store, this.notify);
    this.notify();
    const leaving = (event: BeforeUnloadEvent): void => {
      if (this.store.getState().saveState !== 'saving') return;
      void this.store.getState().flush();
      event.preventDefault();
    };
    window.addEventListener('beforeunload', leaving);
    return () => {
      window.removeEventListener('beforeunload', leaving);
      this.keeper?.close();
      this.keeper = null;
    };
  }
}

const Context = createContext<Session | null>(null);

function useOpen(): Session {
  const open = useContext(Context);
  if (!open) throw new Error('used outside an open piece');
  return open;
}

/** A slice of the open piece's state. */
export const usePiece = <T,>(select: (state: PieceState) => T): T => useStore(useOpen().store, select);

export const usePieceStore = (): Session['store'] => useOpen().store;

/** The worker that places, and a number that grows with each of its answers. */
export function usePlacement(): { keeper: PlacementKeeper | null; version: number } {
  const session = useOpen();
  const [version, setVersion] = useState(0);
  // An answer is drawn when there is time: never before what is being typed.
  useEffect(() => {
    const look = (): void => startTransition(() => setVersion(session.answers()));
    look();
    return session.subscribe(look);
  }, [session]);
  return { keeper: version === 0 ? null : session.keeper, version };
}

export const usePart = (id: string): Part | undefined => usePiece((state) => findPart(state.document, id));
export function useRiff(id: string): { part: Part; riff: Riff; piece: Piece } | null {
  const piece = usePiece((state) => state.document);
  return useMemo(() => {
    const found = findRiff(piece, id);
    return found ? { ...found, piece } : null;
  }, [piece, id]);
}

export function PieceProvider({ open, children }: { readonly open: OpenPiece; readonly children: ReactNode }) {
  const [session] = useState(() => new Session(open));
  useEffect(() => session.start(), [session]);
  return (
    <Context.Provider value={session}>
      {children}
      <StaleDialog />
    </Context.Provider>
  );
}

/** Two saved versions: nothing is overwritten, the user says which to go on with. */
function StaleDialog() {
  const router = useRouter();
  const store = usePieceStore();
  const stale = usePiece((state) => state.stale);
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
    <Dialog
      open
      onOpenChange={() => undefined}
      title="This piece was changed elsewhere"
      description={`Your last changes were not saved over it. Both versions are kept.${last ? ` The other one last ${last.what}.` : ''}`}
    >
      <div className="flex flex-wrap gap-3">
        <Button tone="yours" onClick={() => void settle(true)}>
          Keep mine as a piece of its own
        </Button>
        <Button onClick={() => void settle(false)}>Go on with the other version</Button>
      </div>
    </Dialog>
  );
}

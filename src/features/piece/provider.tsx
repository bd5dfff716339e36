'use client';

import { useRouter } from 'next/navigation';
import { createContext, startTransition, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useStore, type StoreApi } from 'zustand';
import { findPart, findRiff, type Part, type Piece, type Riff } from '@/core/score';
import type { OpenPiece } from '@/server/pieces';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import type { CheckFinding } from '@/core/check';
import { historyAction, settleAction } from './actions';
import { CheckKeeper } from './checking';
import { livesByLocks, newId, openDevice } from './device';
import { PlacementKeeper } from './placement';
import { sendSave } from './send-save';
import { createPieceStore, type PieceState } from './store';
import { createVariantStore, followBase } from './variant-store';

/** What the pages of a piece work with: its state, and the worker that places. */
interface Opened {
  readonly store: StoreApi<PieceState>;
  readonly keeper: PlacementKeeper | null;
  /** What reads the piece against itself; null in a variant, which is read with its piece. */
  readonly checker: CheckKeeper | null;
  readonly subscribe: (listener: () => void) => () => void;
  /** Grows with each answer of the worker. */
  readonly answers: () => number;
}

/** An open piece: its store, and while it is on the screen the worker that places. In the browser only. */
export class Session implements Opened {
  readonly store: ReturnType<typeof createPieceStore>;
  keeper: PlacementKeeper | null = null;
  checker: CheckKeeper | null = null;
  private version = 0;
  private recovered = false;
  private readonly listeners = new Set<() => void>();

  constructor(open: OpenPiece) {
    const device = openDevice(open.document.id, newId(), livesByLocks(navigator.locks), window.localStorage);
    this.store = createPieceStore(open, { save: sendSave, settle: settleAction, history: historyAction }, device);
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly answers = (): number => this.version;

  private readonly notify = (): void => {
    this.version++;
    this.listeners.forEach((l) => l());
  };

  /** Begins work; gives what ends it. */
  start(): () => void {
    const state = this.store.getState();
    if (this.recovered) state.resume();
    else void state.recover();
    this.recovered = true;
    this.keeper = new PlacementKeeper(this.store, this.notify);
    this.checker = new CheckKeeper(this.store, this.notify);
    this.notify();
    const leaving = (event: BeforeUnloadEvent): void => {
      void state.flush();
      if (state.atRisk()) event.preventDefault();
    };
    window.addEventListener('beforeunload', leaving);
    return () => {
      window.removeEventListener('beforeunload', leaving);
      void state.flush();
      this.keeper?.close();
      this.checker?.close();
      this.keeper = null;
      this.checker = null;
    };
  }
}

/**
 * The pieces this page has open: one that is left and come back to goes on as it was, with what is still on its way,
 * unless the server has something newer and nothing here is unsent.
 */
const sessions = new Map<string, Session>();

/** A piece that is open here, and as new as the server's revision; null where it has to be asked for. */
export function sessionAt(id: string, revision: number): Session | null {
  const known = sessions.get(id);
  return known?.store.getState().upTo(revision) === true ? known : null;
}

/** Opens a piece as the server gave it, or goes on with what is open here where that is as new. */
export function openSession(open: OpenPiece): Session {
  const known = sessionAt(open.document.id, open.revision);
  if (known) return known;
  const session = new Session(open);
  sessions.set(open.document.id, session);
  return session;
}

const Context = createContext<Opened | null>(null);

function useOpen(): Opened {
  const open = useContext(Context);
  if (!open) throw new Error('used outside an open piece');
  return open;
}

/** A slice of the open piece's state. */
export const usePiece = <T,>(select: (state: PieceState) => T): T => useStore(useOpen().store, select);

export const usePieceStore = (): Opened['store'] => useOpen().store;

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

/** What the check asks of the piece; null before its first answer. `keeper` reads at once, and tells of harmony. */
export function useFindings(): { findings: readonly CheckFinding[] | null; checker: CheckKeeper | null } {
  const session = useOpen();
  const [findings, setFindings] = useState<readonly CheckFinding[] | null>(null);
  const [checker, setChecker] = useState<CheckKeeper | null>(null);
  useEffect(() => {
    const look = (): void =>
      startTransition(() => {
        setFindings(session.checker?.findings ?? null);
        setChecker(session.checker);
      });
    look();
    return session.subscribe(look);
  }, [session]);
  return { findings, checker };
}

export const usePart = (id: string): Part | undefined => usePiece((state) => findPart(state.document, id));
export function useRiff(id: string): { part: Part; riff: Riff; piece: Piece } | null {
  const piece = usePiece((state) => state.document);
  return useMemo(() => {
    const found = findRiff(piece, id);
    return found ? { ...found, piece } : null;
  }, [piece, id]);
}

/** An open piece for everything within; begins its work, and ends it on leaving. */
export function PieceProvider({ session, children }: { readonly session: Session; readonly children: ReactNode }) {
  useEffect(() => session.start(), [session]);
  return (
    <Context.Provider value={session}>
      {children}
      <StaleDialog />
    </Context.Provider>
  );
}

/** A piece worked on as one of its variants: what is changed is kept in the variant, everything else in the piece. */
class VariantSession implements Opened {
  readonly store: StoreApi<PieceState>;
  readonly checker = null;
  keeper: PlacementKeeper | null = null;
  private version = 0;
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly base: StoreApi<PieceState>,
    riff: string,
    variant: string,
  ) {
    this.store = createVariantStore(base, riff, variant);
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly answers = (): number => this.version;

  private readonly notify = (): void => {
    this.version++;
    this.listeners.forEach((listener) => listener());
  };

  start(): () => void {
    const stop = followBase(this.store, this.base);
    this.keeper = new PlacementKeeper(this.store, this.notify);
    this.notify();
    return () => {
      stop();
      this.keeper?.close();
      this.keeper = null;
    };
  }
}

/** Opens a variant of a riff for everything within: the pages see it as if it were written in the riff. */
export function VariantProvider({
  riff,
  variant,
  children,
}: {
  readonly riff: string;
  readonly variant: string;
  readonly children: ReactNode;
}) {
  const { store } = useOpen();
  const [session] = useState(() => new VariantSession(store, riff, variant));
  useEffect(() => session.start(), [session]);
  return <Context.Provider value={session}>{children}</Context.Provider>;
}

/** Two saved versions: nothing is overwritten, the user says which to go on with. */
function StaleDialog() {
  const router = useRouter();
  const store = usePieceStore();
  const stale = usePiece((state) => state.stale);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  if (!stale) return null;
  const settle = async (keep: boolean): Promise<void> => {
    setBusy(true);
    setFault(null);
    const settled = await store.getState().settle(keep);
    setBusy(false);
    if (!settled.ok) setFault(settled.error.words);
    else if (settled.value) router.push(settled.value);
  };
  const { last } = stale.current;
  return (
    <Dialog
      open
      onOpenChange={() => undefined}
      title="This piece was changed elsewhere"
      description={`${stale.window === null ? 'Your last changes were' : 'What another window left on this device was'} not saved over it. Both versions are kept.${last ? ` The other one last ${last.what}.` : ''}`}
    >
      <div className="flex flex-wrap gap-3">
        <Button tone="yours" disabled={busy} onClick={() => void settle(true)}>
          Keep mine as a piece of its own
        </Button>
        <Button disabled={busy} onClick={() => void settle(false)}>
          Go on with the other version
        </Button>
      </div>
      {fault ? (
        <p role="alert" className="mt-3 text-[15px] text-trouble">
          {fault}
        </p>
      ) : null}
    </Dialog>
  );
}

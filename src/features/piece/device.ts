import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { migrateStep, type Step } from '@/core/edit';

/**
 * What this device keeps of work the server has not taken yet, so that a crash, a closed lid or a killed browser loses
 * nothing. Every window of a piece keeps its own: none writes over another's, and a window that is gone leaves it for
 * the next one that opens the piece.
 */

/** What a window still owes the server, as it was left. */
export interface Backlog {
  readonly window: string;
  /** The revision its first step was made on. */
  readonly base: number;
  /** The save that was on its way, and how many of the steps it had; null where none was. */
  readonly sending: { readonly save: string; readonly count: number } | null;
  readonly steps: readonly Step[];
}

/** A change the server refused: kept until somebody decides about it. */
export interface RefusedChange {
  readonly id: string;
  readonly step: Step;
  readonly why: string;
}

/** Where a window notes down what it owes. Each promise resolves when it is on the disk, and fails when it can't be. */
export interface Device {
  /** Writes steps from number `from` on; forgets all before `done`. Numbers go on through the life of a window. */
  readonly note: (owed: Note) => Promise<void>;
  /** What windows of this piece left that are not there any more, the oldest first. */
  readonly left: () => Promise<readonly Backlog[]>;
  /** Forgets what a window left: it was taken up. */
  readonly forget: (window: string) => Promise<void>;
  readonly aside: () => Promise<readonly RefusedChange[]>;
  readonly setAside: (aside: RefusedChange) => Promise<void>;
  readonly dropAside: (id: string) => Promise<void>;
}

export interface Note {
  readonly base: number;
  readonly sending: Backlog['sending'];
  readonly from: number;
  readonly steps: readonly Step[];
  readonly done: number;
  /** Whether anything is owed after this. */
  readonly owes: boolean;
}

interface Stores extends DBSchema {
  windows: {
    key: string;
    value: { window: string; piece: string; base: number; sending: Backlog['sending']; at: number };
    indexes: { piece: string };
  };
  steps: { key: [window: string, number: number]; value: { step: Step } };
  aside: { key: string; value: RefusedChange & { piece: string }; indexes: { piece: string } };
}

const NAME = 'intonazione-unsent';

const opened = (): Promise<IDBPDatabase<Stores>> =>
  openDB<Stores>(NAME, 1, {
    upgrade(db) {
      db.createObjectStore('windows', { keyPath: 'window' }).createIndex('piece', 'piece');
      db.createObjectStore('steps');
      db.createObjectStore('aside', { keyPath: 'id' }).createIndex('piece', 'piece');
    },
  });

/** On the disk, not only on its way there: a browser that is killed a moment later still has it. */
const SAFE = { durability: 'strict' } as const;
const stepsOf = (window: string): IDBKeyRange => IDBKeyRange.bound([window, 0], [window, Infinity]);

/** Whether a window is there: each holds a lock of its own for as long as it lives. */
interface Life {
  readonly hold: (window: string) => void;
  readonly gone: (window: string) => Promise<boolean>;
}

/** An id that nobody else gives. `randomUUID` is missing where a page is not served securely. */
export const newId = (): string =>
  typeof crypto.randomUUID === 'function'
    ? crypto.randomUUID()
    : [...crypto.getRandomValues(new Uint32Array(4))].map((n) => n.toString(36)).join('-');

const lockName = (window: string): string => `piece-window:${window}`;

/** Without locks (a page that is not served securely) every window but one's own counts as gone. */
export const livesByLocks = (locks: LockManager | undefined): Life => ({
  hold: (window) => void locks?.request(lockName(window), () => new Promise(() => undefined)).catch(() => undefined),
  gone: async (window) =>
    locks ? locks.request(lockName(window), { ifAvailable: true }, (lock) => lock !== null) : true,
});

/** What older programs kept in the local storage, one for all windows of a piece. */
type OldStore = Pick<Storage, 'getItem' | 'removeItem'>;
const oldKey = (piece: string): string => `unsaved:${piece}`;

/** The device's store of one window of a piece. */
export function openDevice(piece: string, window: string, life: Life, old: OldStore | null): Device {
  let db: Promise<IDBPDatabase<Stores>> | null = null;
  // A store that would not open may open later: the device's owner may have made room.
  const store = (): Promise<IDBPDatabase<Stores>> =>
    (db ??= opened().catch((reason: unknown) => {
      db = null;
      throw reason;
    }));
  life.hold(window);

  const forget = async (left: string): Promise<void> => {
    if (left === oldKey(piece)) return void old?.removeItem(left);
    const tx = (await store()).transaction(['windows', 'steps'], 'readwrite', SAFE);
    await Promise.all([tx.objectStore('windows').delete(left), tx.objectStore('steps').delete(stepsOf(left)), tx.done]);
  };

  return {
    note: async ({ base, sending, from, steps, done, owes }) => {
      const tx = (await store()).transaction(['windows', 'steps'], 'readwrite', SAFE);
      const windows = tx.objectStore('windows');
      const numbered = tx.objectStore('steps');
      await Promise.all([
        owes ? windows.put({ window, piece, base, sending, at: Date.now() }) : windows.delete(window),
        ...(done > 0 ? [numbered.delete(IDBKeyRange.bound([window, 0], [window, done], false, true))] : []),
        ...steps.map((step, i) => numbered.put({ step }, [window, from + i])),
        tx.done,
      ]);
    },
    left: async () => {
      const before = readOld(old, piece);
      const db = await store();
      const rows = (await db.getAllFromIndex('windows', 'piece', piece))
        .filter((row) => row.window !== window)
        .sort((a, b) => a.at - b.at);
      const owed: Backlog[] = before ? [before] : [];
      for (const row of rows) {
        if (!(await life.gone(row.window))) continue;
        const steps = (await db.getAll('steps', stepsOf(row.window))).map((one) => migrateStep(one.step));
        if (steps.length > 0) owed.push({ window: row.window, base: row.base, sending: row.sending, steps });
        else await forget(row.window);
      }
      return owed;
    },
    forget,
    aside: async () => {
      const rows = await (await store()).getAllFromIndex('aside', 'piece', piece);
      return rows.map(({ id, step, why }) => ({ id, step: migrateStep(step), why }));
    },
    setAside: async (aside) => {
      const tx = (await store()).transaction('aside', 'readwrite', SAFE);
      await Promise.all([tx.store.put({ ...aside, piece }), tx.done]);
    },
    dropAside: async (id) => (await store()).delete('aside', id),
  };
}

function readOld(old: OldStore | null, piece: string): Backlog | null {
  try {
    const text = old?.getItem(oldKey(piece));
    if (!text) return null;
    const kept = JSON.parse(text) as { base: number; save: string; sent: object[]; pending: object[] };
    const steps = [...kept.sent, ...kept.pending].map(migrateStep);
    const sending = kept.sent.length > 0 ? { save: kept.save, count: kept.sent.length } : null;
    return steps.length > 0 ? { window: oldKey(piece), base: kept.base, sending, steps } : null;
  } catch {
    // What can't be read can't be taken up; it stays where it is.
    return null;
  }
}

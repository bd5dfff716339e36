import { createStore, type StoreApi } from 'zustand/vanilla';
import { ok, type Result } from '@/core/base';
import {
  applyEdit,
  describeEdit,
  invertEdit,
  migrateStep,
  logged,
  redoStep,
  replayed,
  undoStep,
  type Edit,
  type History,
  type Step,
} from '@/core/edit';
import { SCHEMA_VERSION, type Piece } from '@/core/score';
import type { OpenPiece, SaveAnswer } from '@/server/pieces';
import type { SaveInput } from './actions';

export type SaveState = 'saved' | 'saving' | 'offline' | 'stale' | 'rejected';

export interface PieceState {
  readonly document: Piece;
  readonly history: History;
  /** Lines of history, oldest first. */
  readonly lines: readonly string[];
  readonly saveState: SaveState;
  readonly message: string | null;
  readonly stale: { readonly current: OpenPiece; readonly refusedId: string } | null;
  /** Makes an edit; the fault says why it can't be made. `what` names it in the history. */
  readonly dispatch: (edit: Edit, what?: string) => Result<Piece>;
  /** The program's answer to the last step: undone together with it. */
  readonly follow: (edit: Edit) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  /** Goes on with the version that was saved by someone else. */
  readonly takeTheirs: () => void;
  readonly flush: () => Promise<void>;
  /**
   * Takes up what this device still owes from before. Not while the page is being taken over from the server's: both
   * must begin the same.
   */
  readonly recover: () => void;
}

type Save = (input: SaveInput) => Promise<SaveAnswer>;

/** What is not saved yet, mirrored on this device so that a crash or a closed lid loses nothing. */
interface Mirror {
  readonly base: number;
  readonly save: string;
  readonly sent: readonly Step[];
  readonly pending: readonly Step[];
}

const mirrorKey = (id: string): string => `unsaved:${id}`;

export function createPieceStore(
  open: OpenPiece,
  save: Save,
  storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'> | null,
): StoreApi<PieceState> {
  const id = open.document.id;
  let base = open.revision;
  let pending: Step[] = [];
  let sending: { save: string; steps: Step[] } | null = null;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let failures = 0;

  return createStore<PieceState>((set, get) => {
    const mirror = (): void => {
      try {
        if (!sending && pending.length === 0) storage?.removeItem(mirrorKey(id));
        else
          storage?.setItem(
            mirrorKey(id),
            JSON.stringify({ base, save: sending?.save ?? '', sent: sending?.steps ?? [], pending } satisfies Mirror),
          );
      } catch {
        // A full or closed storage only costs the safety net.
      }
    };
    const schedule = (wait: number): void => {
      if (timer) clearTimeout(timer);
      timer = setTimeout(() => void flush(), wait);
    };
    const push = (step: Step): void => {
      pending.push(step);
      mirror();
      set({ saveState: get().saveState === 'stale' ? 'stale' : 'saving' });
      schedule(350);
    };
    // One save on its way at a time: a second answer to the same save would set the revision back under the next.
    let onItsWay: Promise<void> | null = null;
    const flush = (): Promise<void> => (onItsWay ??= send().finally(() => (onItsWay = null)));
    const send = async (): Promise<void> => {
      if (get().saveState === 'stale' || get().saveState === 'rejected') return;
      if (!sending) {
        if (pending.length === 0) return;
        sending = { save: crypto.randomUUID(), steps: pending };
        pending = [];
        mirror();
      }
      const batch = sending;
      let answer: SaveAnswer;
      try {
        answer = await save({ piece: id, base, save: batch.save, steps: batch.steps });
      } catch {
        failures++;
        set({
          saveState: 'offline',
          message: 'No answer from the server. Your work is kept on this device and sent when it answers.',
        });
        schedule(Math.min(15_000, 500 * 2 ** failures));
        return;
      }
      failures = 0;
      if (answer.status === 'saved') {
        base = answer.revision;
        sending = null;
        mirror();
        if (pending.length > 0) {
          set({ saveState: 'saving', message: null });
          schedule(0);
        } else {
          set({ saveState: 'saved', message: null });
        }
      } else if (answer.status === 'stale') {
        set({ saveState: 'stale', stale: { current: answer.current, refusedId: answer.refusedId }, message: null });
      } else {
        set({ saveState: 'rejected', message: answer.message });
      }
    };
    const perform = (step: Step, document: Piece): void => {
      set((state) => ({
        document,
        history: logged(state.history, step),
        lines: step.kind === 'follow' ? state.lines : [...state.lines, step.what],
      }));
      push(step);
    };
    const travel = (step: Step | null): void => {
      if (!step) return;
      const next = applyEdit(get().document, step.edit);
      if (next.ok) perform(step, next.value);
    };

    let recovered = false;
    /** What this device still owed is done again on top; the server knows a save it has seen before. */
    const recover = (): void => {
      const kept = recovered ? null : readMirror(storage, id);
      recovered = true;
      if (!kept) return;
      let { document, history, lines } = get();
      const landed = kept.sent.length > 0 && base === kept.base + kept.sent.length;
      const seen = kept.base === base ? [...kept.sent, ...kept.pending] : landed ? kept.pending : [];
      for (const step of seen) {
        const next = applyEdit(document, step.edit);
        if (!next.ok) break;
        document = next.value;
        history = logged(history, step);
        if (step.kind !== 'follow') lines = [...lines, step.what];
      }
      if (kept.sent.length > 0) sending = { save: kept.save, steps: [...kept.sent] };
      pending = [...kept.pending];
      base = kept.base;
      set({ document, history, lines, saveState: 'saving' });
      schedule(0);
    };

    return {
      document: open.document,
      history: replayed(open.steps),
      lines: open.steps.filter((step) => step.kind !== 'follow').map((step) => step.what),
      saveState: 'saved',
      message: null,
      stale: null,
      dispatch: (edit, what) => {
        const before = get().document;
        const next = applyEdit(before, edit);
        if (!next.ok) return next;
        const inverse = invertEdit(before, edit);
        if (!inverse.ok) return inverse;
        perform(
          {
            version: SCHEMA_VERSION,
            kind: 'do',
            edit,
            inverse: inverse.value,
            what: (what ?? describeEdit(before, edit)).slice(0, 200),
          },
          next.value,
        );
        return ok(next.value);
      },
      follow: (edit) => {
        const before = get().document;
        const next = applyEdit(before, edit);
        const inverse = invertEdit(before, edit);
        if (next.ok && inverse.ok)
          perform(
            { version: SCHEMA_VERSION, kind: 'follow', edit, inverse: inverse.value, what: describeEdit(before, edit) },
            next.value,
          );
      },
      undo: () => travel(undoStep(get().history)),
      redo: () => travel(redoStep(get().history)),
      takeTheirs: () => {
        const { stale } = get();
        if (!stale) return;
        base = stale.current.revision;
        pending = [];
        sending = null;
        mirror();
        set({
          document: stale.current.document,
          history: replayed(stale.current.steps),
          lines: stale.current.steps.filter((step) => step.kind !== 'follow').map((step) => step.what),
          saveState: 'saved',
          stale: null,
          message: null,
        });
      },
      flush,
      recover,
    };
  });
}

function readMirror(storage: Pick<Storage, 'getItem'> | null, id: string): Mirror | null {
  try {
    const text = storage?.getItem(mirrorKey(id));
    if (!text) return null;
    const kept = JSON.parse(text) as Mirror;
    return { ...kept, sent: kept.sent.map(migrateStep), pending: kept.pending.map(migrateStep) };
  } catch {
    return null;
  }
}

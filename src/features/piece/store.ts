import { createStore, type StoreApi } from 'zustand/vanilla';
import { ok, type Result } from '@/core/base';
import {
  applyEdit,
  compactEdit,
  describeEdit,
  EMPTY_HISTORY,
  invertEdit,
  logged,
  readEdit,
  redoStep,
  replayed,
  undoStep,
  type Edit,
  type History,
  type Step,
} from '@/core/edit';
import { SCHEMA_VERSION, type Piece } from '@/core/score';
import type { OpenPiece, SaveAnswer } from '@/server/pieces';
import type { LoggedStep } from '@/server/repositories/history';
import type { SaveInput } from '@/server/saving';
import type { Device, RefusedChange } from './device';
import { Outbox, type SaveState, type StaleVersion } from './outbox';

export interface PieceState {
  readonly document: Piece;
  readonly history: History;
  /** Lines of history, oldest first: what was done here, and the last line of before. */
  readonly lines: readonly string[];
  readonly saveState: SaveState;
  /** Whether all that is not saved is on this device. */
  readonly kept: boolean;
  readonly message: string | null;
  readonly stale: StaleVersion | null;
  /** For whom the piece is made, as it was when the page was opened. */
  readonly asked: OpenPiece['asked'];
  /** What the server refused, until somebody decides about it. */
  readonly aside: readonly RefusedChange[];
  /** Whether the server has older steps that could be taken back, or made again. */
  readonly older: { readonly undo: boolean; readonly redo: boolean };
  /** Makes an edit; the fault says why it can't be made. `what` names it in the history. */
  readonly dispatch: (edit: Edit, what?: string) => Result<Piece>;
  /** The program's answer to the last step: undone together with it. */
  readonly follow: (edit: Edit) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  /** Decides about a refused version: kept as a piece of its own, or left. Gives the path of the piece made of it. */
  readonly settle: (keep: boolean) => Promise<Result<string | null>>;
  /** Lets go of what was set aside, or makes it again. */
  readonly dropAside: (id: string) => void;
  readonly tryAside: (id: string) => Result<Piece> | null;
  readonly flush: () => Promise<void>;
  /** Whether leaving now would lose something. */
  readonly atRisk: () => boolean;
  /** Whether this is as new as the server's revision given, or newer. */
  readonly upTo: (revision: number) => boolean;
  /**
   * Takes up what windows left on this device, and begins to send. Not while the page is being taken over from the
   * server's: both must begin the same.
   */
  readonly recover: () => Promise<void>;
  /** Called when the page comes back to the piece. */
  readonly resume: () => void;
  readonly close: () => void;
}

/** The server, as an open piece needs it. */
export interface Server {
  readonly save: (input: SaveInput) => Promise<SaveAnswer>;
  readonly settle: (refusedId: string, keep: boolean, more: readonly Step[]) => Promise<Result<string | null>>;
  /** Steps up to a revision that can be taken back, oldest first: a page of them. */
  readonly history: (piece: string, upTo: number) => Promise<readonly LoggedStep[]>;
}

const MOST_WORDS = 200;

const olderOf = ({ revision, last }: OpenPiece): PieceState['older'] => ({
  undo: revision > 0,
  redo: last?.kind === 'undo',
});

export function createPieceStore(open: OpenPiece, server: Server, device: Device | null): StoreApi<PieceState> {
  const id = open.document.id;
  /** Steps of before, read from the server as they are wanted, and what was done here on top of them. */
  let before: readonly Step[] = [];
  let here: Step[] = [];
  /** The revision up to which the server's history is not read yet. */
  let unread = open.revision;
  let last = open.last;

  return createStore<PieceState>((set, get) => {
    const linesOf = (steps: readonly Step[]): string[] => [
      ...(last === null ? [] : [last.what]),
      ...steps.filter((step) => step.kind !== 'follow').map((step) => step.what),
    ];
    const outbox = new Outbox(id, open.revision, open.document, server.save, device, {
      saving: (saveState, message) => set({ saveState, message }),
      kept: (kept) => set({ kept }),
      stale: (stale) => set({ stale }),
      aside: (aside) => set((state) => ({ aside: [...state.aside, aside] })),
      rebuilt: (document, unsent, were) => {
        const gone = new Set(were);
        here = [...here.filter((step) => !gone.has(step)), ...unsent];
        set({ document, history: replayed([...before, ...here]), lines: linesOf(here) });
      },
    });

    const perform = (step: Step, document: Piece): void => {
      here.push(step);
      set((state) => ({
        document,
        history: logged(state.history, step),
        lines: step.kind === 'follow' ? state.lines : [...state.lines, step.what],
        older: { ...state.older, redo: false },
      }));
      outbox.push(step, document);
    };
    const travel = (step: Step | null): boolean => {
      const next = step && applyEdit(get().document, step.edit);
      if (step && next?.ok) perform(step, next.value);
      return step !== null;
    };
    /** Reads a page of older history, then goes that way; what is pressed meanwhile is done after it, in order. */
    let waiting: (() => Step | null)[] = [];
    const travelOlder = (next: () => Step | null): void => {
      if (waiting.length > 0) return void waiting.push(next);
      if (travel(next()) || unread === 0) return;
      waiting = [next];
      void server
        .history(id, unread)
        .then((steps) => {
          before = [...steps, ...before];
          unread = (steps[0]?.revision ?? 1) - 1;
          set({ history: replayed([...before, ...here]), older: { undo: unread > 0, redo: false } });
        })
        .catch(() => set({ message: 'What was done before can’t be read now: the server does not answer.' }))
        .finally(() => {
          const pressed = waiting;
          waiting = [];
          pressed.forEach((one) => travel(one()));
        });
    };

    return {
      document: open.document,
      history: EMPTY_HISTORY,
      lines: linesOf([]),
      saveState: 'saved',
      kept: true,
      message: null,
      stale: null,
      asked: open.asked,
      aside: [],
      older: olderOf(open),
      dispatch: (wanted, what) => {
        const piece = get().document;
        const read = readEdit(compactEdit(piece, wanted));
        if (!read.ok) {
          set({ message: read.error.words });
          return read;
        }
        const edit = read.value;
        const next = applyEdit(piece, edit);
        if (!next.ok) return next;
        const inverse = invertEdit(piece, edit);
        if (!inverse.ok) return inverse;
        const words = (what ?? describeEdit(piece, wanted)).slice(0, MOST_WORDS).toWellFormed();
        perform({ version: SCHEMA_VERSION, kind: 'do', edit, inverse: inverse.value, what: words }, next.value);
        return ok(next.value);
      },
      follow: (edit) => {
        const piece = get().document;
        const next = applyEdit(piece, edit);
        const inverse = invertEdit(piece, edit);
        if (!next.ok || !inverse.ok) return;
        const what = describeEdit(piece, edit).slice(0, MOST_WORDS);
        perform({ version: SCHEMA_VERSION, kind: 'follow', edit, inverse: inverse.value, what }, next.value);
      },
      undo: () => travelOlder(() => undoStep(get().history)),
      redo: () => travelOlder(() => redoStep(get().history)),
      settle: async (keep) => {
        const { stale } = get();
        if (!stale) return ok(null);
        // What was typed while the answer was on its way belongs to the version that was refused.
        const more = stale.window === null ? outbox.later() : stale.more;
        const settled = await server.settle(stale.refusedId, keep, more).catch((): Result<string | null> => NO_ANSWER);
        if (!settled.ok) return settled;
        if (stale.window !== null) await outbox.settled(stale.window);
        else {
          before = [];
          here = [];
          unread = stale.current.revision;
          last = stale.current.last;
          const { document } = stale.current;
          set({ document, history: EMPTY_HISTORY, lines: linesOf([]), older: olderOf(stale.current), message: null });
          outbox.goOn(stale.current);
        }
        set({ stale: null });
        return settled;
      },
      dropAside: (aside) => {
        set((state) => ({ aside: state.aside.filter((one) => one.id !== aside) }));
        void outbox.dropAside(aside);
      },
      tryAside: (aside) => {
        const found = get().aside.find((one) => one.id === aside);
        if (!found) return null;
        const made = get().dispatch(found.step.edit, found.step.what);
        if (made.ok) get().dropAside(aside);
        return made;
      },
      flush: () => outbox.flush(),
      atRisk: () => outbox.atRisk,
      upTo: (revision) => outbox.unsent || outbox.revision >= revision,
      recover: () => outbox.recover(),
      resume: () => outbox.resume(),
      close: () => outbox.close(),
    };
  });
}

const NO_ANSWER = {
  ok: false,
  error: {
    rule: 'no-answer',
    severity: 'error',
    words: 'No answer from the server. Both versions are kept; try again.',
    locus: {},
    evidence: null,
    mends: [],
  },
} as const satisfies Result<never>;

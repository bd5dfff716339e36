import { SCHEMA_VERSION } from '../score';
import type { Edit } from './types';

/**
 * Undo and redo as a log of steps that only grows, so that it is the same log in memory and in
 * the database. A step is what the user did; `follow` is the program's answer to it (places
 * proposed after a note was moved) and is undone together with it.
 */
export type StepKind = 'do' | 'follow' | 'undo' | 'redo';

export interface Step {
  /** The version of the document its edits are written for. */
  readonly version: typeof SCHEMA_VERSION;
  readonly kind: StepKind;
  readonly edit: Edit;
  readonly inverse: Edit;
  /** In words, for the history list. */
  readonly what: string;
}

/** One thing that undo takes back: a step and what followed from it, in order. */
export interface Done {
  readonly steps: readonly Step[];
}

export interface History {
  readonly undo: readonly Done[];
  readonly redo: readonly Done[];
}

export const EMPTY_HISTORY: History = { undo: [], redo: [] };

/** How many things can be taken back. */
export const UNDO_DEPTH = 300;

/** The history after one more step of the log. Undo and redo steps move what is on top. */
export function logged(history: History, step: Step): History {
  const top = history.undo.at(-1);
  switch (step.kind) {
    case 'do':
      return { undo: [...history.undo, { steps: [step] }].slice(-UNDO_DEPTH), redo: [] };
    case 'follow':
      return top
        ? { undo: [...history.undo.slice(0, -1), { steps: [...top.steps, step] }], redo: [] }
        : { undo: [{ steps: [step] }], redo: [] };
    case 'undo':
      return top ? { undo: history.undo.slice(0, -1), redo: [...history.redo, top] } : history;
    case 'redo': {
      const back = history.redo.at(-1);
      return back ? { undo: [...history.undo, back], redo: history.redo.slice(0, -1) } : history;
    }
  }
}

export const replayed = (steps: readonly Step[]): History => steps.reduce(logged, EMPTY_HISTORY);

const flat = (edits: readonly Edit[], what: string): Edit => ({
  type: 'batch',
  what,
  edits: edits.flatMap((one) => (one.type === 'batch' ? one.edits : [one])),
});

/** The step that takes back the last thing done, or null. */
export function undoStep(history: History): Step | null {
  const top = history.undo.at(-1);
  const first = top?.steps[0];
  if (!top || !first) return null;
  const what = `took back: ${first.what}`.slice(0, 200);
  const back = [...top.steps].reverse().map((step) => step.inverse);
  return {
    version: SCHEMA_VERSION,
    kind: 'undo',
    edit: flat(back, what),
    inverse: flat(
      top.steps.map((step) => step.edit),
      first.what,
    ),
    what,
  };
}

/** The step that does again what was taken back last, or null. */
export function redoStep(history: History): Step | null {
  const top = history.redo.at(-1);
  const first = top?.steps[0];
  if (!top || !first) return null;
  const again = flat(
    top.steps.map((step) => step.edit),
    first.what,
  );
  return {
    version: SCHEMA_VERSION,
    kind: 'redo',
    edit: again,
    inverse: flat(
      [...top.steps].reverse().map((step) => step.inverse),
      first.what,
    ),
    what: `did again: ${first.what}`.slice(0, 200),
  };
}

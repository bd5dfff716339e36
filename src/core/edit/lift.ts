import { liftSetup } from '../instrument';
import type { Edit } from './types';

/**
 * Lifts an edit written by an older program to the present form: set-ups inside it are those of
 * document version 1 or newer. An edit of today comes back unchanged.
 */
export function liftEdit(edit: Edit): Edit {
  switch (edit.type) {
    case 'batch':
      return { ...edit, edits: edit.edits.map((e) => liftEdit(e) as (typeof edit.edits)[number]) };
    case 'setSetup':
      return { ...edit, setup: liftSetup(edit.setup) as typeof edit.setup };
    case 'addPart':
      return { ...edit, part: { ...edit.part, setup: liftSetup(edit.part.setup) as typeof edit.part.setup } };
    default:
      return edit;
  }
}

/** Lifts both directions of a step. */
export const liftStep = <T extends { readonly edit: Edit; readonly inverse: Edit }>(step: T): T => ({ ...step, edit: liftEdit(step.edit), inverse: liftEdit(step.inverse) });

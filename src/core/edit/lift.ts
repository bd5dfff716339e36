import { liftSetup } from '../instrument';
import { liftEvent, liftRiff, type Json, type Riff } from '../score';
import type { Edit } from './types';

const riff = (r: Riff): Riff => liftRiff(r as unknown as Json) as unknown as Riff;

/**
 * Lifts an edit written by an older program to the present form: set-ups, riffs and events inside
 * it are those of document version 1 or newer. An edit of today comes back unchanged.
 */
export function liftEdit(edit: Edit): Edit {
  switch (edit.type) {
    case 'batch':
      return { ...edit, edits: edit.edits.map((e) => liftEdit(e) as (typeof edit.edits)[number]) };
    case 'setSetup':
      return { ...edit, setup: liftSetup(edit.setup) as typeof edit.setup, riffs: edit.riffs.map(riff) };
    case 'addPart':
      return {
        ...edit,
        part: {
          ...edit.part,
          setup: liftSetup(edit.part.setup) as typeof edit.part.setup,
          riffs: edit.part.riffs.map(riff),
        },
      };
    case 'addRiff':
      return { ...edit, riff: riff(edit.riff) };
    case 'putEvents':
      return { ...edit, put: edit.put.map((e) => liftEvent(e as unknown as Json) as unknown as typeof e) };
    default:
      return edit;
  }
}

/** Lifts both directions of a step. */
export const liftStep = <T extends { readonly edit: Edit; readonly inverse: Edit }>(step: T): T => ({
  ...step,
  edit: liftEdit(step.edit),
  inverse: liftEdit(step.inverse),
});

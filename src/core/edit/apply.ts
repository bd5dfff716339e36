import { must, ok, type Result } from '../base';
import { checkSize, highestId, type Piece } from '../score';
import { EDITS } from './registry';
import type { EditSpec, Touch } from './spec';
import type { Edit, SimpleEdit } from './types';

/** A spec that takes any edit: the registry's keys are the types of its schemas, which the compiler can't follow. */
type AnySpec = Pick<EditSpec<never>, 'migrate'> & {
  readonly apply: (piece: Piece, edit: SimpleEdit) => Result<Piece>;
  readonly invert: (piece: Piece, edit: SimpleEdit) => Result<SimpleEdit>;
  readonly describe: (piece: Piece, edit: SimpleEdit) => string;
  readonly touches: (edit: SimpleEdit) => Touch;
};
const specOf = (edit: SimpleEdit): AnySpec => EDITS[edit.type] as unknown as AnySpec;

/** The piece after an edit, or why the edit can't be made; the old piece is untouched. */
export function applyEdit(piece: Piece, edit: Edit): Result<Piece> {
  let current = piece;
  for (const one of simpleOf(edit)) {
    const next = specOf(one).apply(current, one);
    if (!next.ok) return next;
    current = next.value;
  }
  if (current.parts !== piece.parts || current.sections !== piece.sections || current.form !== piece.form) {
    const sized = checkSize(current, piece);
    if (!sized.ok) return sized;
  }
  // Taking an edit back does not take back its numbers: no id is given twice in a piece's life.
  const lastId = Math.max(current.lastId, highestId(edit));
  return ok(lastId === current.lastId ? current : { ...current, lastId });
}

/** The edit that undoes `edit` when applied to the piece that `edit` made of `piece`. */
export function invertEdit(piece: Piece, edit: Edit): Result<Edit> {
  if (edit.type !== 'batch') return specOf(edit).invert(piece, edit);
  const undone: SimpleEdit[] = [];
  let current = piece;
  for (const one of edit.edits) {
    const back = specOf(one).invert(current, one);
    if (!back.ok) return back;
    undone.unshift(back.value);
    const next = specOf(one).apply(current, one);
    if (!next.ok) return next;
    current = next.value;
  }
  return ok({ type: 'batch', what: edit.what, edits: undone });
}

/** One line of history in words, read against the piece before the edit. */
export const describeEdit = (piece: Piece, edit: Edit): string =>
  edit.type === 'batch' ? edit.what : specOf(edit).describe(piece, edit);

/** What an edit touches: for whoever keeps something made of a piece. */
export const touchesOf = (edit: Edit): readonly Touch[] => simpleOf(edit).map((one) => specOf(one).touches(one));

/** The edits an edit is made of. */
export const simpleOf = (edit: Edit): readonly SimpleEdit[] => (edit.type === 'batch' ? edit.edits : [edit]);

/** Applies an edit and gives its inverse in one call; throws where the edit does not apply. */
export function applied(piece: Piece, edit: Edit): { piece: Piece; inverse: Edit } {
  return { inverse: must(invertEdit(piece, edit)), piece: must(applyEdit(piece, edit)) };
}

import { together } from '../../command';
import type { Edit, SimpleEdit } from '../../edit';
import type { Piece } from '../../score';
import type { TakenIn } from './take-in';

/**
 * Music that was taken in (with ids above the piece's) put into a piece as one step. Its form and what it says of
 * tempo, key and chords come along where the piece has no form of its own, which no file may change.
 */
export function insertTaken(piece: Piece, { piece: taken }: TakenIn, from: string): Edit {
  const first = piece.parts.length === 0;
  const formed = piece.sections.length === 0;
  const edits: SimpleEdit[] = [
    ...(first ? [{ type: 'patchContext', set: taken.context, clear: [] } as const] : []),
    ...taken.parts.map((part, i): SimpleEdit => ({ type: 'addPart', part, at: piece.parts.length + i })),
    ...(formed ? taken.sections.map((section, i): SimpleEdit => ({ type: 'addSection', section, at: i })) : []),
    ...(formed && taken.form.length > 0 ? [{ type: 'setForm', form: taken.form } as const] : []),
    ...(first && taken.credit && !piece.credit
      ? [{ type: 'patchPiece', set: { credit: taken.credit }, clear: [] } as const]
      : []),
  ];
  return together(
    `brought in ${taken.parts.map((part) => `“${part.name}”`).join(', ')} from ${from}`.slice(0, 200),
    edits,
  );
}

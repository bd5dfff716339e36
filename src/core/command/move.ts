import { fail, ok, type Result } from '../base';
import { moveShape, moveSound, moveStrings, type Moved } from '../carry';
import type { Setup } from '../instrument';
import type { Edit } from '../edit';
import { findRiff, type Piece, type RiffEvent } from '../score';

/** How chosen notes or pasted ones are moved: in shape along the neck, across strings, or in sound. */
export interface Move {
  readonly by: 'frets' | 'strings' | 'semitones';
  readonly steps: number;
}

export const moved = (setup: Setup, events: readonly RiffEvent[], move: Move): Result<Moved> =>
  move.by === 'frets'
    ? moveShape(setup, events, move.steps)
    : move.by === 'strings'
      ? moveStrings(setup, events, move.steps)
      : moveSound(setup, events, move.steps);

/** Moves events of a riff; the answer says what was lost on the way. */
export function moveNotes(
  piece: Piece,
  riffId: string,
  ids: readonly string[],
  move: Move,
): Result<{ readonly edit: Edit; readonly moved: Moved }> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const chosen = riff.events.filter((event) => ids.includes(event.id));
  if (chosen.length === 0) return fail('nothing-chosen', 'Choose a note first.', { riff: riffId });
  const made = moved(part.setup, chosen, move);
  if (!made.ok) return made;
  return ok({
    edit: { type: 'putEvents', part: part.id, riff: riff.id, put: made.value.events, remove: [] },
    moved: made.value,
  });
}

/** What a move lost, in words; null where nothing. */
export function movedWords({ lostOpen, lostLocks }: Moved): string | null {
  const open =
    lostOpen > 0 ? `${lostOpen === 1 ? 'An open string has' : `${lostOpen} open strings have`} become stopped` : '';
  const locks =
    lostLocks > 0 ? `${lostLocks === 1 ? 'one place of yours was' : `${lostLocks} places of yours were`} given up` : '';
  const both = [open, locks].filter(Boolean).join('; ');
  return both === '' ? null : `${both.charAt(0).toUpperCase()}${both.slice(1)}.`;
}

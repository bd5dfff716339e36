import { fail, ok, type Finger, type Result } from '../base';
import type { Edit, SimpleEdit } from '../edit';
import { findRiff, type Piece } from '../score';

/** A place chosen for a note. */
export interface ChosenPlace {
  readonly event: string;
  readonly note: string;
  readonly string: number;
  readonly fret: number;
  /** As proposed; null leaves it to the program. */
  readonly finger: Finger | null;
}

/**
 * Takes a whole way at once: every place becomes the instructor's and is locked; fingers stay proposals; reasons
 * given before are kept.
 */
export function chooseWay(piece: Piece, riffId: string, places: readonly ChosenPlace[], what: string): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'This riff is not in the piece any more.', { riff: riffId });
  const { part, riff } = found;
  const notes = new Map(riff.events.flatMap((event) => event.notes.map((note) => [note.id, note] as const)));
  const edits = places.map((place): SimpleEdit => {
    const now = notes.get(place.note)?.place ?? null;
    const finger =
      now?.fingerBy === 'instructor' && now.string === place.string && now.fret === place.fret
        ? now.finger
        : place.finger;
    return {
      type: 'placeNote',
      part: part.id,
      riff: riff.id,
      event: place.event,
      note: place.note,
      place: {
        string: place.string,
        fret: place.fret,
        finger,
        by: 'instructor',
        fingerBy: now?.fingerBy === 'instructor' && finger === now.finger ? 'instructor' : 'solver',
        locked: true,
        reason: now?.reason ?? null,
      },
    };
  });
  return edits.length > 0
    ? ok({ type: 'batch', what: what.slice(0, 200), edits })
    : fail('no-place', 'There is nothing to place.', { riff: riffId });
}

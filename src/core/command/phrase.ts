import { fail, ok, type Finger, type Result } from '../base';
import { openPitch, pitchAt, stringNumbers, type Setup } from '../instrument';
import { harmonicsOf, positionsOf } from '../place';
import type { Edit } from '../edit';
import {
  findRiff,
  makePlace,
  riffStart,
  soundAt,
  type Join,
  type Note,
  type Part,
  type Piece,
  reasonAsEvidence,
  type Riff,
  type RiffEvent,
  joinedTo,
  otherPlaceOf,
  joinOf,
  withJoin,
  withNoteJoin,
} from '../score';
import { add, lt, type Quarter } from '../time';

/** What hands do at the bench, as edits: each takes the piece and where, and gives the edit or why not. */

export interface NoteRef {
  readonly riff: string;
  readonly event: string;
  readonly note: string;
}

interface Found {
  readonly part: Part;
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
}

/** A note with all that it stands in. */
export function findNote(piece: Piece, ref: NoteRef): Result<Found> {
  const found = findRiff(piece, ref.riff);
  const event = found?.riff.events.find((event) => event.id === ref.event);
  const note = event?.notes.find((note) => note.id === ref.note);
  return found && event && note
    ? ok({ ...found, event, note })
    : fail('no-note', 'That note is not there any more.', { note: ref.note });
}

const putEvent = (part: Part, riff: Riff, put: readonly RiffEvent[], remove: readonly string[] = []): Edit => ({
  type: 'putEvents',
  part: part.id,
  riff: riff.id,
  put,
  remove,
});

/** An event with one of its notes replaced. */
export const withNote = (event: RiffEvent, note: Note): RiffEvent => ({
  ...event,
  notes: event.notes.map((one) => (one.id === note.id ? note : one)),
});

/**
 * Other notes of the event that are not locked lose their place where the string is now taken; the solver finds them
 * another.
 */
function makeRoom(event: RiffEvent, keep: string, string: number): Result<RiffEvent> {
  const clash = event.notes.find((note) => note.id !== keep && note.place?.string === string && note.place.locked);
  if (clash)
    return fail('string-taken', `String ${string} is taken by a note of this chord that you locked.`, {
      note: clash.id,
    });
  return ok({
    ...event,
    notes: event.notes.map((note) =>
      note.id !== keep && note.place?.string === string ? { ...note, place: null } : note,
    ),
  });
}

/** Locks a note on a string and fret. Where that sounds another pitch, the pitch changes with it. */
export function lockAt(
  piece: Piece,
  ref: NoteRef,
  string: number,
  fret: number,
  reason: string | null = null,
): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  const sounds = soundAt(part.setup, { string, fret }, note.technique, note.pitch.midi);
  if (!sounds.ok) return sounds;
  const place = makePlace(string, fret, 'instructor', { reason: reason ?? note.place?.reason ?? null });
  const roomy = makeRoom(event, note.id, string);
  if (!roomy.ok) return roomy;
  const pitch =
    sounds.value === note.pitch.midi ? note.pitch : { midi: sounds.value, cents: 0, by: 'instructor' as const };
  if (pitch === note.pitch && roomy.value.notes.every((note, i) => note === event.notes[i])) {
    return ok({ type: 'placeNote', part: part.id, riff: riff.id, event: event.id, note: note.id, place });
  }
  return ok(putEvent(part, riff, [withNote(roomy.value, { ...note, pitch, place })]));
}

/** Gives the choice of a place back to the program; the place stays as a proposal until it is solved again. */
export function unlock(piece: Piece, ref: NoteRef): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  if (!note.place) return fail('no-place', 'This note has no place to give back.', { note: note.id });
  // The instructor's reason stays with the note: it may well be wanted again.
  const place = { ...note.place, locked: false, by: 'solver' as const, fingerBy: 'solver' as const };
  return ok({ type: 'placeNote', part: part.id, riff: riff.id, event: event.id, note: note.id, place });
}

/** Moves a note to the same pitch on the next thinner (-1) or thicker (+1) string that has it. */
/** Puts a note at its other place, and keeps the one it had as the other. */
export function swapPlaces(piece: Piece, ref: NoteRef): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  const other = otherPlaceOf(note, part.setup);
  if (!note.place || !other)
    return fail('no-other', 'This note has no other place: call it as "A12 or D7".', { note: note.id });
  const { string, fret, reason } = note.place;
  const taken = event.notes.some((one) => one.id !== note.id && one.place?.string === other.string);
  if (taken) return fail('string-twice', `String ${other.string} sounds another note here.`, { note: note.id });
  return ok({
    type: 'placeNote',
    part: part.id,
    riff: riff.id,
    event: event.id,
    note: note.id,
    place: {
      string: other.string,
      fret: other.fret,
      finger: other.fret === 0 ? 0 : null,
      by: 'instructor',
      fingerBy: 'solver',
      locked: true,
      reason: other.reason,
      otherPlace: { string, fret, reason },
    },
  });
}

export function toNextString(piece: Piece, ref: NoteRef, direction: 1 | -1): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, note } = found.value;
  const now = note.place?.string ?? (direction > 0 ? 0 : 99);
  const places = (
    note.technique?.harmonic ? harmonicsOf(part.setup, note.pitch.midi) : positionsOf(part.setup, note.pitch.midi)
  ).filter((place) => (direction > 0 ? place.string > now : place.string < now));
  const next = places.sort((a, b) => Math.abs(a.string - now) - Math.abs(b.string - now))[0];
  if (!next)
    return fail('no-string', `This pitch does not lie on a ${direction > 0 ? 'thicker' : 'thinner'} string.`, {
      note: note.id,
    });
  return lockAt(piece, ref, next.string, next.fret);
}

/** Changes a pitch by semitones. A locked note moves along its string; others are placed anew. */
export function shiftPitch(piece: Piece, ref: NoteRef, semitones: number): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  if (note.place?.locked) return lockAt(piece, ref, note.place.string, note.place.fret + semitones);
  const midi = note.pitch.midi + semitones;
  if (!withinNeck(part.setup, midi))
    return fail('off-neck', 'That pitch does not exist on this set-up.', { note: note.id });
  return ok(
    putEvent(part, riff, [
      withNote(event, {
        ...note,
        place: null,
        evidence: note.evidence ?? reasonAsEvidence(note.place?.reason),
        pitch: { midi, cents: 0, by: 'instructor' },
      }),
    ]),
  );
}

const withinNeck = (setup: Setup, midi: number): boolean =>
  stringNumbers(setup).some((string) => pitchAt(setup, { string: string, fret: midi - openPitch(setup, string) }).ok);

/** Decides a finger (1-4) for a stopped note, or with null leaves it to the program. */
export function setFinger(piece: Piece, ref: NoteRef, finger: Finger | null): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  if (!note.place || note.place.fret === 0 || note.technique?.dead || note.technique?.tapped)
    return fail('no-finger', 'Only a stopped note takes a finger.', { note: note.id });
  if (finger === 0)
    return fail('no-finger', 'A stopped note needs a finger from 1 to 4, or 5 for the thumb.', { note: note.id });
  if (finger === 5 && note.place.string !== Math.max(...stringNumbers(part.setup)))
    return fail('no-finger', 'The thumb over the neck reaches the thickest string only.', { note: note.id });
  // A finger is decided for a place, so deciding it decides the place too.
  const place = {
    ...note.place,
    finger: finger ?? note.place.finger,
    fingerBy: finger === null ? ('solver' as const) : ('instructor' as const),
    locked: true,
    by: 'instructor' as const,
  };
  return ok({ type: 'placeNote', part: part.id, riff: riff.id, event: event.id, note: note.id, place });
}

/** Changes events of a riff by a function; ids are kept. */
export function changeEvents(
  piece: Piece,
  riffId: string,
  ids: readonly string[],
  change: (event: RiffEvent) => RiffEvent,
): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const put = found.riff.events.filter((event) => ids.includes(event.id)).map(change);
  return put.length > 0
    ? ok(putEvent(found.part, found.riff, put))
    : fail('nothing-chosen', 'Choose a note first.', { riff: riffId });
}

export const setLength = (piece: Piece, riffId: string, ids: readonly string[], dur: Quarter): Result<Edit> =>
  changeEvents(piece, riffId, ids, (event) => ({
    ...event,
    dur,
    notes: event.notes.map((note) => ({ ...note, dur: null })),
  }));

/**
 * Joins events to what follows them, or with null parts them: every note that leads to one of the next event, or the
 * one note `only`.
 */
export function setJoin(
  piece: Piece,
  riffId: string,
  ids: readonly string[],
  link: Join | null,
  only: string | null = null,
): Result<Edit> {
  const events = findRiff(piece, riffId)?.riff.events ?? [];
  return changeEvents(piece, riffId, ids, (event) => {
    if (event.notes.length < 2) return withJoin(event, link);
    if (link === null)
      return {
        ...event,
        notes: event.notes.map((note) => (only === null || note.id === only ? withNoteJoin(note, null) : note)),
      };
    const next = events[events.indexOf(event) + 1];
    return next ? joinedTo(event, next, link, only === null ? null : new Set([only])) : withJoin(event, link);
  });
}

export const setLetRing = (piece: Piece, riffId: string, ids: readonly string[], ring: boolean): Result<Edit> =>
  changeEvents(piece, riffId, ids, (event) => ({ ...event, letRing: ring }));

/** Ids with the grace notes that lead into the events they name. */
function withGraces(riff: Riff, ids: readonly string[]): Set<string> {
  const all = new Set(ids);
  for (let i = riff.events.length - 2; i >= 0; i--) {
    const event = riff.events[i];
    if (event?.grace && all.has(riff.events[i + 1]?.id ?? '')) all.add(event.id);
  }
  return all;
}

export function removeEvents(piece: Piece, riffId: string, ids: readonly string[]): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { events } = found.riff;
  const gone = withGraces(found.riff, ids);
  const remove = events.filter((event) => gone.has(event.id)).map((event) => event.id);
  if (remove.length === 0) return fail('nothing-chosen', 'Choose a note first.', { riff: riffId });
  // A note joined to one that goes has nothing to be joined to any more.
  const loose = events.filter(
    (event, i) => joinOf(event) !== null && !gone.has(event.id) && gone.has(events[i + 1]?.id ?? ''),
  );
  return ok(
    putEvent(
      found.part,
      found.riff,
      loose.map((event) => withJoin(event, null)),
      remove,
    ),
  );
}

/**
 * Moves events in time, with the grace notes that lead into them. Refused where they would land on others or before
 * the riff.
 */
export function moveEvents(piece: Piece, riffId: string, ids: readonly string[], by: Quarter): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { riff } = found;
  const all = withGraces(riff, ids);
  const moved = riff.events.filter((event) => all.has(event.id)).map((event) => ({ ...event, at: add(event.at, by) }));
  const taken = new Set(riff.events.filter((event) => !all.has(event.id)).map((event) => event.at));
  if (moved.length === 0) return fail('nothing-chosen', 'Choose a note first.', { riff: riffId });
  if (moved.some((event) => !event.grace && lt(event.at, riffStart(riff))))
    return fail('before-start', 'That would be before the riff begins.', { riff: riffId });
  if (moved.some((event) => taken.has(event.at)))
    return fail('taken', 'Another note begins there already.', { riff: riffId });
  return ok(putEvent(found.part, riff, moved));
}

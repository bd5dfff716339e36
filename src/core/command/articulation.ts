import { fail, freshIds, ok, type Finger, type Result } from '../base';
import { tiltCents } from '../instrument';
import type { Edit } from '../edit';
import {
  findRiff,
  impossible,
  impossibleEvent,
  ARTICULATIONS,
  type Evidence,
  type Articulation,
  type Note,
  type Piece,
  type RiffEvent,
  isStruck,
  joinOf,
  withJoin,
  type TechniqueChange,
} from '../score';
import { changeEvents, findNote, withNote, type NoteRef } from './phrase';
import { mergedTechnique } from './technique';
import { add, cmp, mul, quarter, sub, type Quarter } from '../time';

/** A change of how events are played: undefined leaves it, null takes it away. */
export type ArticulationChange = {
  readonly [K in keyof Omit<Articulation, 'what' | 'grace'>]?: Articulation[K] | null;
};

/** An event with another manner of playing. */
function noteTechniques(event: RiffEvent, change: ArticulationChange): RiffEvent {
  const { ...out }: Record<string, unknown> = event;
  for (const key of ARTICULATIONS) {
    const to = (change as Record<string, unknown>)[key];
    if (to === null) Reflect.deleteProperty(out, key);
    else if (to !== undefined) out[key] = to;
  }
  return out as RiffEvent;
}

/** Changes how events are played. What can't be done is refused with the reason. */
export function setArticulation(
  piece: Piece,
  riffId: string,
  ids: readonly string[],
  change: ArticulationChange,
): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { events } = found.riff;
  for (const [i, event] of events.entries()) {
    if (!ids.includes(event.id)) continue;
    const next = noteTechniques(event, change);
    const why = impossibleEvent(next);
    if (why) return fail('impossible', why, { event: event.id });
    const before = events[i - 1];
    if (change.stroke && event.notes.length > 0 && !isStruck(before, event) && joinOf(before))
      return fail('slurred', 'This note is not struck: it is joined to the one before. Take the join away first.', {
        event: event.id,
      });
    if (change.quickSlide && !before?.notes.some(({ join }) => join === 'slide' || join === 'shift'))
      return fail('no-slide', 'No slide leads here that could be fast.', { event: event.id });
  }
  return changeEvents(piece, riffId, ids, (event) => noteTechniques(event, change));
}

/**
 * Changes the techniques of every note of events at once, or of the one note `only`. Refused as a whole where one
 * can't be.
 */
export function setTechniqueOfAll(
  piece: Piece,
  riffId: string,
  ids: readonly string[],
  change: TechniqueChange,
  only: string | null = null,
): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  let why: { text: string; at: string } | null = null;
  const made = changeEvents(piece, riffId, ids, (event) => ({
    ...event,
    notes: event.notes.map((one): Note => {
      if (only !== null && one.id !== only) return one;
      const { technique: noteTechniques, ...note } = one;
      const next = mergedTechnique(noteTechniques, change);
      const text = impossible(found.part.setup, note.place, next, event.slideBar);
      if (text) why ??= { text, at: note.id };
      return Object.keys(next).length > 0 ? { ...note, technique: next } : note;
    }),
  }));
  const refused = why as { text: string; at: string } | null;
  return refused ? fail('impossible', refused.text, { note: refused.at }) : made;
}

/** Says how sure the notes of events are, and what they rest on; undefined leaves either as it is. */
export function setEvidence(
  piece: Piece,
  riffId: string,
  ids: readonly string[],
  spec: { readonly certainty?: Note['certainty']; readonly evidence?: Evidence | null },
  only: string | null = null,
): Result<Edit> {
  return changeEvents(piece, riffId, ids, (event) => ({
    ...event,
    notes: event.notes.map((note) =>
      only !== null && note.id !== only
        ? note
        : {
            ...note,
            certainty: spec.certainty ?? note.certainty,
            evidence: spec.evidence === undefined ? note.evidence : spec.evidence,
          },
    ),
  }));
}

/** Names another finger that would do as well, or with null none. */
export function setFingerOption(piece: Piece, ref: NoteRef, or: Finger | null): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  const { place } = note;
  if (!place || place.fret === 0 || !place.finger)
    return fail('no-finger', 'Decide a finger first, then the other that would do.', { note: note.id });
  if (or === 0 || or === place.finger)
    return fail('no-finger', 'The other finger that would do is one from 1 to 5, and not the same again.', {
      note: note.id,
    });
  const { otherFinger: _, ...rest } = place;
  // Both fingers are the instructor's word, so the first is decided too.
  const next =
    or === null
      ? rest
      : { ...rest, otherFinger: or, fingerBy: 'instructor' as const, locked: true, by: 'instructor' as const };
  return ok({ type: 'placeNote', part: part.id, riff: riff.id, event: event.id, note: note.id, place: next });
}

/** Puts a hole, a hit or a scrape; what begins in its stretch makes way. */
export function putSpecial(
  piece: Piece,
  riffId: string,
  what: NonNullable<Articulation['kind']>,
  at: Quarter,
  dur: Quarter,
): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const end = add(at, dur);
  const remove = riff.events
    .filter((event) => cmp(event.at, at) >= 0 && cmp(event.at, end) < 0)
    .map((event) => event.id);
  const before = riff.events.filter((event) => cmp(event.at, at) < 0).at(-1);
  const event: RiffEvent = {
    id: freshIds(piece.lastId)('e'),
    at,
    dur,
    notes: [],
    letRing: false,
    kind: what,
  };
  // Nothing is joined to what is no note.
  return ok({
    type: 'putEvents',
    part: part.id,
    riff: riff.id,
    put: [...(before && joinOf(before) ? [withJoin(before, null)] : []), event],
    remove,
  });
}

/** Puts a grace note before an event, a fret or two below on its string and joined to it. */
export function addGrace(piece: Piece, riffId: string, eventId: string): Result<Edit> {
  const found = findRiff(piece, riffId);
  const at = found?.riff.events.findIndex((event) => event.id === eventId) ?? -1;
  const event = found?.riff.events[at];
  const note = event?.notes[0];
  if (!found || !event || !note) return fail('no-note', 'A grace note needs a note to lead to.', { event: eventId });
  if (event.grace) return fail('grace', 'This is a grace note itself.', { event: eventId });
  const { part, riff } = found;
  const before = riff.events[at - 1];
  const room = before ? mul(sub(event.at, before.at), 1, 2) : quarter(1, 8);
  const dur = cmp(room, quarter(1, 8)) < 0 ? room : quarter(1, 8);
  const fresh = freshIds(piece.lastId);
  const down = note.place ? Math.min(2, note.place.fret) : 2;
  if (down === 0)
    return fail('open', 'An open string has no lower note to lead from. Call the grace note instead.', {
      event: eventId,
    });
  const place = note.place
    ? {
        ...note.place,
        fret: note.place.fret - down,
        finger: note.place.fret - down === 0 ? (0 as const) : null,
        fingerBy: 'solver' as const,
        reason: null,
      }
    : null;
  const grace: RiffEvent = {
    id: fresh('e'),
    at: sub(event.at, dur),
    dur,
    letRing: false,
    grace: true,
    notes: [
      {
        id: fresh('n'),
        ...(event.notes.length === 1 && note.place ? { join: 'hammer' as const } : {}),
        pitch: { midi: note.pitch.midi - down, cents: 0, by: 'instructor' },
        place: place && stripOr(place),
        dur: null,
        certainty: note.certainty,
        evidence: null,
      },
    ],
  };
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put: [grace], remove: [] });
}

const stripOr = ({ otherFinger: _, ...place }: NonNullable<Note['place']>): NonNullable<Note['place']> => place;

/**
 * Tilts the slide bar over an event: each string under it then sounds where the bar crosses it.
 * Distances along the string follow from the angle and the string spacing at that place.
 */
export function setTilt(piece: Piece, riffId: string, eventId: string, degrees: number | null): Result<Edit> {
  const found = findRiff(piece, riffId);
  const event = found?.riff.events.find((event) => event.id === eventId);
  if (!found || !event) return fail('no-note', 'That note is not there any more.', { event: eventId });
  if (degrees !== null && !(Number.isInteger(degrees) && Math.abs(degrees) <= 30))
    return fail('tilt', 'The bar is tilted by up to 30 degrees either way.', { event: eventId });
  const { part, riff } = found;
  const { tilt: _, ...rest } = event;
  const tilted = degrees === null || degrees === 0 ? rest : { ...rest, slideBar: true as const, tilt: degrees };
  const why = impossibleEvent(tilted);
  if (why) return fail('impossible', why, { event: eventId });
  const thick = Math.max(...event.notes.map((note) => note.place?.string ?? 0));
  const notes = event.notes.map((note) => ({
    ...note,
    pitch: {
      ...note.pitch,
      cents:
        note.place && note.place.fret > 0 && degrees
          ? tiltCents(part.setup, note.place, thick, degrees)
          : degrees === null
            ? 0
            : note.pitch.cents,
    },
  }));
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put: [{ ...tilted, notes }], remove: [] });
}

/** One note of an event with a change, as an edit. */
export function changeNote(piece: Piece, ref: NoteRef, change: (note: Note) => Note): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put: [withNote(event, change(note))], remove: [] });
}

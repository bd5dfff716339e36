import { fail, freshIds, ok, type Result } from '../base';
import { fretsLeft, harmonicAt, openPitch, stringNumbers } from '../instrument';
import type { Mend } from '../place';
import type { Edit } from '../edit';
import {
  bendShapeOf,
  bendShapes,
  findRiff,
  impossible,
  type Note,
  type Piece,
  type RiffWish,
  type Technique,
  type TechniqueChange,
} from '../score';
import { changeEvents, findNote, removeEvents, setJoin, shiftPitch, unlock, withNote, type NoteRef } from './phrase';
import { cmp, sub } from '../time';

/** Techniques after a change. What belongs to a bend goes with it; saying a size ends its being unsaid. */
export function mergedTechnique(before: Technique | undefined, change: TechniqueChange): Technique {
  const merged: Record<string, unknown> = { ...before, ...change };
  if (change.bend !== undefined && change.bendCurve === undefined) {
    // The shape that was said stays, whether how far is said now or not any more.
    const shape = before?.bendShape ?? (before?.bend ? bendShapeOf(before) : null);
    const named = shape && shape !== 'up' ? shape : null;
    const keeps = change.bend === null ? change.unspecified?.includes('bend') : before?.bendShape !== undefined;
    merged.bendCurve = change.bend && named && keeps ? [...bendShapes(change.bend)[named]] : null;
    if (change.bend === null && named && keeps) merged.bendShape = named;
  }
  const open =
    (merged.unspecified as readonly string[] | null | undefined)?.filter(
      (u) => merged[u] === undefined || merged[u] === null,
    ) ?? [];
  merged.unspecified = open.length > 0 ? open : null;
  if (!open.includes('bend')) merged.bendShape = null;
  if (merged.slideIn === null || merged.slideIn === undefined) merged.slideInBy = null;
  if (merged.slideOut === null || merged.slideOut === undefined) merged.slideOutBy = null;
  if (merged.bend === null || merged.bend === undefined) {
    merged.bendCurve = null;
    if (!open.includes('bend') && !change.bendDirection) merged.bendDirection = null;
  }
  return Object.fromEntries(Object.entries(merged).filter(([, one]) => one !== null && one !== undefined)) as Technique;
}

/** Changes the techniques of one note. What no hand can do is refused with the reason. */
export function setTechnique(piece: Piece, ref: NoteRef, change: TechniqueChange): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  const noteTechniques = mergedTechnique(note.technique, change);
  let next: Note = { ...note, technique: noteTechniques };
  if (noteTechniques.harmonic && !note.technique?.harmonic) {
    // The place says over which fret it is touched; the pitch follows.
    if (!note.place)
      return fail('no-place', 'Say where the harmonic is touched first: choose a place for the note.', {
        note: note.id,
      });
    const node = harmonicAt(note.place.fret);
    if (!node || note.place.fret > fretsLeft(part.setup, note.place.string))
      return fail(
        'no-node',
        `No harmonic sounds clearly over fret ${note.place.fret}: nodes are at 12, 7, 19, 5, 4, 9, 16, 3.2, 2.7 and 2.3.`,
        { note: note.id },
      );
    next = {
      ...next,
      pitch: { midi: openPitch(part.setup, note.place.string) + node.semitones, cents: 0, by: 'instructor' },
      place: { ...note.place, locked: true, by: 'instructor' },
    };
  } else if (!noteTechniques.harmonic && note.technique?.harmonic && note.place) {
    next = {
      ...next,
      pitch: { midi: openPitch(part.setup, note.place.string) + note.place.fret, cents: 0, by: 'instructor' },
    };
  }
  const without = noteTechniques.dead || noteTechniques.tapped;
  if (without && next.place) {
    const { otherFinger: _, ...place } = next.place;
    next = { ...next, place: { ...place, finger: 0, fingerBy: 'solver' } };
  } else if ((note.technique?.dead || note.technique?.tapped) && next.place && next.place.fret > 0)
    next = { ...next, place: { ...next.place, finger: null } };
  const why = impossible(part.setup, next.place, noteTechniques, event.slideBar);
  if (why) return fail('impossible', why, { note: note.id });
  const { technique: _, ...plain } = next;
  const put = withNote(event, Object.keys(noteTechniques).length > 0 ? next : plain);
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put: [put], remove: [] });
}

/** Says that events are played with a slide bar, or with fingers. Pitches between frets go with the bar. */
export const setSlideBar = (piece: Piece, riffId: string, ids: readonly string[], bar: boolean): Result<Edit> =>
  changeEvents(piece, riffId, ids, ({ slideBar: _, tilt: __, ...event }) =>
    bar
      ? { ...event, slideBar: true }
      : { ...event, notes: event.notes.map((note) => ({ ...note, pitch: { ...note.pitch, cents: 0 } })) },
  );

/** Puts a note so many cents above or below its pitch (-99 to 99): heard with a slide bar. */
export function setCents(piece: Piece, ref: NoteRef, cents: number): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  if (!Number.isFinite(cents) || Math.abs(cents) > 99)
    return fail('cents', 'Between 99 cents below and 99 above.', { note: note.id });
  return ok({
    type: 'putEvents',
    part: part.id,
    riff: riff.id,
    put: [withNote(event, { ...note, pitch: { ...note.pitch, cents: Math.round(cents) } })],
    remove: [],
  });
}

const patchWishes = (part: string, riff: string, wishes: readonly RiffWish[]): Edit =>
  wishes.length > 0
    ? { type: 'patchRiff', part, riff, set: { wishes }, clear: [] }
    : { type: 'patchRiff', part, riff, set: {}, clear: ['wishes'] };

/** Adds a wish for a stretch of a riff, changes the one of the same id, or with `wish` null takes it away. */
export function setWish(
  piece: Piece,
  riffId: string,
  id: string | null,
  wish: Omit<RiffWish, 'id'> | null,
): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const others = (riff.wishes ?? []).filter((wish) => wish.id !== id);
  if (wish && cmp(wish.to, wish.from) <= 0)
    return fail('empty-stretch', 'A wish needs a stretch that ends after it begins.', { riff: riffId });
  if (wish && wish.avoid.some((s) => wish.prefer.includes(s)))
    return fail('both', 'A string can’t be both kept free and wished for.', { riff: riffId });
  if (wish && wish.avoid.length >= stringNumbers(part.setup).length)
    return fail('no-strings', 'Every string would be kept free here.', { riff: riffId });
  const wishes = wish
    ? [...others, { ...wish, id: id ?? freshIds(piece.lastId)('w') }].sort(
        (a, b) => cmp(a.from, b.from) || cmp(a.to, b.to),
      )
    : others;
  return ok(patchWishes(part.id, riff.id, wishes));
}

/**
 * A way out of what can't be played, as an edit; null for those that change the set-up, which is done on its own
 * page.
 */
export function mendEdit(piece: Piece, riffId: string, mend: Mend): Result<Edit> | null {
  if (mend.kind === 'tuning' || mend.kind === 'instrument') return null;
  const found = findRiff(piece, riffId);
  const at = found?.riff.events.findIndex((event) => event.id === mend.event) ?? -1;
  const event = found?.riff.events[at];
  if (!found || !event) return fail('no-note', 'That note is not there any more.', { event: mend.event });
  const ref = (note: number): NoteRef => ({ riff: riffId, event: event.id, note: event.notes[note]?.id ?? '' });
  switch (mend.kind) {
    case 'release': {
      const next = found.riff.events[at + 1];
      return changeEvents(piece, riffId, [event.id], (event) => ({
        ...event,
        letRing: false,
        dur: next && cmp(sub(next.at, event.at), event.dur) < 0 ? sub(next.at, event.at) : event.dur,
        notes: event.notes.map(({ technique: noteTechniques, ...note }) => {
          const { hold: _, ...rest } = noteTechniques ?? {};
          return { ...note, dur: null, ...(Object.keys(rest).length > 0 ? { technique: rest } : {}) };
        }),
      }));
    }
    case 'unlink':
      return setJoin(piece, riffId, [event.id], null);
    case 'unlock':
      return unlock(piece, ref(mend.note));
    case 'octave':
      return shiftPitch(piece, ref(mend.note), mend.by);
    case 'unbend':
      return setTechnique(piece, ref(mend.note), { bend: null });
    case 'leave':
      return event.notes.length === 1
        ? removeEvents(piece, riffId, [event.id])
        : changeEvents(piece, riffId, [event.id], (event) => ({
            ...event,
            notes: event.notes.filter((_, i) => i !== mend.note),
          }));
    case 'allow':
      return ok(
        patchWishes(
          found.part.id,
          riffId,
          (found.riff.wishes ?? [])
            .map((wish) =>
              cmp(wish.from, event.at) <= 0 && cmp(event.at, wish.to) < 0 ? { ...wish, avoid: [] } : wish,
            )
            .filter(
              (wish) =>
                wish.hand !== null ||
                wish.liking !== null ||
                wish.avoid.length > 0 ||
                wish.prefer.length > 0 ||
                wish.thumb !== undefined,
            ),
        ),
      );
  }
}

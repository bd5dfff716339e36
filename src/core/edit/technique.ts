import { fail, ok, stableId, type Result } from '../base';
import { fretsLeft, harmonicAt, openPitch, stringNumbers } from '../instrument';
import type { Mend } from '../place';
import { findRiff, impossible, type Piece, type RiffWish, type Tech } from '../score';
import { cmp, sub } from '../time';
import { changeEvents, findNote, removeEvents, setLink, shiftPitch, unlock, withNote, type NoteRef } from './phrase';
import type { Edit } from './types';

/** A change of what is done to a note: undefined leaves a technique as it is, null takes it away. */
export type TechChange = { readonly [K in keyof Tech]?: Tech[K] | null };

/** Techniques after a change. What belongs to a bend goes with it; saying a size ends its being unsaid. */
export function mergedTech(before: Tech | undefined, change: TechChange): Tech {
  const merged: Record<string, unknown> = { ...before, ...change };
  if (change.bend !== undefined && change.curve === undefined) merged.curve = null;
  const open =
    (merged.unsaid as readonly string[] | null | undefined)?.filter(
      (u) => merged[u] === undefined || merged[u] === null,
    ) ?? [];
  merged.unsaid = open.length > 0 ? open : null;
  if (merged.bend === null || merged.bend === undefined) {
    merged.curve = null;
    if (!open.includes('bend') && !change.toward) merged.toward = null;
  }
  return Object.fromEntries(Object.entries(merged).filter(([, v]) => v !== null && v !== undefined)) as Tech;
}

/** Changes the techniques of one note. What no hand can do is refused with the reason. */
export function setTech(piece: Piece, ref: NoteRef, change: TechChange): Result<Edit> {
  const found = findNote(piece, ref);
  if (!found.ok) return found;
  const { part, riff, event, note } = found.value;
  const tech = mergedTech(note.tech, change);
  let next = { ...note, tech };
  if (tech.harmonic && !note.tech?.harmonic) {
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
  } else if (!tech.harmonic && note.tech?.harmonic && note.place) {
    next = {
      ...next,
      pitch: { midi: openPitch(part.setup, note.place.string) + note.place.fret, cents: 0, by: 'instructor' },
    };
  }
  const without = tech.dead || tech.tapped;
  if (without && next.place) {
    const { or: _, ...place } = next.place;
    next = { ...next, place: { ...place, finger: 0, fingerBy: 'solver' } };
  } else if ((note.tech?.dead || note.tech?.tapped) && next.place && next.place.fret > 0)
    next = { ...next, place: { ...next.place, finger: null } };
  const why = impossible(part.setup, next.place, tech, event.bar);
  if (why) return fail('impossible', why, { note: note.id });
  const { tech: _, ...plain } = next;
  const put = withNote(event, Object.keys(tech).length > 0 ? next : plain);
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put: [put], remove: [] });
}

/** Says that events are played with a slide bar, or with fingers. Pitches between frets go with the bar. */
export const setBar = (piece: Piece, riffId: string, ids: readonly string[], bar: boolean): Result<Edit> =>
  changeEvents(piece, riffId, ids, ({ bar: _, tilt: __, ...e }) =>
    bar ? { ...e, bar: true } : { ...e, notes: e.notes.map((n) => ({ ...n, pitch: { ...n.pitch, cents: 0 } })) },
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
  const others = (riff.wishes ?? []).filter((w) => w.id !== id);
  if (wish && cmp(wish.to, wish.from) <= 0)
    return fail('empty-stretch', 'A wish needs a stretch that ends after it begins.', { riff: riffId });
  if (wish && wish.avoid.some((s) => wish.prefer.includes(s)))
    return fail('both', 'A string can’t be both kept free and wished for.', { riff: riffId });
  if (wish && wish.avoid.length >= stringNumbers(part.setup).length)
    return fail('no-strings', 'Every string would be kept free here.', { riff: riffId });
  const wishes = wish
    ? [...others, { ...wish, id: id ?? stableId('w', new Set((riff.wishes ?? []).map((w) => w.id))) }].sort(
        (a, b) => cmp(a.from, b.from) || cmp(a.to, b.to),
      )
    : others;
  return ok({ type: 'setWishes', part: part.id, riff: riff.id, wishes });
}

/**
 * A way out of what can't be played, as an edit; null for those that change the set-up, which is done on its own
 * page.
 */
export function mendEdit(piece: Piece, riffId: string, mend: Mend): Result<Edit> | null {
  if (mend.kind === 'tuning' || mend.kind === 'instrument') return null;
  const found = findRiff(piece, riffId);
  const at = found?.riff.events.findIndex((e) => e.id === mend.event) ?? -1;
  const event = found?.riff.events[at];
  if (!found || !event) return fail('no-note', 'That note is not there any more.', { event: mend.event });
  const ref = (note: number): NoteRef => ({ riff: riffId, event: event.id, note: event.notes[note]?.id ?? '' });
  switch (mend.kind) {
    case 'release': {
      const next = found.riff.events[at + 1];
      return changeEvents(piece, riffId, [event.id], (e) => ({
        ...e,
        ring: false,
        dur: next && cmp(sub(next.at, e.at), e.dur) < 0 ? sub(next.at, e.at) : e.dur,
        notes: e.notes.map(({ tech, ...n }) => {
          const { keep: _, ...rest } = tech ?? {};
          return { ...n, dur: null, ...(Object.keys(rest).length > 0 ? { tech: rest } : {}) };
        }),
      }));
    }
    case 'unlink':
      return setLink(piece, riffId, [event.id], null);
    case 'unlock':
      return unlock(piece, ref(mend.note));
    case 'octave':
      return shiftPitch(piece, ref(mend.note), mend.by);
    case 'unbend':
      return setTech(piece, ref(mend.note), { bend: null });
    case 'leave':
      return event.notes.length === 1
        ? removeEvents(piece, riffId, [event.id])
        : changeEvents(piece, riffId, [event.id], (e) => ({ ...e, notes: e.notes.filter((_, i) => i !== mend.note) }));
    case 'allow':
      return ok({
        type: 'setWishes',
        part: found.part.id,
        riff: riffId,
        wishes: (found.riff.wishes ?? [])
          .map((w) => (cmp(w.from, event.at) <= 0 && cmp(event.at, w.to) < 0 ? { ...w, avoid: [] } : w))
          .filter(
            (w) =>
              w.hand !== null ||
              w.liking !== null ||
              w.avoid.length > 0 ||
              w.prefer.length > 0 ||
              w.thumb !== undefined,
          ),
      });
  }
}

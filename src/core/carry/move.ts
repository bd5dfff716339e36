import { fail, ok, type Result, type Semitones } from '../base';
import { openPitch, pitchAt, stringNumbers, type Setup } from '../instrument';
import { impossible, soundAt, reasonAsEvidence, type Note, type RiffEvent } from '../score';

/** Moving events within one set-up: along the neck in shape, across the strings in shape, or in sound. */

/** What a move leaves behind, beside the moved events. */
export interface Moved {
  readonly events: readonly RiffEvent[];
  /** Open strings that became stopped ones: the shape has lost them. */
  readonly lostOpen: number;
  /** Locked places given up. */
  readonly lostLocks: number;
}

const eachNote = (
  events: readonly RiffEvent[],
  change: (note: Note, event: RiffEvent) => Result<Note>,
): Result<RiffEvent[]> => {
  const out: RiffEvent[] = [];
  for (const event of events) {
    const notes: Note[] = [];
    for (const note of event.notes) {
      const next = change(note, event);
      if (!next.ok) return next;
      notes.push(next.value);
    }
    out.push({ ...event, notes });
  }
  return ok(out);
};

const place = (note: Note): string => `string ${note.place?.string ?? '?'}, fret ${note.place?.fret ?? '?'}`;

/** Every place so many frets up or down; notes without a place go by as many semitones. Open strings become stopped. */
export function moveShape(setup: Setup, events: readonly RiffEvent[], frets: number): Result<Moved> {
  let lostOpen = 0;
  const moved = eachNote(events, (note, event) => {
    if (!note.place) return inSound(setup, note, frets);
    if (note.technique?.harmonic)
      return fail('harmonic', 'A natural harmonic stays at its node; it can’t be moved in shape.', { note: note.id });
    const fret = note.place.fret + frets;
    if (note.place.fret === 0 && !note.technique?.dead) lostOpen++;
    if (fret < 0)
      return fail('off-neck', `${place(note)} can’t go down ${-frets}: there is no fret below the open string.`, {
        note: note.id,
      });
    return settled(setup, note, event, { string: note.place.string, fret });
  });
  return moved.ok ? ok({ events: moved.value, lostOpen: frets === 0 ? 0 : lostOpen, lostLocks: 0 }) : moved;
}

/** Every place so many strings on: above 0 towards the thick ones. Frets stay, the sound follows the tuning. */
export function moveStrings(setup: Setup, events: readonly RiffEvent[], strings: number): Result<Moved> {
  const all = stringNumbers(setup);
  const moved = eachNote(events, (note, event) => {
    if (!note.place) return fail('no-place', 'A note without a place has no string to move from.', { note: note.id });
    const to = all[all.indexOf(note.place.string) - strings];
    if (to === undefined) return fail('no-string', `There is no string so far from ${place(note)}.`, { note: note.id });
    return settled(setup, note, event, { string: to, fret: note.place.fret });
  });
  return moved.ok ? ok({ events: moved.value, lostOpen: 0, lostLocks: 0 }) : moved;
}

/** Every pitch so many semitones up or down; places are given up, for the solver to find new ones. */
export function moveSound(setup: Setup, events: readonly RiffEvent[], semitones: Semitones): Result<Moved> {
  let lostLocks = 0;
  const moved = eachNote(events, (note) => {
    if (note.place?.locked) lostLocks++;
    return inSound(setup, note, semitones);
  });
  return moved.ok ? ok({ events: moved.value, lostOpen: 0, lostLocks }) : moved;
}

function inSound(setup: Setup, note: Note, semitones: Semitones): Result<Note> {
  const midi = note.pitch.midi + semitones;
  const there =
    midi >= 0 &&
    midi <= 127 &&
    stringNumbers(setup).some((string) => pitchAt(setup, { string: string, fret: midi - openPitch(setup, string) }).ok);
  if (!there)
    return fail(
      'off-neck',
      'A pitch would not exist on this set-up any more. Move by less, or by an octave the other way.',
      { note: note.id },
    );
  const { technique: techniques, ...rest } = note;
  // Where a note will lie is open now, so what depends on its fret goes: a harmonic's node.
  const { harmonic: _, ...kept } = techniques ?? {};
  return ok({
    ...rest,
    ...(Object.keys(kept).length > 0 ? { technique: kept } : {}),
    pitch: { midi, cents: note.pitch.cents, by: 'instructor' },
    place: null,
    evidence: note.evidence ?? reasonAsEvidence(note.place?.reason),
  });
}

function settled(
  setup: Setup,
  note: Note,
  event: RiffEvent,
  to: { readonly string: number; readonly fret: number },
): Result<Note> {
  const sounds = soundAt(setup, to, note.technique, null);
  if (!sounds.ok) return fail(sounds.error.rule, sounds.error.words, { note: note.id });
  const why = note.technique ? impossible(setup, to, note.technique, event.slideBar) : null;
  if (why) return fail('impossible', why, { note: note.id });
  const now = note.place;
  const open = to.fret === 0;
  const { otherFinger: or, ...kept } = now ?? {
    string: 0,
    fret: 0,
    finger: null,
    by: 'instructor' as const,
    fingerBy: 'solver' as const,
    locked: true,
    reason: null,
  };
  const bare = note.technique?.dead || note.technique?.tapped;
  const finger = bare ? (0 as const) : open ? (0 as const) : kept.finger === 0 ? null : kept.finger;
  const fingerBy = finger === kept.finger ? kept.fingerBy : ('solver' as const);
  return ok({
    ...note,
    pitch: { ...note.pitch, midi: sounds.value },
    place: { ...kept, ...to, finger, fingerBy, ...(or !== undefined && finger ? { otherFinger: or } : {}) },
  });
}

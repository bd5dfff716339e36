import type { Setup } from '../instrument';
import { impossible, soundAt, reasonAsEvidence, type Note, type Part, type Riff, type RiffEvent } from '../score';

/** Keep what is heard (new places), or keep where the fingers go (new sound). */
export type CarryMode = 'sound' | 'shape';

export interface Carried {
  readonly riffs: readonly Riff[];
  /** Locked places that could not stay. */
  readonly lostLocks: number;
  /** Notes whose sounding pitch changed. */
  readonly newPitches: number;
  /** Notes left without a place, for the solver to find one. */
  readonly unplaced: number;
}

/**
 * A part's riffs on another set-up. Keeping the sound, a place stays where it still sounds its
 * note and is given up elsewhere; keeping the shape, strings and frets stay and the pitch follows.
 */
export function carryPart(part: Part, setup: Setup, mode: CarryMode): Carried {
  let lostLocks = 0;
  let newPitches = 0;
  let unplaced = 0;
  const carryNote = (given: Note): Note => {
    const note = fitted(setup, given);
    if (!note.place) {
      unplaced++;
      return note;
    }
    const sounds = soundAt(setup, note.place, note.technique, note.pitch.midi);
    if (sounds.ok && sounds.value === note.pitch.midi) return note;
    if (sounds.ok && mode === 'shape' && sounds.value <= 127) {
      newPitches++;
      return { ...note, pitch: { ...note.pitch, midi: sounds.value } };
    }
    if (note.place.locked) lostLocks++;
    unplaced++;
    // A reason given for a place outlives it.
    return { ...note, place: null, evidence: note.evidence ?? reasonAsEvidence(note.place.reason) };
  };
  const riffs = part.riffs.map((riff): Riff => ({
    ...riff,
    events: riff.events.map((event): RiffEvent => ({ ...event, notes: event.notes.map(carryNote) })),
  }));
  // Readings and variants kept beside go the same way, and are not counted: they are not what is written.
  const counts = { lostLocks, newPitches, unplaced };
  const carryEvents = (events: readonly RiffEvent[]): RiffEvent[] =>
    events.map((event) => ({ ...event, notes: event.notes.map(carryNote) }));
  const carried = riffs.map((riff): Riff => ({
    ...riff,
    ...(riff.alternatives
      ? { alternatives: riff.alternatives.map((one) => ({ ...one, events: carryEvents(one.events) })) }
      : {}),
    ...(riff.variants
      ? {
          variants: riff.variants.map((one) => ({
            ...one,
            change: {
              ...one.change,
              replaced: carryEvents(one.change.replaced),
              inserted: carryEvents(one.change.inserted),
            },
          })),
        }
      : {}),
  }));
  return { riffs: carried, ...counts };
}

/**
 * A note without what can't be done where it lies now: which way a bend goes at the edge, a slide from frets that are
 * not there.
 */
function fitted(setup: Setup, note: Note): Note {
  if (!note.technique || !note.place || impossible(setup, note.place, note.technique) === null) return note;
  const {
    bendDirection: _,
    slideIn: _in,
    slideOut: _out,
    slideInBy: _inBy,
    slideOutBy: _outBy,
    ...techniques
  } = note.technique;
  const { technique: _technique, ...rest } = note;
  const next = Object.keys(techniques).length > 0 ? { ...rest, technique: techniques } : rest;
  return impossible(setup, note.place, techniques) === null ? next : { ...next, place: null };
}

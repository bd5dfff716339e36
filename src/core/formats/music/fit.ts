import type { Semitones } from '../../base';
import { fretsLeft, openPitch, stringNumbers, type Setup } from '../../instrument';
import { impossible, impossibleEvent, LIMITS, soundAt, type Note, type RiffEvent, type Technique } from '../../score';
import type { MusicPart } from './types';

/** What is believed where a note's string and fret sound otherwise than its pitch. */
export type Trust = 'places' | 'pitches';

/** How the places of a part agree with its pitches on a set-up. */
export interface Agreement {
  readonly placed: number;
  /** Notes on a string the set-up does not have, or beyond its frets. */
  readonly outside: number;
  readonly differing: number;
  /** The distance place minus pitch where all that differ do so alike. */
  readonly by: Semitones | null;
  /** The first event that differs or lies outside. */
  readonly first: RiffEvent | null;
}

export function agreement(part: Pick<MusicPart, 'events'>, setup: Setup): Agreement {
  let [placed, outside, differing] = [0, 0, 0];
  let first: RiffEvent | null = null;
  const steps = new Set<number>();
  for (const event of part.events)
    for (const note of event.notes) {
      if (!note.place) continue;
      placed++;
      const sounds = soundAt(setup, note.place, note.technique, note.pitch.midi);
      if (!sounds.ok) outside++;
      else if (sounds.value !== note.pitch.midi) {
        differing++;
        steps.add(sounds.value - note.pitch.midi);
      } else continue;
      first ??= event;
    }
  return { placed, outside, differing, by: steps.size === 1 ? ([...steps][0] ?? null) : null, first };
}

/** What is usually right: tab is written on purpose, unless nobody said for which strings. */
export const usualTrust = (part: MusicPart, { placed, differing }: Agreement): Trust =>
  part.tuning !== null || differing < placed / 5 ? 'places' : 'pitches';

/** How many notes of a part lie within a set-up's range after a shift. */
export function notesInRange(part: Pick<MusicPart, 'events'>, setup: Setup, shift: Semitones): number {
  const opens = stringNumbers(setup).map((string) => openPitch(setup, string));
  const low = Math.min(...opens);
  const high = Math.max(...opens) + fretsLeft(setup);
  const within = (midi: number): boolean => midi + shift >= low && midi + shift <= high;
  return part.events.reduce((sum, event) => sum + event.notes.filter((note) => within(note.pitch.midi)).length, 0);
}

export const SHIFTS: readonly Semitones[] = [0, -12, 12, -24, 24];

/** The octave shift that puts most notes on the neck, the smallest such. What has places has its octave. */
export const bestShift = (part: Pick<MusicPart, 'events' | 'placed'>, setup: Setup): Semitones =>
  part.placed
    ? 0
    : SHIFTS.reduce((best, s) => (notesInRange(part, setup, s) > notesInRange(part, setup, best) ? s : best), 0);

/** What did not go in as it stood. */
export interface Fitted {
  readonly events: readonly RiffEvent[];
  /** Places given up for their pitch, pitches given up for their place. */
  readonly placesLost: number;
  readonly pitchesChanged: number;
  /** Ways of playing that no hand can do there. */
  readonly techniquesLost: number;
  /** Notes that fit into no event or no pitch. */
  readonly notesLost: number;
}

/** Events as the document can hold them on a set-up: places and pitches agree, and everything can be done there. */
export function fitEvents(events: readonly RiffEvent[], setup: Setup, shift: Semitones, trust: Trust): Fitted {
  const count = { placesLost: 0, pitchesChanged: 0, techniquesLost: 0, notesLost: 0 };
  const fitNote = (note: Note, strings: Set<number>, slideBar: boolean): Note | null => {
    let midi = note.pitch.midi + shift;
    let { place } = note;
    if (place) {
      const sounds = strings.has(place.string) ? null : soundAt(setup, place, note.technique, midi);
      if (!sounds?.ok) {
        place = null;
        count.placesLost++;
      } else if (sounds.value !== midi) {
        if (trust === 'places') {
          midi = sounds.value;
          count.pitchesChanged++;
        } else {
          // The string is evidence still: where the pitch lies on it, it stays.
          const fret = midi - openPitch(setup, place.string);
          const kept = fret >= 0 && fret <= fretsLeft(setup, place.string) && !note.technique?.harmonic;
          place = kept ? { ...place, fret, finger: fret === 0 ? 0 : null } : null;
          count.placesLost++;
        }
      }
    }
    if (midi < 0 || midi > 127) {
      count.notesLost++;
      return null;
    }
    if (place) strings.add(place.string);
    const { technique: asked, ...rest } = note;
    const technique = asked ? possible(setup, place, asked, slideBar) : undefined;
    if (asked && technique !== asked) count.techniquesLost++;
    return {
      ...rest,
      pitch: { ...note.pitch, midi },
      place: place && withFinger(place, technique),
      ...(technique && Object.keys(technique).length > 0 ? { technique } : {}),
    };
  };
  const out = events.flatMap((event): RiffEvent[] => {
    const strings = new Set<number>();
    const notes = event.notes
      .slice(0, LIMITS.notes)
      .flatMap((note) => fitNote(note, strings, event.slideBar === true) ?? []);
    count.notesLost += Math.max(0, event.notes.length - LIMITS.notes);
    if (event.notes.length > 0 && notes.length === 0) return [];
    const fitted = playable({ ...event, notes });
    if (Object.keys(fitted).length !== Object.keys(event).length) count.techniquesLost++;
    return [fitted];
  });
  return { events: out, ...count };
}

/** A technique without what no hand can do at that place; the same object where all of it can be done. */
function possible(setup: Setup, place: Note['place'], asked: Technique, slideBar: boolean): Technique {
  let technique = asked;
  for (const name of Object.keys(asked).reverse() as (keyof Technique)[]) {
    if (impossible(setup, place, technique, slideBar || undefined) === null) return technique;
    const { [name]: _, ...rest } = technique;
    technique = rest;
  }
  return technique;
}

/** What may go from an event that can't be as it is, what matters least first. */
const LOOSE = ['tilt', 'pickSlap', 'gate', 'roll', 'rake', 'scraped', 'tremolo', 'grace', 'kind'] as const;

function playable(event: RiffEvent): RiffEvent {
  let tried = event;
  for (const name of LOOSE) {
    if (impossibleEvent(tried) === null) return tried;
    const { [name]: _, ...rest } = tried;
    tried = rest;
  }
  return { ...tried, letRing: impossibleEvent(tried) === null && tried.letRing };
}

function withFinger(place: NonNullable<Note['place']>, technique: Technique | undefined): NonNullable<Note['place']> {
  const { otherFinger, ...rest } = place;
  const free = technique?.dead === true || technique?.tapped === true;
  const finger = place.fret === 0 && !free ? 0 : place.finger === 0 && place.fret > 0 && !free ? null : place.finger;
  const other =
    otherFinger !== undefined && otherFinger !== 0 && otherFinger !== finger && finger !== null && place.fret > 0;
  return { ...rest, finger, ...(other ? { otherFinger } : {}) };
}

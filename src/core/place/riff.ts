import type { Setup } from '../instrument';
import {
  notesOf,
  type Note,
  type Part,
  type Piece,
  type Place,
  type Riff,
  type RiffEvent,
  joinOf,
  type Join,
} from '../score';
import type { TempoStep } from '../time';
import { barOf, barStart, cmp, maxQuarter, sub, type Quarter } from '../time';
import { DEFAULT_OPTIONS } from './options';
import { handNeeds } from './technique-needs';
import type { PlaceEvent, PlaceLink, PlaceNote, PlaceOptions, Problem, Way, Wish } from './types';

/** A riff of a document as the solver's problem. Only locked places bind it. */
export function problemOf(
  riff: Riff,
  setup: Setup,
  tempo: readonly TempoStep[],
  options: PlaceOptions = DEFAULT_OPTIONS,
): Problem {
  const events = riff.events.map((event) => placeEvent(riff, event));
  return { setup, tempo, meters: riff.meters, events, options };
}

/** Events of a riff as the solver takes them, by the event: what did not change stays the same object. */
const made = new WeakMap<RiffEvent, { readonly riff: Pick<Riff, 'meters' | 'wishes'>; readonly event: PlaceEvent }>();

function placeEvent(riff: Riff, event: RiffEvent): PlaceEvent {
  const known = made.get(event);
  if (known && known.riff.meters === riff.meters && known.riff.wishes === riff.wishes) return known.event;
  const { id, at, dur } = event;
  const alike = event.notes.every(({ join }) => join === event.notes[0]?.join);
  const next: PlaceEvent = {
    id,
    at,
    dur,
    link: alike ? placeLink(joinOf(event)) : null,
    ring: event.letRing,
    notes: event.notes.map((note) => {
      const made = placeNote(note, note.technique?.letRing ? underEnd(riff, event) : null);
      return alike ? made : { ...made, link: placeLink(note.join ?? null) };
    }),
    ...(event.slideBar ? { bar: true } : {}),
    ...wishAt(riff, at),
  };
  made.set(event, { riff: { meters: riff.meters, wishes: riff.wishes }, event: next });
  return next;
}

/** A shift slide is struck anew and goes the same way. */
export const placeLink = (join: Join | null): PlaceLink | null => (join === 'shift' ? 'slide' : join);

/** The hand and weights a part is placed with. */
export function optionsFor(piece: Pick<Piece, 'costs'>, part: Pick<Part, 'player'>): PlaceOptions {
  return {
    ...DEFAULT_OPTIONS,
    profile: part.player?.profile ?? DEFAULT_OPTIONS.profile,
    costs: piece.costs?.weights ?? DEFAULT_OPTIONS.costs,
  };
}

/** How long a note sounds that rings on under others: to the end of its bar. */
function underEnd(riff: Riff, event: RiffEvent): Quarter {
  const { bar } = barOf(riff.meters, event.at);
  return maxQuarter(sub(barStart(riff.meters, bar + 1), event.at), event.dur);
}

function placeNote(note: Note, under: Quarter | null): PlaceNote {
  const { technique } = note;
  const plain = { pitch: note.pitch.midi, dur: under ?? note.dur, lock: lockOf(note) };
  if (!technique && note.pitch.cents === 0) return plain;
  return { ...plain, cents: note.pitch.cents, ...handNeeds(technique) };
}

/** What is wished where an event begins; where stretches overlap, each later one adds to the earlier. */
function wishAt(riff: Riff, at: Riff['events'][number]['at']): { wish?: Wish } {
  const here = riff.wishes?.filter((wish) => cmp(wish.from, at) <= 0 && cmp(at, wish.to) < 0) ?? [];
  if (here.length === 0) return {};
  return {
    wish: here.reduce<Wish>(
      (sum, wish) => ({
        hand: wish.hand ?? sum.hand,
        liking: wish.liking ?? sum.liking,
        avoid: [...(sum.avoid ?? []), ...wish.avoid],
        prefer: [...(sum.prefer ?? []), ...wish.prefer],
        thumb: wish.thumb ?? sum.thumb,
      }),
      {},
    ),
  };
}

function lockOf({ place }: Note): PlaceEvent['notes'][number]['lock'] {
  if (!place?.locked) return null;
  const decided = place.fingerBy === 'instructor' ? place.finger : null;
  return { string: place.string, fret: place.fret, finger: decided };
}

/**
 * What a way changes in a riff: for every note whose place or finger differs, the place proposed.
 * Locked places keep string, fret, decider and reason and may only get their finger; a finger of
 * the instructor's is kept.
 */
export function proposals(riff: Riff, way: Way): { note: string; place: Place | null }[] {
  const changes: { note: string; place: Place | null }[] = [];
  const placed = new Map<string, Way['events'][number]['notes'][number]>();
  riff.events.forEach((event, index) =>
    event.notes.forEach((note, one) => placed.set(note.id, way.events[index]?.notes[one] ?? null)),
  );
  for (const { note } of notesOf(riff)) {
    const to = placed.get(note.id) ?? null;
    const now = note.place;
    if (now?.locked) {
      const finger = to?.finger ?? null;
      if (now.fingerBy === 'instructor' || finger === null || finger === now.finger) continue;
      changes.push({ note: note.id, place: { ...now, finger } });
    } else if (to === null) {
      if (now !== null) changes.push({ note: note.id, place: null });
    } else if (now?.string !== to.string || now.fret !== to.fret || now.finger !== to.finger) {
      changes.push({
        note: note.id,
        place: {
          string: to.string,
          fret: to.fret,
          finger: to.finger,
          by: 'solver',
          fingerBy: 'solver',
          locked: false,
          reason: now?.reason ?? null,
        },
      });
    }
  }
  return changes;
}

import { fretsLeft, openPitch, type Setup } from '../instrument';
import type { Riff, RiffEvent } from '../score';
import { sub } from '../time';

/**
 * A phrase by what recurs: steps between its notes, the intervals inside its chords and the times
 * between onsets, whatever the key and the place. One token an event after the first.
 */
export interface Signature {
  /** Intervals inside the first event. */
  readonly head: string;
  readonly tokens: readonly string[];
}

/** Events a recurring phrase has at least: shorter ones recur by chance. */
export const RECALL_LEAST = 5;

const lowest = (event: RiffEvent): number => Math.min(...event.notes.map((note) => note.pitch.midi));
const inside = (event: RiffEvent): string =>
  event.notes
    .map((note) => note.pitch.midi - lowest(event))
    .sort((a, b) => a - b)
    .slice(1)
    .join('.');

export function signatureOf(events: readonly RiffEvent[]): Signature {
  const [first] = events;
  return {
    head: first ? inside(first) : '',
    tokens: events.slice(1).map((event, i) => {
      const before = events[i] ?? event;
      return `${lowest(event) - lowest(before)}:${inside(event)}@${sub(event.at, before.at)}`;
    }),
  };
}

/** Tokens as one text in which runs of whole tokens can be searched for. */
export const signatureText = (tokens: readonly string[]): string => `;${tokens.join(';')};`;

/** A note of a phrase placed before. */
export interface RecalledNote {
  readonly pitch: number;
  readonly string: number;
  readonly fret: number;
}

/** A phrase placed before: per event its notes in order of pitch. */
export interface PlacedPhrase {
  readonly open: readonly number[];
  readonly events: readonly (readonly RecalledNote[])[];
}

/** What is kept of a phrase for recall; null where a note has no place. */
export function placedPhrase(events: readonly RiffEvent[], setup: Setup): PlacedPhrase | null {
  const kept = events.map((event) =>
    [...event.notes]
      .sort((a, b) => a.pitch.midi - b.pitch.midi)
      .flatMap((note) =>
        note.place ? [{ pitch: note.pitch.midi, string: note.place.string, fret: note.place.fret }] : [],
      ),
  );
  return kept.every((notes, i) => notes.length === events[i]?.notes.length) ? { open: setup.open, events: kept } : null;
}

/** A recalled shape laid on notes of a riff. */
export interface RecalledShape {
  readonly places: readonly {
    readonly event: string;
    readonly note: string;
    readonly string: number;
    readonly fret: number;
  }[];
  /** Frets it lies above (or below) where it lay before. */
  readonly moved: number;
}

/**
 * The shape of a phrase placed before, laid on the same phrase elsewhere: the same strings, all
 * frets moved by one amount. Null where pitches, neck or open strings don't allow it: an open
 * string can't be moved along.
 */
export function recallShape(
  source: PlacedPhrase,
  from: number,
  riff: Pick<Riff, 'events'>,
  events: readonly RiffEvent[],
  setup: Setup,
): RecalledShape | null {
  const places: RecalledShape['places'][number][] = [];
  let moved: number | null = null;
  for (const [i, event] of events.entries()) {
    const before = source.events[from + i];
    const notes = [...event.notes].sort((a, b) => a.pitch.midi - b.pitch.midi);
    if (!before || before.length !== notes.length || !riff.events.includes(event)) return null;
    for (const [j, note] of notes.entries()) {
      const was = before[j];
      if (!was || was.string > setup.open.length || setup.absent.includes(was.string)) return null;
      const fret = note.pitch.midi - openPitch(setup, was.string);
      if (fret < 0 || fret > fretsLeft(setup, was.string)) return null;
      if ((was.fret === 0) !== (fret === 0)) return null;
      if (fret > 0) {
        if (moved !== null && fret - was.fret !== moved) return null;
        moved = fret - was.fret;
      }
      places.push({ event: event.id, note: note.id, string: was.string, fret });
    }
  }
  return { places, moved: moved ?? 0 };
}

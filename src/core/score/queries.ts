import type { Bpm } from '../base';
import { pitchAt, shapeShift, type Setup } from '../instrument';
import { shiftKey, type Key } from '../pitch';
import { add, barOf, barStart, bpmAt, maxQuarter, sub, ZERO, type Quarter, type TempoStep } from '../time';
import type { Note, Part, Piece, Place, Riff, RiffEvent } from './schema';

export const findPart = (piece: Piece, id: string): Part | undefined => piece.parts.find((part) => part.id === id);

export function findRiff(piece: Piece, riffId: string): { part: Part; riff: Riff } | null {
  for (const part of piece.parts) {
    const riff = part.riffs.find((riff) => riff.id === riffId);
    if (riff) return { part, riff };
  }
  return null;
}

/** The part another is an edition of, while the piece has it: the two are not played together unless asked for. */
export const modelOf = (piece: Pick<Piece, 'parts'>, part: Pick<Part, 'id' | 'editionOf'>): Part | undefined =>
  part.editionOf === part.id ? undefined : piece.parts.find((one) => one.id === part.editionOf);

export const endOf = (event: RiffEvent): Quarter => add(event.at, event.dur);

/** Bars as shown: those asked for, or as many as the events need. */
export function barCount(riff: Riff): number {
  const last = riff.events.at(-1);
  // A grace note alone fills no bar.
  return last ? Math.max(riff.bars, barOf(riff.meters, last.at).bar + 1) : riff.bars;
}

export const riffStart = (riff: Riff): Quarter => sub(ZERO, riff.pickup);

export const riffEnd = (riff: Riff): Quarter => barStart(riff.meters, barCount(riff));

/** Where a note stops sounding by its written length. */
export const noteEnd = (event: Pick<RiffEvent, 'at' | 'dur'>, note: Note): Quarter =>
  add(event.at, note.dur ?? event.dur);

/** The key a riff is thought in: its own, or the piece's first. */
export const keyOf = (piece: Pick<Piece, 'context'>, riff: Pick<Riff, 'key'> | null): Key | null =>
  riff?.key ?? piece.context.key[0] ?? null;

/** The tempo a riff goes at: its own, or the piece's. */
export const tempoOf = (piece: Pick<Piece, 'context'>, riff: Pick<Riff, 'tempo'>): readonly TempoStep[] =>
  riff.tempo ?? piece.context.tempo;

export const tempoAt = (piece: Piece, riff: Riff, at: Quarter): Bpm =>
  bpmAt(tempoOf(piece, riff), maxQuarter(at, ZERO));

/** The key the hand thinks in: the sounding key moved back by what tuning and capo shift. */
export const shapeKey = (key: Key, setup: Setup): Key => shiftKey(key, -shapeShift(setup));

/** All ids in use in a riff: events and notes. */
export function riffIds(riff: Riff): Set<string> {
  const ids = new Set<string>();
  for (const event of riff.events) {
    ids.add(event.id);
    for (const note of event.notes) ids.add(note.id);
  }
  return ids;
}

/** Every note with its event, in time order. */
export function* notesOf(riff: Riff): Generator<{ event: RiffEvent; note: Note }> {
  for (const event of riff.events) for (const note of event.notes) yield { event, note };
}

/**
 * Two notes bent against or with each other: a unison bend reaches the other's pitch, an octave bend the octave below
 * it, else they are bent together. Null where fewer than one is bent in a chord.
 */
export function chordBend(event: RiffEvent): 'unison' | 'octave' | 'together' | null {
  const bent = event.notes.filter((note) => note.technique?.bend);
  if (bent.length === 0 || event.notes.length < 2) return null;
  if (bent.length > 1) return 'together';
  const [one] = bent;
  const reached = one ? one.pitch.midi + (one.technique?.bend ?? 0) / 100 : 0;
  const others = event.notes.filter((note) => note !== one);
  if (others.some((note) => note.pitch.midi === reached)) return 'unison';
  return others.some((note) => Math.abs(note.pitch.midi - reached) === 12) ? 'octave' : null;
}

/** The other place of a note, while it sounds what the note does. */
export function otherPlaceOf(
  note: Pick<Note, 'place' | 'pitch'>,
  setup: Setup,
): NonNullable<Place['otherPlace']> | null {
  const other = note.place?.otherPlace;
  const sounds = other ? pitchAt(setup, other) : null;
  return other && sounds?.ok && sounds.value === note.pitch.midi ? other : null;
}

/** Fingers that lie over several strings at one fret: string numbers of both ends, thick and thin. */
export function barresOf(
  event: Pick<RiffEvent, 'notes'>,
): { readonly finger: number; readonly fret: number; readonly thick: number; readonly thin: number }[] {
  const out = new Map<string, { finger: number; fret: number; thick: number; thin: number }>();
  for (const { place } of event.notes) {
    if (!place?.finger || place.finger > 4 || place.fret === 0) continue;
    const key = `${place.finger}.${place.fret}`;
    const at = out.get(key);
    if (at) {
      at.thick = Math.max(at.thick, place.string);
      at.thin = Math.min(at.thin, place.string);
    } else out.set(key, { finger: place.finger, fret: place.fret, thick: place.string, thin: place.string });
  }
  return [...out.values()].filter((b) => b.thick > b.thin);
}

import { must } from '../../src/core/base';
import type { CheckFinding } from '../../src/core/check';
import { applyEdit, type Edit } from '../../src/core/edit';
import { pitchAt } from '../../src/core/instrument';
import type { Note, Part, Piece, Riff, RiffEvent } from '../../src/core/score';
import { toNumber } from '../../src/core/time';
import { type Random } from '../lib/random';
import { barOfEvent } from './compose';

/** Slips of the kind instructors make, each planted in a clean piece; null where the piece has no place for it. */

export interface Planted {
  readonly piece: Piece;
  /** Whether a finding is about what was planted. */
  readonly hit: (found: CheckFinding) => boolean;
}
export type Fault = (piece: Piece, random: Random) => Planted | null;

export const run = (piece: Piece, edit: Edit): Piece => must(applyEdit(piece, edit));

/** The piece with a riff changed; what no edit would allow is not made here. */
export function withRiff(piece: Piece, part: Part, riff: Riff, change: Partial<Riff>): Piece {
  const next = { ...riff, ...change };
  return {
    ...piece,
    parts: piece.parts.map((one) =>
      one === part ? { ...part, riffs: part.riffs.map((r) => (r === riff ? next : r)) } : one,
    ),
  };
}
export const withEvent = (piece: Piece, part: Part, riff: Riff, event: RiffEvent, next: RiffEvent): Piece =>
  withRiff(piece, part, riff, { events: riff.events.map((one) => (one === event ? next : one)) });

/** A note moved along its string. */
export function fretted(part: Part, note: Note, by: number): Note | null {
  if (!note.place || note.place.fret + by < 0) return null;
  const place = { ...note.place, fret: note.place.fret + by, finger: note.place.fret + by === 0 ? (0 as const) : null };
  const sounds = pitchAt(part.setup, place);
  return sounds.ok ? { ...note, place, pitch: { ...note.pitch, midi: sounds.value } } : null;
}

export interface Spot {
  readonly part: Part;
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
}
export const spots = (piece: Piece, fits: (spot: Spot) => boolean = () => true): Spot[] =>
  piece.parts.flatMap((part) =>
    part.riffs.flatMap((riff) =>
      riff.events.flatMap((event) => event.notes.map((note) => ({ part, riff, event, note })).filter(fits)),
    ),
  );

export const content = (riff: Riff, bar: number): string =>
  riff.events
    .filter((event) => barOfEvent(event) === bar)
    .map((event) => `${toNumber(event.at) - bar * 4}:${event.notes.map((note) => note.pitch.midi).join('+')}`)
    .join(' ');

/** Spots in bars that come again in their riff, that hold so much that a copy is told by it. */
export const copied = (piece: Piece): Spot[] =>
  spots(piece, ({ riff, event }) => {
    const bar = barOfEvent(event);
    const own = content(riff, bar);
    const notes = riff.events.filter((one) => barOfEvent(one) === bar).reduce((sum, one) => sum + one.notes.length, 0);
    return (
      notes >= 4 &&
      Array.from({ length: riff.bars }, (_, i) => i).some((other) => other !== bar && content(riff, other) === own)
    );
  });

export const atNote =
  (note: Note, event: RiffEvent) =>
  (found: CheckFinding): boolean =>
    found.locus.note === note.id || found.locus.event === event.id;

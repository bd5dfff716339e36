import type { Bpm } from '../base';
import { shapeShift, type Setup } from '../instrument';
import { shiftKey, type Key } from '../pitch';
import { add, barOf, barStart, bpmAt, cmp, maxQuarter, sub, ZERO, type Quarter } from '../time';
import type { Note, Part, Piece, Riff, RiffEvent } from './schema';

export const findPart = (piece: Piece, id: string): Part | undefined => piece.parts.find((p) => p.id === id);

export function findRiff(piece: Piece, riffId: string): { part: Part; riff: Riff } | null {
  for (const part of piece.parts) {
    const riff = part.riffs.find((r) => r.id === riffId);
    if (riff) return { part, riff };
  }
  return null;
}

export const endOf = (event: RiffEvent): Quarter => add(event.at, event.dur);

/** Bars as shown: those asked for, or as many as the events need. */
export function barCount(riff: Riff): number {
  const last = riff.events.at(-1);
  return last ? Math.max(riff.bars, barOf(riff.meters, last.at).bar + 1) : riff.bars;
}

export const riffStart = (riff: Riff): Quarter => sub(ZERO, riff.pickup);

export const riffEnd = (riff: Riff): Quarter => barStart(riff.meters, barCount(riff));

/** Where a note stops sounding by its written length. */
export const noteEnd = (event: RiffEvent, note: Note): Quarter => add(event.at, note.dur ?? event.dur);

export const keyAt = (piece: Piece, at: Quarter): Key | null => {
  let key: Key | null = null;
  for (const step of piece.lanes.key) if (cmp(step.at, at) <= 0) key = step;
  return key ?? piece.lanes.key[0] ?? null;
};

export const tempoAt = (piece: Piece, at: Quarter): Bpm => bpmAt(piece.lanes.tempo, maxQuarter(at, ZERO));

/** The key the hand thinks in: the sounding key moved back by what tuning and capo shift. */
export const shapeKey = (key: Key, setup: Setup): Key => shiftKey(key, -shapeShift(setup));

/** All ids in use in a riff: events and notes. */
export function riffIds(riff: Riff): Set<string> {
  const ids = new Set<string>();
  for (const e of riff.events) {
    ids.add(e.id);
    for (const n of e.notes) ids.add(n.id);
  }
  return ids;
}

/** Every note with its event, in time order. */
export function* notesOf(riff: Riff): Generator<{ event: RiffEvent; note: Note }> {
  for (const event of riff.events) for (const note of event.notes) yield { event, note };
}

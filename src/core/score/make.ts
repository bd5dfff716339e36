import type { Midi } from '../base';
import { DEFAULT_COSTS } from '../hand';
import type { Setup } from '../instrument';
import { quarter, ZERO, type Quarter } from '../time';
import { highestId } from './migrate';
import {
  SCHEMA_VERSION,
  type Decider,
  type Evidence,
  type Note,
  type Part,
  type Piece,
  type PieceCosts,
  type Place,
  type Riff,
  type RiffEvent,
} from './schema';

/** Builders with the usual defaults, so that callers only say what is special. */

export function makeNote(id: string, midi: Midi, by: Decider, extra: Partial<Note> = {}): Note {
  return { id, pitch: { midi, cents: 0, by }, place: null, dur: null, certainty: 'sure', evidence: null, ...extra };
}

/** A reason for a place that the note leaves, kept with the note as evidence. */
export const reasonAsEvidence = (reason: string | null | undefined): Evidence | null =>
  reason ? { basis: null, at: null, remark: reason } : null;

export function makePlace(string: number, fret: number, by: Decider, extra: Partial<Place> = {}): Place {
  return {
    string,
    fret,
    finger: fret === 0 ? 0 : null,
    by,
    fingerBy: 'solver',
    locked: by === 'instructor',
    reason: null,
    ...extra,
  };
}

export function makeEvent(
  id: string,
  at: Quarter,
  dur: Quarter,
  notes: readonly Note[],
  extra: Partial<RiffEvent> = {},
): RiffEvent {
  return { id, at, dur, notes, letRing: false, ...extra };
}

export function makeRiff(id: string, name: string, extra: Partial<Riff> = {}): Riff {
  return { id, name, bars: 1, pickup: ZERO, meters: [{ bar: 0, beats: 4, unit: 4 }], events: [], ...extra };
}

export function makePart(id: string, name: string, setup: Setup, extra: Partial<Part> = {}): Part {
  return { id, name, role: '', setup, riffs: [], ...extra };
}

/**
 * The program's own weights as a piece keeps them. The version grows when they change, so that old results can be
 * made again.
 */
export const PROGRAM_COSTS: PieceCosts = { name: 'The program’s own', version: 4, weights: DEFAULT_COSTS };

export function makePiece(id: string, title: string, extra: Partial<Piece> = {}): Piece {
  return {
    schemaVersion: SCHEMA_VERSION,
    id,
    title,
    lastId: highestId(extra.parts ?? []),
    context: { tempo: [{ at: quarter(0), bpm: 96 }], key: [] },
    parts: [],
    sections: [],
    form: [],
    ...extra,
  };
}

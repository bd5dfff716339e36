import { tempoOf, type Piece } from '../score';
import { placeRiff } from './place-riff';
import { optionsFor } from './riff';
import type { Blocked } from './types';

/** A piece with places for every note that has none, around those that have, and what could not be placed. */
export function placePiece(piece: Piece): { readonly piece: Piece; readonly blocked: readonly Blocked[] } {
  const blocked: Blocked[] = [];
  const parts = piece.parts.map((part) => ({
    ...part,
    riffs: part.riffs.map((riff) => {
      if (riff.events.every((event) => event.notes.every((note) => note.place))) return riff;
      const made = placeRiff(riff, part.setup, tempoOf(piece, riff), optionsFor(piece, part));
      blocked.push(...made.blocked);
      return made.riff;
    }),
  }));
  return { piece: { ...piece, parts }, blocked };
}

import { locusWords, type Finding } from '@/core/base';
import { optionsFor, placeRiff, type Blocked } from '@/core/place';
import { tempoOf, type Piece } from '@/core/score';
import { CliFault } from '../schemas';

/** A finding of the core as a fault of the command line. */
export const faultOf = ({ rule, words, locus }: Finding): CliFault =>
  new CliFault(rule, words, locusWords(locus) || undefined);

/** A piece with places for every note that has none, around those that have. */
export function placed(piece: Piece): { readonly piece: Piece; readonly blocked: readonly Blocked[] } {
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

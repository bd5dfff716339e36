import {
  findPart,
  findRiff,
  notesOf,
  type Claim,
  type Note,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
  type Section,
} from '../../score';
import { cmp, type Quarter } from '../../time';
import { heardIn } from '../sounding';

/** What a claim is about: the notes of its stretch, in order, with all they stand in. */
export interface Stretch {
  readonly claim: Claim;
  readonly piece: Piece;
  readonly part: Part | null;
  readonly riff: Riff | null;
  readonly section: Section | null;
  readonly events: readonly RiffEvent[];
  readonly notes: readonly StretchNote[];
}

export interface StretchNote {
  readonly part: Part;
  readonly riff: string;
  readonly event: RiffEvent;
  readonly note: Note;
}

/** The stretch of a claim; null where what it was said of is gone. */
export function stretchOf(piece: Piece, claim: Claim): Stretch | null {
  const section = claim.section ? (piece.sections.find((one) => one.id === claim.section) ?? null) : null;
  if (claim.section && !section) return null;
  if (claim.riff) {
    const found = findRiff(piece, claim.riff);
    if (!found) return null;
    const { part, riff } = found;
    const events = riff.events.filter(
      (event) =>
        (claim.from === undefined || cmp(event.at, claim.from as Quarter) >= 0) &&
        (claim.to === undefined || cmp(event.at, claim.to as Quarter) < 0),
    );
    const notes = events.flatMap((event) => event.notes.map((note) => ({ part, riff: riff.id, event, note })));
    return { claim, piece, part, riff, section, events, notes: sounding(notes) };
  }
  const part = claim.part ? (findPart(piece, claim.part) ?? null) : null;
  if (claim.part && !part) return null;
  if (section) {
    const heard = heardIn(piece).find((one) => one.section.id === section.id);
    const notes = (heard?.notes ?? [])
      .filter((one) => !part || one.part.id === part.id)
      .flatMap((one) =>
        one.event.notes
          .filter((note) => note.pitch.midi === one.midi)
          .map((note) => ({ part: one.part, riff: one.riff, event: one.event, note })),
      );
    return { claim, piece, part, riff: null, section, events: [], notes: sounding(notes) };
  }
  const notes = piece.parts
    .filter((one) => !part || one.id === part.id)
    .flatMap((one) =>
      one.riffs.flatMap((riff) =>
        [...notesOf(riff)].map(({ event, note }) => ({ part: one, riff: riff.id, event, note })),
      ),
    );
  return { claim, piece, part, riff: null, section, events: [], notes: sounding(notes) };
}

const sounding = (notes: readonly StretchNote[]): StretchNote[] => notes.filter(({ note }) => !note.technique?.dead);

import { finding, textMark, type Finding, type Locus, type Severity } from '../base';
import type { Edit } from '../edit';
import type { Part, Piece, Riff } from '../score';

/** One way to mend what was found, in words and as an edit. */
export interface Mend {
  /** As on a button: "Make it fret 5". */
  readonly words: string;
  readonly edit: Edit;
}

/** A question of the check: a finding that keeps its name while it is about the same thing. */
export interface CheckFinding extends Finding<Mend> {
  /** Its rule and what it is about; the same as long as that is there. */
  readonly id: string;
  /** A mark of all it rests on: while it is the same, what was answered holds. */
  readonly ground: string;
  /** How likely it is a slip, 0 to 1. Below `ASKED` it is probably meant, and asked only on demand. */
  readonly likely: number;
}

/** From here on a finding is asked; below it is probably meant. */
export const ASKED = 0.45;

/** What a rule says of a finding. */
export interface Said {
  readonly locus: Locus;
  /** What it is about, told by ids: the finding goes by it. */
  readonly about: readonly unknown[];
  /** Everything that speaks for and against it. */
  readonly ground: readonly unknown[];
  readonly words: string;
  readonly evidence?: string | null;
  readonly likely: number;
  readonly severity?: Severity;
  readonly mends?: readonly Mend[];
}

/** A finding as a rule makes it. */
export function asked(rule: string, said: Said): CheckFinding {
  const { locus, words, severity = 'question', likely, evidence = null, mends = [] } = said;
  return {
    ...finding<Mend>(rule, severity, words, locus, { evidence, mends }),
    id: `${rule}.${textMark(JSON.stringify(said.about))}`,
    ground: textMark(JSON.stringify(said.ground)),
    likely,
  };
}

/** What a rule is asked about, by how much of a piece it reads. What it gives is kept while that is the same. */
interface Named {
  /** Stable name for programs. */
  readonly id: string;
  /** What it looks for, in a few words: "a copy with a note off". */
  readonly name: string;
}
export interface RiffRule extends Named {
  readonly on: 'riff';
  readonly find: (riff: Riff, part: Part, piece: Piece) => readonly CheckFinding[];
  /** What it reads of part and piece beside the riff, told apart by identity. */
  readonly reads: (part: Part, piece: Piece) => readonly unknown[];
}
export interface PartRule extends Named {
  readonly on: 'part';
  readonly find: (part: Part, piece: Piece) => readonly CheckFinding[];
  readonly reads: (piece: Piece) => readonly unknown[];
}
export interface PieceRule extends Named {
  readonly on: 'piece';
  readonly find: (piece: Piece) => readonly CheckFinding[];
}
export type Rule = RiffRule | PartRule | PieceRule;

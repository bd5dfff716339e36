import { expose } from 'comlink';
import { harmonyOf, proofread, type CheckFinding, type SectionHarmony } from '@/core/check';
import type { Piece } from '@/core/score';
import { CheckMemory, type SentPiece } from './check-memory';

const memory = new CheckMemory();
let piece: Piece | null = null;

const door = {
  /** Reads a piece against itself. What was sent before is not read again. */
  check(sent: SentPiece): readonly CheckFinding[] {
    piece = memory.receive(sent);
    return proofread(piece);
  },
  /** The harmony of the piece that was checked last. */
  harmony: (): readonly SectionHarmony[] => (piece ? harmonyOf(piece) : []),
};

export type CheckDoor = typeof door;
expose(door);

import { expose } from 'comlink';
import { retuneOptions, type RetuneOption } from '@/core/command';
import type { Setup } from '@/core/instrument';
import { placeRiff } from '@/core/place';
import type { Piece, Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import {
  carryOver,
  movePhrase,
  type CarriedRiff,
  type CarryRequest,
  type MovedPhrase,
  type PhraseMoveRequest,
} from '@/core/carry';
import type { Result } from '@/core/base';
import {
  finding,
  findingPair,
  type FinderAnswer,
  type FinderProgress,
  type FinderQuestion,
  type PairAnswer,
} from '@/core/setup-finder';

/** Runs a finder to its end and tells how far it is. Its owner ends the worker to cancel. */
function run<Answer>(steps: Generator<FinderProgress, Answer>, progress: (share: number) => void): Answer {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    progress(step.value.of > 0 ? step.value.done / step.value.of : 0);
  }
}

/** The door to finding a set-up and carrying over. */
const door = {
  find: (question: FinderQuestion, progress: (share: number) => void): FinderAnswer => run(finding(question), progress),
  findPair: (first: FinderQuestion, second: FinderQuestion, progress: (share: number) => void): PairAnswer =>
    run(findingPair(first, second), progress),
  /** A riff placed anew in a set-up, to be heard there. */
  placed: (riff: Riff, setup: Setup, tempo: readonly TempoStep[]): Riff =>
    placeRiff(
      {
        ...riff,
        events: riff.events.map((event) => ({
          ...event,
          notes: event.notes.map((note) => ({ ...note, place: null })),
        })),
      },
      setup,
      tempo,
    ).riff,
  /** A phrase moved within its part, before it is. */
  move: (request: PhraseMoveRequest): Result<MovedPhrase> => movePhrase(request),
  /** The ways to move a whole piece by semitones. */
  retune: (piece: Piece, by: number): readonly RetuneOption[] => retuneOptions(piece, by),
  /** Riffs carried to one set-up, in order. */
  carry: (requests: readonly CarryRequest[]): readonly CarriedRiff[] => requests.map(carryOver),
};

export type SetupDoor = typeof door;
expose(door);

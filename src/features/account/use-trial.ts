import type { CostTable } from '@/core/hand';
import type { Setup } from '@/core/instrument';
import { DEFAULT_OPTIONS } from '@/core/place';
import type { Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import { useWorker } from '@/ui/use-worker';
import type { HandAnswer, PlaceDoor } from '@/workers/place.worker';

export interface Trial {
  readonly before: HandAnswer;
  readonly after: HandAnswer;
}

const make = (): Worker => new Worker(new URL('../../workers/place.worker.ts', import.meta.url), { type: 'module' });

/** A phrase placed by two tables beside the page; null while it is being worked out. */
export function useTrial(
  riff: Riff | null,
  setup: Setup,
  tempo: readonly TempoStep[],
  before: CostTable,
  after: CostTable,
): Trial | null {
  const { answer, fresh } = useWorker<PlaceDoor, { riff: Riff; before: CostTable; after: CostTable }, Trial>({
    make,
    question: riff && { riff, before, after },
    ask: async (door, question) => {
      const by = (costs: CostTable): Promise<HandAnswer> =>
        door.hand({ riff: question.riff, setup, tempo, options: { ...DEFAULT_OPTIONS, costs }, version: 0 });
      return { before: await by(question.before), after: await by(question.after) };
    },
    still: 80,
  });
  return fresh ? answer : null;
}

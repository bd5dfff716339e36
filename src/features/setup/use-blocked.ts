import type { Setup } from '@/core/instrument';
import type { PlaceOptions } from '@/core/place';
import { placeInBars } from '@/core/rhythm';
import type { Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import { useWorker } from '@/ui/use-worker';
import type { PlaceDoor } from '@/workers/place.worker';

/** What no hand could play after a change of set-up, before it is made. */
export interface Lost {
  readonly riff: string;
  readonly where: string;
  readonly why: string;
}

interface Question {
  readonly riffs: readonly Riff[];
  readonly setup: Setup;
  readonly tempo: readonly TempoStep[];
  readonly options: PlaceOptions;
}

const make = (): Worker => new Worker(new URL('../../workers/place.worker.ts', import.meta.url), { type: 'module' });

/**
 * Places riffs on a set-up that is only being considered and tells what would be blocked. Null while it is being
 * worked out.
 */
export function useBlocked(
  riffs: readonly Riff[] | null,
  setup: Setup | null,
  tempo: readonly TempoStep[],
  options: PlaceOptions,
): readonly Lost[] | null {
  const { answer, fresh } = useWorker<PlaceDoor, Question, Lost[]>({
    make,
    question: riffs && setup ? { riffs, setup, tempo, options } : null,
    ask: async (door, { riffs: asked, ...on }) => {
      const lost: Lost[] = [];
      for (const riff of asked) {
        const placed = await door.solve({ riff, ...on, version: 0 });
        if (!placed) return null;
        for (const b of placed.blocked) {
          const event = riff.events.find((event) => event.id === b.locus.event);
          lost.push({ riff: riff.name, where: event ? placeInBars(riff.meters, event.at) : '', why: b.words });
        }
      }
      return lost;
    },
    still: 120,
  });
  return fresh ? answer : null;
}

import { wrap } from 'comlink';
import { useCallback } from 'react';
import type { Setup } from '@/core/instrument';
import type { Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import type { SetupDoor } from '@/workers/setup.worker';
import type { HeardSetup } from './hear-setups';

/** Places a riff in set-ups beside the page, to be heard there. */
export function useHearIn(): {
  readonly hearIn: (
    riff: Riff,
    setups: readonly Setup[],
    tempo: readonly TempoStep[],
  ) => Promise<readonly HeardSetup[]>;
} {
  const hearIn = useCallback(async (riff: Riff, setups: readonly Setup[], tempo: readonly TempoStep[]) => {
    const worker = new Worker(new URL('../../workers/setup.worker.ts', import.meta.url), { type: 'module' });
    try {
      const door = wrap<SetupDoor>(worker);
      return await Promise.all(
        setups.map(async (setup): Promise<HeardSetup> => ({ setup, riff: await door.placed(riff, setup, tempo) })),
      );
    } finally {
      worker.terminate();
    }
  }, []);
  return { hearIn };
}

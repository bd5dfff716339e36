import { startTransition, useEffect, useState } from 'react';
import type { Part, Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import { usePlacement } from '@/features/piece/provider';
import type { Weighed } from '@/workers/place.worker';

interface Asked {
  readonly riff: Riff;
  readonly event: number;
  readonly note: number;
}

/**
 * Every place of the note in focus with its price and why it lies where it does, from the worker; null while it is
 * being worked out.
 */
export function useAlternatives(
  part: Part,
  riff: Riff,
  tempo: readonly TempoStep[],
  event: number,
  note: number,
): Weighed | null {
  const { keeper, version } = usePlacement();
  const [answer, setAnswer] = useState<{ readonly asked: Asked; readonly weighed: Weighed } | null>(null);
  useEffect(() => {
    if (event < 0 || !keeper) return;
    let wanted = true;
    void keeper.alternatives(riff, event, note).then((weighed) => {
      // The reason found last stands until the next is worked out.
      if (wanted && weighed)
        startTransition(() =>
          setAnswer((was) => ({
            asked: { riff, event, note },
            weighed: { ...weighed, why: weighed.why ?? (was?.asked.event === event ? was.weighed.why : null) },
          })),
        );
    });
    return () => {
      wanted = false;
    };
  }, [keeper, version, riff, part.setup, tempo, event, note]);
  if (event < 0 || !answer || answer.asked.event !== event || answer.asked.note !== note) return null;
  return answer.weighed;
}

import { useEffect, useState } from 'react';
import type { Alternative } from '@/core/place';
import type { Part, Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import { usePlacement } from '@/features/piece/provider';

interface Asked {
  readonly riff: Riff;
  readonly event: number;
  readonly note: number;
}

/** Every place of the note in focus with its price, from the worker; null while it is being worked out. */
export function useAlternatives(part: Part, riff: Riff, tempo: readonly TempoStep[], event: number, note: number): readonly Alternative[] | null {
  const { keeper, version } = usePlacement();
  const [answer, setAnswer] = useState<{ asked: Asked; list: readonly Alternative[] } | null>(null);
  useEffect(() => {
    if (event < 0 || !keeper) return;
    let wanted = true;
    void keeper.alternatives(riff, event, note).then((list) => {
      if (wanted && list) setAnswer({ asked: { riff, event, note }, list });
    });
    return () => {
      wanted = false;
    };
  }, [keeper, version, riff, part.setup, tempo, event, note]);
  if (event < 0 || !answer || answer.asked.event !== event || answer.asked.note !== note) return null;
  return answer.list;
}

import { startTransition, useDeferredValue, useEffect, useMemo, useState } from 'react';
import type { Riff } from '@/core/score';
import { usePlacement } from '@/features/piece/provider';
import type { PhraseAnswer } from '@/workers/place.worker';

/** Milliseconds a riff stands still before its regions are looked at. */
const STILL = 250;
/**
 * Longer riffs are asked about only where they are worked on: regions of all of them would take long and say little.
 */
const MOST_EVENTS = 600;

/**
 * The phrases of a riff with their regions and questions; the last answer stands until the next, null before the
 * first.
 */
export function usePhrases(riff: Riff, focus: string | null): readonly PhraseAnswer[] | null {
  const { keeper, version } = usePlacement();
  const [answer, setAnswer] = useState<{ readonly riff: Riff; readonly list: readonly PhraseAnswer[] } | null>(null);
  const long = riff.events.length > MOST_EVENTS;
  const around = long ? focus : null;
  useEffect(() => {
    if (!keeper || riff.events.length === 0 || (long && around === null)) return;
    let wanted = true;
    const timer = setTimeout(
      () =>
        void keeper.phrases(riff, around).then((list) => {
          if (wanted && list) startTransition(() => setAnswer({ riff, list }));
        }),
      STILL,
    );
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [keeper, version, riff, long, around]);
  const settled = useDeferredValue(riff);
  return useMemo(() => {
    if (answer === null || answer.riff === settled) return answer?.list ?? null;
    // A phrase whose notes are gone since is left out until the worker has looked again.
    const there = new Set(settled.events.map((event) => event.id));
    return answer.list.filter((phrase) => there.has(phrase.from) && there.has(phrase.to));
  }, [answer, settled]);
}

import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Setup } from '@/core/instrument';
import type { PlaceOptions } from '@/core/place';
import { placeInBars } from '@/core/rhythm';
import type { Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import type { PlaceDoor } from '@/workers/place.worker';

/** What no hand could play after a change of set-up, before it is made. */
export interface Lost {
  readonly riff: string;
  readonly where: string;
  readonly why: string;
}

/**
 * Places riffs on a set-up that is only being considered and tells what would be blocked. Null
 * while it is being worked out; answers to an older question are dropped.
 */
export function useBlocked(riffs: readonly Riff[] | null, setup: Setup | null, tempo: readonly TempoStep[], options: PlaceOptions): readonly Lost[] | null {
  const [answer, setAnswer] = useState<{ readonly to: string; readonly lost: readonly Lost[] } | null>(null);
  const worker = useRef<{ worker: Worker; door: Remote<PlaceDoor> } | null>(null);
  const asked = JSON.stringify(riffs && setup ? { riffs, setup, tempo, options } : null);
  useEffect(() => () => {
    worker.current?.worker.terminate();
    worker.current = null;
  }, []);
  useEffect(() => {
    if (asked === 'null') return;
    let wanted = true;
    const question = JSON.parse(asked) as { riffs: Riff[]; setup: Setup; tempo: TempoStep[]; options: PlaceOptions };
    const work = async (): Promise<void> => {
      if (!worker.current) {
        const made = new Worker(new URL('../../workers/place.worker.ts', import.meta.url), { type: 'module' });
        worker.current = { worker: made, door: wrap<PlaceDoor>(made) };
      }
      const lost: Lost[] = [];
      for (const riff of question.riffs) {
        const placed = await worker.current?.door.solve({ riff, setup: question.setup, tempo: question.tempo, options: question.options, version: 0 });
        if (!wanted || !placed) return;
        for (const b of placed.blocked) {
          const event = riff.events.find((e) => e.id === b.event);
          lost.push({ riff: riff.name, where: event ? placeInBars(riff.meters, event.at) : '', why: b.why });
        }
      }
      setAnswer({ to: asked, lost });
    };
    const timer = setTimeout(() => void work(), 120);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [asked]);
  return answer?.to === asked ? answer.lost : null;
}

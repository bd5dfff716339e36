import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { CostTable } from '@/core/hand';
import type { Setup } from '@/core/instrument';
import { DEFAULT_OPTIONS } from '@/core/place';
import type { Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';
import type { HandAnswer, PlaceDoor } from '@/workers/place.worker';

export interface Trial {
  readonly before: HandAnswer;
  readonly after: HandAnswer;
}

/** A phrase placed by two tables beside the page; answers to older questions are dropped. */
export function useTrial(riff: Riff | null, setup: Setup, tempo: readonly TempoStep[], before: CostTable, after: CostTable): Trial | null {
  const [answer, setAnswer] = useState<{ readonly to: string; readonly trial: Trial } | null>(null);
  const worker = useRef<{ worker: Worker; door: Remote<PlaceDoor> } | null>(null);
  const asked = JSON.stringify(riff && { riff, before, after });
  useEffect(() => () => {
    worker.current?.worker.terminate();
    worker.current = null;
  }, []);
  useEffect(() => {
    if (asked === 'null') return;
    let wanted = true;
    const question = JSON.parse(asked) as { riff: Riff; before: CostTable; after: CostTable };
    if (!worker.current) {
      const made = new Worker(new URL('../../workers/place.worker.ts', import.meta.url), { type: 'module' });
      worker.current = { worker: made, door: wrap<PlaceDoor>(made) };
    }
    const by = (costs: CostTable): Promise<HandAnswer> | undefined => worker.current?.door.hand({ riff: question.riff, setup, tempo, options: { ...DEFAULT_OPTIONS, costs }, version: 0 });
    const timer = setTimeout(() => void Promise.all([by(question.before), by(question.after)]).then(([b, a]) => { if (wanted && b && a) setAnswer({ to: asked, trial: { before: b, after: a } }); }), 80);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [asked, setup, tempo]);
  return answer?.to === asked ? answer.trial : null;
}

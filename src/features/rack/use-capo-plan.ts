import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Result } from '@/core/base';
import type { CapoChoice, CapoRequest } from '@/core/harmony';
import type { CapoDoor } from '@/workers/capo.worker';

/** Capo places for a request, worked out beside the page; answers to older requests are dropped. Null while nothing is asked. */
export function useCapoPlan(request: CapoRequest | null): Result<CapoChoice[]> | null {
  const [answer, setAnswer] = useState<{ readonly to: string; readonly plan: Result<CapoChoice[]> } | null>(null);
  const worker = useRef<{ worker: Worker; door: Remote<CapoDoor> } | null>(null);
  const asked = JSON.stringify(request);
  useEffect(() => () => {
    worker.current?.worker.terminate();
    worker.current = null;
  }, []);
  useEffect(() => {
    if (asked === 'null') return;
    let wanted = true;
    if (!worker.current) {
      const made = new Worker(new URL('../../workers/capo.worker.ts', import.meta.url), { type: 'module' });
      worker.current = { worker: made, door: wrap<CapoDoor>(made) };
    }
    // Typing a chord asks at every letter: only what stands still is worked out.
    const timer = setTimeout(() => {
      void worker.current?.door.plan(JSON.parse(asked) as CapoRequest).then((plan) => {
        if (wanted) setAnswer({ to: asked, plan });
      });
    }, 60);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [asked]);
  // An older answer stays in sight until the new one is there.
  return asked === 'null' ? null : (answer?.plan ?? null);
}

import type { Result } from '@/core/base';
import type { CapoChoice, CapoRequest } from '@/core/harmony';
import { useWorker } from '@/ui/use-worker';
import type { CapoDoor } from '@/workers/capo.worker';

const make = (): Worker => new Worker(new URL('../../workers/capo.worker.ts', import.meta.url), { type: 'module' });

/**
 * Capo places for a request, worked out beside the page. Null while nothing is asked; an older answer stays in sight
 * until the new one is there.
 */
export function useCapoPlan(request: CapoRequest | null): Result<CapoChoice[]> | null {
  const { answer } = useWorker<CapoDoor, CapoRequest, Result<CapoChoice[]>>({
    make,
    question: request,
    ask: (door, asked) => door.plan(asked),
    still: 60,
  });
  return request === null ? null : answer;
}

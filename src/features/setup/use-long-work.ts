import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { SetupDoor } from '@/workers/setup.worker';

const open = (): { worker: Worker; door: Remote<SetupDoor> } => {
  const worker = new Worker(new URL('../../workers/setup.worker.ts', import.meta.url), { type: 'module' });
  return { worker, door: wrap<SetupDoor>(worker) };
};

type Ask<Answer> = (door: Remote<SetupDoor>, progress: (share: number) => void) => Promise<Answer>;

/** One long question at a time to a worker of the page's own: how far it is, its answer, and a way to stop it. */
export interface LongWork<Answer> {
  /** 0 to 1 while it works, else null. */
  readonly share: number | null;
  readonly answer: Answer | null;
  readonly fault: string | null;
  readonly ask: (question: Ask<Answer>) => void;
  readonly stop: () => void;
}

export function useLongWork<Answer>(): LongWork<Answer> {
  const held = useRef<ReturnType<typeof open> | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const stop = useCallback((): void => {
    held.current?.worker.terminate();
    held.current = null;
    setShare(null);
  }, []);
  useEffect(() => () => held.current?.worker.terminate(), []);
  const ask = useCallback(
    (question: Ask<Answer>): void => {
      // A question that is still worked on is given up with its worker.
      stop();
      const mine = open();
      held.current = mine;
      setShare(0);
      setFault(null);
      const still = (): boolean => held.current === mine;
      question(
        mine.door,
        proxy((now: number) => {
          if (still()) setShare(now);
        }),
      ).then(
        (got) => {
          if (!still()) return;
          setAnswer(got);
          setShare(null);
        },
        (reason: unknown) => {
          if (!still()) return;
          setFault(reason instanceof Error ? reason.message : String(reason));
          setShare(null);
        },
      );
    },
    [stop],
  );
  return { share, answer, fault, ask, stop };
}

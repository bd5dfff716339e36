import { wrap, type Remote } from 'comlink';
import { useEffect, useEffectEvent, useRef, useState } from 'react';

interface Asking<Door, Question, Answer> {
  /** Makes the worker; called once, when the first question stands still. */
  readonly make: () => Worker;
  /** What is asked; null for nothing. Equal questions are asked once. */
  readonly question: Question | null;
  readonly ask: (door: Remote<Door>, question: Question) => Promise<Answer | null>;
  /** Milliseconds a question has to stand still: typing asks at every letter. */
  readonly still: number;
}

/**
 * Asks a worker of the page's own and gives its newest answer with the question it belongs to, as
 * text; answers to older questions are dropped. The worker ends with the page.
 */
export function useWorker<Door, Question, Answer>({
  make,
  question,
  ask,
  still,
}: Asking<Door, Question, Answer>): {
  readonly asked: string;
  readonly answer: Answer | null;
  readonly fresh: boolean;
} {
  const [got, setGot] = useState<{ readonly to: string; readonly answer: Answer } | null>(null);
  const held = useRef<{ worker: Worker; door: Remote<Door> } | null>(null);
  const asked = JSON.stringify(question);
  const put = useEffectEvent((text: string): Promise<Answer | null> => {
    if (!held.current) {
      const worker = make();
      held.current = { worker, door: wrap<Door>(worker) };
    }
    return ask(held.current.door, JSON.parse(text) as Question);
  });
  useEffect(
    () => () => {
      held.current?.worker.terminate();
      held.current = null;
    },
    [],
  );
  useEffect(() => {
    if (asked === 'null') return;
    let wanted = true;
    const timer = setTimeout(
      () =>
        void put(asked).then((answer) => {
          if (wanted && answer !== null) setGot({ to: asked, answer });
        }),
      still,
    );
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [asked, still]);
  return { asked, answer: got?.answer ?? null, fresh: got?.to === asked };
}

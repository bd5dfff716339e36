import { useEffect, useState } from 'react';

/** How long after no answer it is asked again, in milliseconds. */
const AGAIN_MS = 4000;

/** What was asked for has come, or why it has not. */
export type Asked<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly words: string; /** Whether it may come yet. */ readonly later: boolean };

/** Asks for JSON that is sent as it is or packed; why there is none, in words. */
export async function askJson<T>(address: string, gone: string, signal: AbortSignal): Promise<Asked<T>> {
  try {
    const answer = await fetch(address, { signal });
    if (answer.ok && answer.body) {
      const packed = answer.headers.get('content-type') === 'application/gzip';
      const body = packed ? new Response(answer.body.pipeThrough(new DecompressionStream('gzip'))) : answer;
      return { ok: true, value: (await body.json()) as T };
    }
    if (answer.status === 404) return { ok: false, words: gone, later: false };
    return { ok: false, words: `The server could not open it (${answer.status}): it is asked again.`, later: true };
  } catch {
    // Broken off on the way, or never come.
    return { ok: false, words: 'No answer from the server: it is asked again.', later: true };
  }
}

/**
 * Asks the server until it has answered: at once, again by itself while there is no answer, and when `again` is
 * called. `ask` is null while nothing is wanted; another `ask` asks anew, and an answer to an older one is dropped.
 */
export function useAsked<T>(
  ask: ((signal: AbortSignal) => Promise<Asked<T>>) | null,
  take: (value: T) => void,
): { readonly fault: string | null; readonly again: () => void } {
  const [fault, setFault] = useState<string | null>(null);
  const [tries, setTries] = useState(0);
  const again = (): void => setTries((before) => before + 1);
  useEffect(() => {
    if (!ask) return;
    const leaving = new AbortController();
    let timer: ReturnType<typeof setTimeout>;
    void ask(leaving.signal).then((answer) => {
      if (leaving.signal.aborted) return;
      setFault(answer.ok ? null : answer.words);
      if (answer.ok) take(answer.value);
      else if (answer.later) timer = setTimeout(again, AGAIN_MS);
    });
    return () => {
      clearTimeout(timer);
      leaving.abort();
    };
  }, [ask, take, tries]);
  return { fault, again };
}

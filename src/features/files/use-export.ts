import { wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { ExportDoor } from '@/workers/export.worker';

/** How long a file may take to be made. */
const SECONDS = 120;

/** Makes files in a worker of their own, one at a time; a text instead of bytes says why there are none. */
export function useExport(): {
  readonly busy: string | null;
  readonly run: (
    what: string,
    make: (door: Remote<ExportDoor>) => Promise<Uint8Array>,
  ) => Promise<Uint8Array<ArrayBuffer> | string | null>;
} {
  const [busy, setBusy] = useState<string | null>(null);
  const worker = useRef<Worker | null>(null);
  useEffect(() => () => worker.current?.terminate(), []);
  const run = useCallback(async (what: string, make: (door: Remote<ExportDoor>) => Promise<Uint8Array>) => {
    worker.current ??= new Worker(new URL('../../workers/export.worker.ts', import.meta.url), { type: 'module' });
    const own = worker.current;
    setBusy(what);
    let timer: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<string>((resolve) => {
      timer = setTimeout(() => resolve('This took too long: choose fewer parts.'), SECONDS * 1000);
    });
    try {
      const made = await Promise.race([make(wrap<ExportDoor>(own)), late]);
      if (typeof made === 'string') {
        own.terminate();
        worker.current = null;
        return made;
      }
      return made as Uint8Array<ArrayBuffer>;
    } catch (reason) {
      return `The file could not be made: ${reason instanceof Error ? reason.message : 'unknown reason'}`;
    } finally {
      clearTimeout(timer);
      setBusy(null);
    }
  }, []);
  return { busy, run };
}

'use client';

import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Answers, Trust } from '@/core/formats/music';
import type { Setup } from '@/core/instrument';
import type { Grid } from '@/core/rhythm';
import type { FileSummary, ImportDoor } from '@/workers/import.worker';

/** What was decided about a part of a file; null where the usual holds. */
export interface PartPlan {
  readonly take: boolean;
  readonly name: string;
  readonly setup: Setup;
  readonly shift: number | null;
  readonly trust: Trust | null;
}

export type Reading =
  | { readonly state: 'reading'; readonly share: number }
  | { readonly state: 'fault'; readonly words: string }
  | { readonly state: 'read'; readonly summary: FileSummary };

export interface ImportedFile {
  readonly id: string;
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly grid: Grid;
  readonly answers: Answers;
  readonly reading: Reading;
  readonly parts: readonly PartPlan[];
}

/** How long a file may be read before it is given up. */
const SECONDS = 20;

/** The parts that are offered first: guitars and basses, or where there are none whatever comes first. */
function planned(summary: FileSummary): PartPlan[] {
  const playable = summary.parts.map((part) => part.notes > 0 && part.kind !== 'drums');
  const ours = summary.parts.map((part, i) => playable[i] === true && (part.kind === 'guitar' || part.kind === 'bass'));
  const first = playable.indexOf(true);
  return summary.parts.map((part, i) => ({
    take: ours.includes(true) ? ours[i] === true : i === first,
    ...{ name: part.name, setup: part.setup, shift: null, trust: null },
  }));
}

/** Files on the import desk, read in a worker that is ended when one takes too long. */
export function useImport() {
  const worker = useRef<{ worker: Worker; door: Remote<ImportDoor> } | null>(null);
  const [files, setFiles] = useState<readonly ImportedFile[]>([]);
  const count = useRef(0);

  const door = useCallback((): Remote<ImportDoor> => {
    if (!worker.current) {
      const made = new Worker(new URL('../../workers/import.worker.ts', import.meta.url), { type: 'module' });
      worker.current = { worker: made, door: wrap<ImportDoor>(made) };
    }
    return worker.current.door;
  }, []);
  const end = useCallback((): void => {
    worker.current?.worker.terminate();
    worker.current = null;
  }, []);
  useEffect(() => end, [end]);

  const change = useCallback((id: string, to: (file: ImportedFile) => ImportedFile): void => {
    setFiles((all) => all.map((file) => (file.id === id ? to(file) : file)));
  }, []);

  const read = useCallback(
    async (file: ImportedFile, keepParts: boolean): Promise<void> => {
      const { id } = file;
      change(id, (one) => ({ ...one, ...file, reading: { state: 'reading', share: 0 } }));
      let timer: ReturnType<typeof setTimeout> | undefined;
      const late = new Promise<null>((resolve) => {
        timer = setTimeout(() => resolve(null), SECONDS * 1000);
      });
      const options = { grid: file.grid, answers: file.answers };
      const share = proxy((done: number): void =>
        change(id, (one) =>
          one.reading.state === 'reading' ? { ...one, reading: { state: 'reading', share: done } } : one,
        ),
      );
      const answer = await Promise.race([door().read(id, file.bytes, options, share), late]).catch(() => null);
      clearTimeout(timer);
      if (answer === null) {
        end();
        const words = `could not be read within ${SECONDS} seconds.`;
        return change(id, (one) => ({ ...one, reading: { state: 'fault', words } }));
      }
      change(id, (one) =>
        answer.ok
          ? {
              ...one,
              reading: { state: 'read', summary: answer.value },
              parts: keepParts && one.parts.length === answer.value.parts.length ? one.parts : planned(answer.value),
            }
          : { ...one, reading: { state: 'fault', words: answer.error.words } },
      );
    },
    [change, door, end],
  );

  const add = useCallback(
    async (chosen: readonly File[]): Promise<void> => {
      for (const one of chosen) {
        const file: ImportedFile = {
          ...{ id: `file-${count.current++}`, name: one.name, bytes: new Uint8Array(await one.arrayBuffer()) },
          ...{ grid: 'auto', answers: {}, reading: { state: 'reading', share: 0 }, parts: [] },
        };
        setFiles((all) => [...all, file]);
        await read(file, false);
      }
    },
    [read],
  );

  /** Stops reading: the worker ends, and what it had read is read again when it is wanted. */
  const stop = useCallback(
    (id: string): void => {
      end();
      change(id, (one) => ({ ...one, reading: { state: 'fault', words: 'was not read: you stopped it.' } }));
    },
    [change, end],
  );
  const remove = useCallback((id: string): void => setFiles((all) => all.filter((file) => file.id !== id)), []);
  return { files, add, read, change, remove, stop, door };
}

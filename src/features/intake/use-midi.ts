'use client';

import { wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import { MIDI_LIMITS } from '@/core/formats/midi';
import type { MidiDoor, MidiSummary } from '@/workers/midi.worker';

export type Reading =
  | { readonly state: 'none' }
  | { readonly state: 'reading' }
  | { readonly state: 'fault'; readonly message: string }
  | { readonly state: 'read'; readonly file: string; readonly song: MidiSummary };

/** How long a file may be read before it is given up. */
const SECONDS = 20;

/** Reads MIDI files in a worker that is ended when a file takes too long. */
export function useMidi() {
  const worker = useRef<{ worker: Worker; door: Remote<MidiDoor> } | null>(null);
  const [reading, setReading] = useState<Reading>({ state: 'none' });

  const door = useCallback((): Remote<MidiDoor> => {
    if (!worker.current) {
      const made = new Worker(new URL('../../workers/midi.worker.ts', import.meta.url), { type: 'module' });
      worker.current = { worker: made, door: wrap<MidiDoor>(made) };
    }
    return worker.current.door;
  }, []);
  const end = (): void => {
    worker.current?.worker.terminate();
    worker.current = null;
  };
  useEffect(() => end, []);

  const read = async (file: File): Promise<void> => {
    if (file.size > MIDI_LIMITS.bytes) {
      setReading({
        state: 'fault',
        message: `“${file.name}” has ${(file.size / 1048576).toFixed(1)} MB; ${MIDI_LIMITS.bytes / 1048576} MB at most.`,
      });
      return;
    }
    setReading({ state: 'reading' });
    const bytes = new Uint8Array(await file.arrayBuffer());
    const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), SECONDS * 1000));
    const answer = await Promise.race([door().read(bytes), late]);
    if (answer === null) {
      end();
      setReading({ state: 'fault', message: `“${file.name}” could not be read within ${SECONDS} seconds.` });
    } else if (answer.ok) setReading({ state: 'read', file: file.name, song: answer.value });
    else setReading({ state: 'fault', message: `“${file.name}”: ${answer.error.words}` });
  };
  return { reading, read, door };
}

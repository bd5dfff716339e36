'use client';

import { useCallback, useEffect, useEffectEvent, useRef, useState } from 'react';
import { usePiece } from '@/features/piece/provider';
import type { ClipEntry } from '@/server/repositories/clips';
import { useToast } from '@/ui/toast';
import { deleteClipAction, keepClipAction, listClipsAction } from './actions';
import type { Laid } from './clip-keeper';
import { ClipSound, decodedFrom, RATE, type Decoded } from './clip-sound';
import { type Coming } from './recordings-bar';
import { Recording } from './microphone';
import { fileFault, nameOf, sendClip } from './upload';
import { useKeepers } from './use-keeping';

const base64 = (bytes: Uint8Array): string => btoa(Array.from(bytes, (b) => String.fromCharCode(b)).join(''));
/** Stretches of the waveform kept with a clip. */

const OVERVIEW = 2400;

/**
 * The recordings of a piece and the one on the bench: what comes in and goes, one at a time, and what went wrong with
 * it. A recording on the bench is decoded once, and closed when another takes its place.
 */
export function useRecordings(first: readonly ClipEntry[], open: string | null) {
  const pieceId = usePiece((state) => state.document.id);
  const toast = useToast();
  const [clips, setClips] = useState(first);
  const [chosen, setChosen] = useState<string | null>(open ?? first.find((clip) => clip.state === 'kept')?.id ?? null);
  const [coming, setComing] = useState<Coming | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [sound, setSound] = useState<{ readonly id: string; readonly sound: ClipSound } | null>(null);
  const [recording, setRecording] = useState<Recording | null>(null);
  const stop = useRef<AbortController | null>(null);
  const clip = clips.find((clip) => clip.id === chosen && clip.state === 'kept') ?? null;
  const laid = useCallback(
    (id: string, now: Laid) =>
      setClips((list) =>
        list.map((clip) => (clip.id === id ? { ...clip, document: now.document, revision: now.revision } : clip)),
      ),
    [],
  );
  const keepers = useKeepers(laid);
  const relist = async (): Promise<void> => {
    const list = await listClipsAction(pieceId);
    setClips(
      list.map((clip) => ({ ...clip, ...keepers(clip).fresh({ document: clip.document, revision: clip.revision }) })),
    );
  };

  const takeOne = async (file: File): Promise<void> => {
    const aborting = new AbortController();
    stop.current = aborting;
    setComing({ name: nameOf(file), share: 0, doing: 'sending' });
    try {
      const wrong = await fileFault(file);
      if (wrong) return setFault(wrong.words);
      // It is decoded first: what can't be heard needs no sending.
      const sound = await decodedFrom(file.stream(), file.size, file.name);
      if (!sound.ok) return setFault(sound.error.words);
      const unfinished = await listClipsAction(pieceId);
      const sent = await sendClip(pieceId, file, unfinished, aborting.signal, (share) =>
        setComing({ name: nameOf(file), share, doing: 'sending' }),
      );
      if (!sent.ok) return setFault(sent.error.words);
      const made = new ClipSound(sound.value);
      made.complete();
      const overview = await made.door.overview(OVERVIEW);
      const kept = await keepClipAction(sent.value, {
        seconds: sound.value.seconds,
        rate: RATE,
        channels: sound.value.channels.length,
        overview: base64(overview),
      });
      if (!kept.ok) {
        made.close();
        return setFault(kept.error.words);
      }
      setSound((was) => {
        was?.sound.close();
        return { id: kept.value.id, sound: made };
      });
      await relist();
      setChosen(kept.value.id);
    } catch (reason) {
      setFault(
        `It was not kept: ${reason instanceof Error ? reason.message : String(reason)}. Drop the same file again to go on from there.`,
      );
    } finally {
      setComing(null);
      stop.current = null;
    }
  };

  const sending = useRef(false);
  const queue = useRef<File[]>([]);
  /** Takes files one after another; what comes while one is on its way waits for its turn. */
  const take = async (files: Iterable<File>): Promise<void> => {
    queue.current.push(...files);
    if (sending.current) return toast('It is taken in when the one before is there.');
    sending.current = true;
    setFault(null);
    // What is only being fetched can be fetched again.
    stop.current?.abort();
    for (let file = queue.current.shift(); file; file = queue.current.shift()) await takeOne(file);
    sending.current = false;
  };

  const onBench = useRef(sound);
  useEffect(() => {
    onBench.current = sound;
  }, [sound]);
  useEffect(() => () => onBench.current?.sound.close(), []);

  // A clip on the bench is fetched and decoded once; it can be played as soon as its beginning is there.
  const bring = useEffectEvent(async (entry: ClipEntry, aborting: AbortController): Promise<void> => {
    const { name } = entry.document;
    let made: ClipSound | null = null;
    const begin = (decoded: Decoded): ClipSound => {
      made = new ClipSound(decoded);
      const begun = { id: entry.id, sound: made };
      setSound((was) => {
        was?.sound.close();
        return begun;
      });
      return made;
    };
    stop.current = aborting;
    setComing({ name, share: 0, doing: 'fetching' });
    try {
      const response = await fetch(`/api/clips/${entry.id}`, { signal: aborting.signal });
      if (!response.ok || !response.body) throw new Error(`the server answered ${response.status}`);
      const came = await decodedFrom(response.body, entry.bytes, name, (decoded, frames) => {
        if (aborting.signal.aborted) return;
        (made ?? begin(decoded)).arrived(frames);
        setComing({ name, share: frames / (decoded.seconds * RATE), doing: 'fetching' });
      });
      if (aborting.signal.aborted) return;
      if (came.ok) (made ?? begin(came.value)).complete();
      else setFault(came.error.words);
    } catch (reason) {
      // What came in part is no recording to work on.
      setSound((was) => {
        if (was?.id !== entry.id) return was;
        was.sound.close();
        return null;
      });
      if (!aborting.signal.aborted)
        setFault(`The recording did not come: ${reason instanceof Error ? reason.message : String(reason)}.`);
    } finally {
      if (stop.current === aborting) setComing(null);
    }
  });
  const [again, setAgain] = useState(0);
  const wanted = clip?.id ?? null;
  useEffect(() => {
    const entry = clips.find((clip) => clip.id === wanted);
    if (!entry || onBench.current?.id === wanted) return;
    const aborting = new AbortController();
    const timer = setTimeout(() => void bring(entry, aborting), 0);
    return () => {
      clearTimeout(timer);
      aborting.abort();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is laid on a clip is no reason to fetch it again
  }, [wanted, again]);

  const record = async (): Promise<void> => {
    if (recording) {
      const file = await recording.stop(`Recording ${clips.length + 1}`);
      setRecording(null);
      return take([file]);
    }
    try {
      const begun = new Recording();
      await begun.start();
      setRecording(begun);
    } catch (reason) {
      setFault(
        `The microphone can't be heard: ${reason instanceof Error ? reason.message : String(reason)}. Allow it for this page, or drop a file.`,
      );
    }
  };
  const remove = async (entry: ClipEntry): Promise<void> => {
    await deleteClipAction(entry.id, true);
    await relist();
    toast(`${entry.document.name} was deleted.`, {
      label: 'Undo',
      run: () => void deleteClipAction(entry.id, false).then(relist),
    });
  };

  const choose = (id: string): void => {
    setFault(null);
    setChosen(id);
  };
  const fetchAgain = (): void => {
    setFault(null);
    setAgain(again + 1);
  };
  const cancel = (): void => stop.current?.abort();
  return {
    clips,
    chosen,
    clip,
    coming,
    fault,
    sound,
    recording,
    keepers,
    take,
    record,
    remove,
    choose,
    fetchAgain,
    cancel,
  };
}

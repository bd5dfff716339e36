import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { z } from 'zod';
import { clipDocumentSchema, type ClipDocument } from '@/core/heard';
import type { ClipEntry } from '@/server/repositories/clips';
import { useToast } from '@/ui/toast';
import { listClipsAction, saveClipAction } from './actions';

const AGAIN_MS = 3000;
const waitingSchema = z.object({ revision: z.number().int(), document: clipDocumentSchema });
const placeOf = (clip: string): string => `clip-waiting:${clip}`;

/** What waits on this device for a clip, and on which revision it was based; null where nothing does, or it can't be read. */
function waitingFor(clip: string): z.infer<typeof waitingSchema> | null {
  try {
    const parsed = waitingSchema.safeParse(JSON.parse(localStorage.getItem(placeOf(clip)) ?? 'null'));
    return parsed.success ? parsed.data : null;
  } catch {
    return null;
  }
}

/**
 * Keeps what is laid on a clip: shown at once, sent one save at a time, held on this device while
 * the server is away, and sent when it is back. Another window's later save is never overwritten.
 */
export function useKeeping(clip: ClipEntry, onChanged: (clip: ClipEntry) => void): { readonly change: (document: ClipDocument) => void; readonly waiting: boolean } {
  const toast = useToast();
  const [waiting, setWaiting] = useState(false);
  const revision = useRef(clip.revision);
  const newest = useRef<ClipDocument | null>(null);
  const sending = useRef(false);

  const [asked, setAsked] = useState(0);
  const change = (document: ClipDocument): void => {
    newest.current = document;
    onChanged({ ...clip, document });
    setAsked((n) => n + 1);
  };

  /** Holds what is laid on this device; a full store only costs the safety net. */
  const hold = (document: ClipDocument | null): void => {
    try {
      if (document) localStorage.setItem(placeOf(clip.id), JSON.stringify({ revision: revision.current, document }));
      else localStorage.removeItem(placeOf(clip.id));
    } catch {
      // It is still here as long as the page is.
    }
  };

  /** Another window saved first: what it laid is shown, and mine can be put over it by hand. */
  const meet = useEffectEvent(async (refused: ClipDocument, message: string): Promise<void> => {
    const theirs = (await listClipsAction(clip.piece).catch(() => [])).find((c) => c.id === clip.id);
    if (!theirs) return toast(message);
    revision.current = theirs.revision;
    // An answer that was lost: what stands there is what was sent.
    if (JSON.stringify(theirs.document) === JSON.stringify(clipDocumentSchema.parse(refused))) return;
    const mine = newest.current ?? refused;
    newest.current = null;
    onChanged(theirs);
    toast('Another window laid something else on this recording: it is shown now.', { label: 'Use mine all the same', run: () => change(mine) });
  });

  const send = useEffectEvent(async (): Promise<void> => {
    if (sending.current) return;
    sending.current = true;
    for (let document = newest.current; document; document = newest.current) {
      const saved = await saveClipAction(clip.id, revision.current, document).catch(() => null);
      if (saved === null) {
        // Nothing laid is lost: it waits here, and through a reload.
        hold(document);
        setWaiting(true);
        break;
      }
      if (saved.ok) revision.current = saved.value;
      else if (saved.error.code === 'stale') await meet(document, saved.error.message);
      else toast(saved.error.message);
      if (newest.current === document) newest.current = null;
      hold(null);
      setWaiting(false);
    }
    sending.current = false;
  });

  useEffect(() => {
    if (asked > 0) void send();
  }, [asked]);

  useEffect(() => {
    if (!waiting) return;
    const timer = setInterval(() => void send(), AGAIN_MS);
    return () => clearInterval(timer);
  }, [waiting]);

  const resume = useEffectEvent(() => {
    const held = waitingFor(clip.id);
    if (!held) return;
    if (held.revision === clip.revision) change(held.document);
    else toast('What was laid on this recording while the server was away is older than what is kept now.', { label: 'Use it all the same', run: () => change(held.document) });
  });
  useEffect(() => {
    const timer = setTimeout(resume, 0);
    return () => clearTimeout(timer);
  }, []);
  return { change, waiting };
}

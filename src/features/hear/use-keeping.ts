import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import type { ClipEntry } from '@/server/repositories/clips';
import { useToast } from '@/ui/toast';
import { listClipsAction, saveClipAction } from './actions';
import { ClipKeeper, type KeepingState, type Laid } from './clip-keeper';

const AGAIN_MS = 3000;

/**
 * A keeper for each clip of a page, for as long as the page is: what one recording waits for goes on while another is
 * looked at.
 */
export type Keepers = (clip: ClipEntry) => ClipKeeper;

export function useKeepers(onLaid: (clip: string, laid: Laid) => void): Keepers {
  const toast = useToast();
  const [keepers] = useState(() => new Map<string, ClipKeeper>());
  return useMemo(
    () => (clip) => {
      const known = keepers.get(clip.id);
      if (known) return known;
      const made = new ClipKeeper(clip.id, clip, {
        save: (revision, document) => saveClipAction(clip.id, revision, document),
        read: async () => (await listClipsAction(clip.piece)).find((one) => one.id === clip.id) ?? null,
        show: (laid) => onLaid(clip.id, laid),
        say: toast,
        now: Date.now,
        // Asked for when it is needed: the server that draws the page first has none.
        device: {
          getItem: (key) => localStorage.getItem(key),
          setItem: (key, value) => localStorage.setItem(key, value),
          removeItem: (key) => localStorage.removeItem(key),
        },
      });
      keepers.set(clip.id, made);
      return made;
    },
    [keepers, onLaid, toast],
  );
}

/** What a keeper knows, while it is looked at; what waits is sent again by and by. */
export function useKeeping(keeper: ClipKeeper): KeepingState {
  const state = useStore(keeper.state);
  useEffect(() => {
    const timer = setTimeout(() => void keeper.resume(), 0);
    return () => clearTimeout(timer);
  }, [keeper]);
  useEffect(() => {
    if (!state.waiting) return;
    const timer = setInterval(() => void keeper.send(), AGAIN_MS);
    return () => clearInterval(timer);
  }, [keeper, state.waiting]);
  return state;
}

import { useCallback, useMemo, useState } from 'react';
import type { Riff, RiffEvent } from '@/core/score';
import { endOf, riffStart } from '@/core/score';
import type { Quarter } from '@/core/time';

/** What is chosen in a riff: a run of events with one note in focus, or a place in time. */
export interface Selection {
  readonly anchor: string | null;
  readonly focus: string | null;
  readonly note: string | null;
  readonly caret: Quarter | null;
}

export const NOTHING: Selection = { anchor: null, focus: null, note: null, caret: null };

export interface Chosen {
  readonly selection: Selection;
  /** Chosen events in order. */
  readonly events: readonly RiffEvent[];
  readonly focus: RiffEvent | null;
  readonly focusIndex: number;
  readonly noteIndex: number;
  /** Where calls and pasted notes go. */
  readonly insertAt: Quarter;
  readonly choose: (event: RiffEvent | null, note: string | null, extend?: boolean) => void;
  readonly chooseAll: () => void;
  readonly setCaret: (at: Quarter) => void;
}

export function useSelection(riff: Riff): Chosen {
  const [selection, setSelection] = useState<Selection>(NOTHING);
  const focusIndex = riff.events.findIndex((e) => e.id === selection.focus);
  const focus = riff.events[focusIndex] ?? null;
  const anchorIndex = riff.events.findIndex((e) => e.id === selection.anchor);
  const events = useMemo(() => {
    if (focusIndex < 0) return [];
    const other = anchorIndex < 0 ? focusIndex : anchorIndex;
    return riff.events.slice(Math.min(focusIndex, other), Math.max(focusIndex, other) + 1);
  }, [riff, focusIndex, anchorIndex]);
  const choose = useCallback((event: RiffEvent | null, note: string | null, extend = false) => {
    setSelection((s) => (event ? { anchor: extend ? (s.anchor ?? event.id) : event.id, focus: event.id, note: note ?? event.notes[0]?.id ?? null, caret: null } : NOTHING));
  }, []);
  const chooseAll = useCallback(() => {
    const first = riff.events[0];
    const last = riff.events.at(-1);
    if (first && last) setSelection({ anchor: first.id, focus: last.id, note: last.notes[0]?.id ?? null, caret: null });
  }, [riff]);
  const setCaret = useCallback((at: Quarter) => setSelection({ ...NOTHING, caret: at }), []);
  const noteIndex = Math.max(0, focus?.notes.findIndex((n) => n.id === selection.note) ?? 0);
  const last = riff.events.at(-1);
  const insertAt = selection.caret ?? (focus ? endOf(focus) : last ? endOf(last) : riffStart(riff));
  return { selection, events, focus, focusIndex, noteIndex, insertAt, choose, chooseAll, setCaret };
}



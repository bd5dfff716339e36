import { useCallback, useMemo, useState } from 'react';
import { type Riff, type RiffEvent, endOf, riffStart } from '@/core/score';
import type { Quarter } from '@/core/time';

/**
 * What is chosen in a riff: a run of events with one note in focus, some events picked one by one, or a place in
 * time.
 */
export interface Selection {
  readonly anchor: string | null;
  readonly focus: string | null;
  /** A note of the event in focus; null: all of its notes together. */
  readonly note: string | null;
  readonly caret: Quarter | null;
  /** Events picked from all over the riff, beside the run; null where none are. */
  readonly picked: readonly string[] | null;
}

export const NOTHING: Selection = { anchor: null, focus: null, note: null, caret: null, picked: null };

export interface Chosen {
  readonly selection: Selection;
  /** Chosen events in order. */
  readonly events: readonly RiffEvent[];
  readonly focus: RiffEvent | null;
  readonly focusIndex: number;
  /** The note in focus in its event; the first where the event is chosen as a whole. */
  readonly noteIndex: number;
  /** The one note that is chosen of a chord, which marks go to; null: to every note of what is chosen. */
  readonly single: string | null;
  /** Where calls and pasted notes go. */
  readonly insertAt: Quarter;
  readonly choose: (event: RiffEvent | null, note: string | null, extend?: boolean) => void;
  readonly chooseAll: () => void;
  /** Chooses events from all over the riff, the first in focus. */
  readonly pick: (events: readonly RiffEvent[], note?: string | null) => void;
  /** Adds an event to those chosen, or takes it away. */
  readonly toggle: (event: RiffEvent, note: string | null) => void;
  readonly setCaret: (at: Quarter) => void;
}

export function useSelection(riff: Riff): Chosen {
  const [selection, setSelection] = useState<Selection>(NOTHING);
  const focusIndex = riff.events.findIndex((event) => event.id === selection.focus);
  const focus = riff.events[focusIndex] ?? null;
  const anchorIndex = riff.events.findIndex((event) => event.id === selection.anchor);
  const { picked } = selection;
  const events = useMemo(() => {
    if (picked) {
      const ids = new Set(picked);
      return riff.events.filter((event) => ids.has(event.id));
    }
    if (focusIndex < 0) return [];
    const other = anchorIndex < 0 ? focusIndex : anchorIndex;
    return riff.events.slice(Math.min(focusIndex, other), Math.max(focusIndex, other) + 1);
  }, [riff, focusIndex, anchorIndex, picked]);
  const choose = useCallback((event: RiffEvent | null, note: string | null, extend = false) => {
    setSelection((one) =>
      event
        ? {
            anchor: extend ? (one.anchor ?? event.id) : event.id,
            focus: event.id,
            note,
            caret: null,
            picked: null,
          }
        : NOTHING,
    );
  }, []);
  const chooseAll = useCallback(() => {
    const first = riff.events[0];
    const last = riff.events.at(-1);
    if (first && last) setSelection({ anchor: first.id, focus: last.id, note: null, caret: null, picked: null });
  }, [riff]);
  const pick = useCallback((all: readonly RiffEvent[], note: string | null = null) => {
    const [first] = all;
    if (first)
      setSelection({
        anchor: first.id,
        focus: first.id,
        note,
        caret: null,
        picked: all.map((event) => event.id),
      });
  }, []);
  const toggle = useCallback(
    (event: RiffEvent, note: string | null) => {
      setSelection((one) => {
        const now = one.picked ?? events.map((event) => event.id);
        const next = now.includes(event.id) ? now.filter((id) => id !== event.id) : [...now, event.id];
        return next.length === 0
          ? NOTHING
          : {
              anchor: event.id,
              focus: next.includes(event.id) ? event.id : (next[0] ?? null),
              note,
              caret: null,
              picked: next,
            };
      });
    },
    [events],
  );
  const setCaret = useCallback((at: Quarter) => setSelection({ ...NOTHING, caret: at }), []);
  const noteIndex = Math.max(0, focus?.notes.findIndex((note) => note.id === selection.note) ?? 0);
  const single = events.length === 1 && focus?.notes.some((note) => note.id === selection.note) ? selection.note : null;
  const last = riff.events.at(-1);
  const insertAt = selection.caret ?? (focus ? endOf(focus) : last ? endOf(last) : riffStart(riff));
  return {
    selection,
    events,
    focus,
    focusIndex,
    noteIndex,
    single,
    insertAt,
    choose,
    chooseAll,
    pick,
    toggle,
    setCaret,
  };
}

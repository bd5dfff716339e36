import { useState, type PointerEvent, type RefObject } from 'react';
import type { Riff, RiffEvent } from '@/core/score';
import { add, cmp, quarter, toNumber, type Quarter } from '@/core/time';
import { LANE } from '@/ui/draw/lanes';
import type { RowScale } from '@/ui/draw/spacing';
import type { StripRow } from '@/ui/draw/strip-layout';
import type { Chosen } from './selection';

/** Where a note is dragged: to another string, or so far in time. */
export interface DragTarget {
  readonly string: number | null;
  readonly by: Quarter | null;
}

/** A note on its way with the pointer. */
interface Drag {
  readonly event: RiffEvent;
  readonly note: string;
  readonly startX: number;
  readonly startY: number;
  readonly row: StripRow;
  readonly string: number | null;
  readonly by: Quarter | null;
  readonly px: number;
  readonly py: number;
}

/** So far a pointer may waver before it drags. */
const SLACK = 7;

/** Choosing and dragging with the pointer: a note to another string, or the chosen ones in time. */
export function useDragging({
  box,
  riff,
  rows,
  scaleOf,
  chosen,
  strings,
  onDrag,
}: {
  readonly riff: Riff;
  readonly chosen: Chosen;
  readonly onDrag: (event: RiffEvent, note: string, to: DragTarget) => void;
  readonly box: RefObject<HTMLDivElement | null>;
  readonly rows: readonly StripRow[];
  readonly scaleOf: (row: StripRow) => RowScale;
  readonly strings: readonly number[];
}) {
  const [drag, setDrag] = useState<Drag | null>(null);
  const press = (pointer: PointerEvent): void => {
    const target = pointer.target as Element;
    const svg = target.closest('svg');
    const row = rows[Number(svg?.getAttribute('data-row') ?? -1)];
    if (!svg || !row) return;
    const eventId = target.closest('[data-event]')?.getAttribute('data-event');
    const noteId = target.closest('[data-note]')?.getAttribute('data-note') ?? null;
    const event = riff.events.find((event) => event.id === eventId);
    if (event && (pointer.ctrlKey || pointer.metaKey)) chosen.toggle(event, noteId);
    else if (event) {
      chosen.choose(event, noteId, pointer.shiftKey);
      if (noteId && !pointer.shiftKey)
        setDrag({
          event,
          note: noteId,
          startX: pointer.clientX,
          startY: pointer.clientY,
          row,
          string: null,
          by: null,
          px: 0,
          py: 0,
        });
    } else {
      const px = pointer.clientX - svg.getBoundingClientRect().left;
      const near = nearestEvent(row, px, scaleOf(row));
      if (near && pointer.shiftKey) chosen.choose(near, null, true);
      else chosen.setCaret(timeAt(row, px, scaleOf(row)));
    }
  };

  const move = (event: PointerEvent): void => {
    if (!drag) return;
    const dx = event.clientX - drag.startX;
    const dy = event.clientY - drag.startY;
    const scale = scaleOf(drag.row);
    const steps = Math.round((scale.invert(scale(drag.event.at) + dx) - toNumber(drag.event.at)) * 4);
    const place = drag.event.notes.find((note) => note.id === drag.note)?.place;
    const lines = Math.round(dy / LANE.stringGap);
    const at = place ? strings.indexOf(place.string) : -1;
    const target = place && lines !== 0 ? (strings[at + lines] ?? null) : null;
    // One thing at a time: whichever way the pointer went further.
    const across = Math.abs(dy) > Math.abs(dx);
    const box_ = box.current?.getBoundingClientRect();
    setDrag({
      ...drag,
      string: Math.abs(dy) > SLACK && across ? target : null,
      by: Math.abs(dx) > SLACK && !across && steps !== 0 ? quarter(steps, 4) : null,
      px: event.clientX - (box_?.left ?? 0) + (box.current?.scrollLeft ?? 0),
      py: event.clientY - (box_?.top ?? 0) + (box.current?.scrollTop ?? 0),
    });
  };
  const drop = (): void => {
    if (drag && (drag.string !== null || drag.by !== null))
      onDrag(drag.event, drag.note, { string: drag.string, by: drag.by });
    setDrag(null);
  };
  return { drag, press, move, drop, cancel: () => setDrag(null) };
}

/** The sixteenth nearest to a pixel. */
function timeAt(row: StripRow, px: number, scale: RowScale): Quarter {
  const from = toNumber(row.from);
  const time = Math.min(toNumber(row.to), Math.max(from, scale.invert(px)));
  const at = add(row.from, quarter(Math.round((time - from) * 4), 4));
  return cmp(at, row.to) < 0 ? at : add(row.to, quarter(-1, 4));
}

function nearestEvent(row: StripRow, px: number, x: RowScale) {
  return [...row.events].sort((a, b) => Math.abs(x(a.at) - px) - Math.abs(x(b.at) - px))[0] ?? null;
}

'use client';

import {
  startTransition,
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type RefObject,
} from 'react';
import type { Setup } from '@/core/instrument';
import type { Key } from '@/core/pitch';
import { stringLetters, type Schools } from '@/core/schools';
import type { Riff, RiffEvent } from '@/core/score';
import { strokeFigures, strokesOf, type Struck } from '@/core/rhythm';
import { cmp, maxQuarter, minQuarter, type Quarter, type TempoStep } from '@/core/time';
import type { Harmony } from '@/ui/draw/harmony-lane';
import { LANE, laneScales, laneTops, type LaneName } from '@/ui/draw/lanes';
import { barsThatFit, figureSize, rowCutter, type StripRow } from '@/ui/draw/strip-layout';
import type { RowScale } from '@/ui/draw/spacing';
import { Staff } from '@/ui/draw/staff';
import { StripRowView } from '@/ui/draw/strip-row';
import { rowFigure, rowRoom, rowScale, textIn } from '@/ui/draw/strip-scale';
import { useSchools } from '@/ui/schools';
import type { CallTarget } from './call-line';
import type { Chosen } from './selection';
import { useDragging, type DragTarget } from './use-dragging';
import { usePlayhead } from './use-playhead';

interface Props {
  readonly riff: Riff;
  readonly setup: Setup;
  readonly keyShown: Key | null;
  readonly hands: ReadonlyMap<string, number>;
  readonly lanes: ReadonlySet<LaneName>;
  /** Chords and bass where the riff is played. */
  readonly harmony: Harmony | null;
  /** Events the check asks about. */
  readonly asked: ReadonlySet<string>;
  readonly chosen: Chosen;
  readonly onKeyDown: (event: KeyboardEvent) => void;
  readonly playing: boolean;
  /** Gives the playhead's time in the riff, or null when nothing plays. */
  readonly playhead: () => number | null;
  /** The bar a deep link asks for, from 1. */
  readonly startBar: number | null;
  readonly tempo: readonly TempoStep[];
  /** Bars in a row; null for as many as stay legible. */
  readonly perRow: number | null;
  /** Where what is typed in the call line would go. */
  readonly target: CallTarget | null;
  /** A note was dragged: to a string, or by a time. */
  readonly onDrag: (event: RiffEvent, note: string, to: DragTarget) => void;
}

const NO_STROKES: readonly Struck[] = [];

/** Rows drawn beyond what is seen, above and below. */
const MARGIN = 1;

/** The two names of each string by the instructor's school: the first, and the other in brackets where it differs. */
export function stringLabels(
  setup: Setup,
  strings: readonly number[],
  key: Key | null,
  schools: Schools,
): (readonly [string, string])[] {
  return strings.map((s) => {
    const { main, beside } = stringLetters(setup, s, schools, key);
    return [schools.strings === 'numbers' ? '' : main, beside === null ? '' : `(${beside})`] as const;
  });
}

/** A bar of a narrow phone: labels, and room for a note a finger's width apart. */
const LEAST_WIDTH = 320;

/** The width of the strip and what of it is in sight. Nothing is drawn, and no link followed, before it is known. */
function useMeasured(box: RefObject<HTMLDivElement | null>) {
  const [measured, setMeasured] = useState<number | null>(null);
  const width = measured ?? 900;
  const [seen, setSeen] = useState({ top: 0, height: 700 });
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const measure = (): void => {
      setMeasured(Math.max(LEAST_WIDTH, el.clientWidth));
      setSeen({ top: el.scrollTop, height: el.clientHeight });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(el);
    return () => observer.disconnect();
  }, [box]);
  return { measured, width, seen, setSeen };
}

/** The phrase strip at work: rows in a scrolling sheet, of which only those in sight are drawn. */
export function Strip({
  riff,
  setup,
  keyShown,
  hands,
  lanes,
  harmony,
  asked: questioned,
  chosen,
  onKeyDown,
  playing,
  playhead,
  startBar,
  tempo,
  perRow: asked,
  target,
  onDrag,
}: Props) {
  const schools = useSchools();
  const box = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const { measured, width, seen, setSeen } = useMeasured(box);

  const room = rowRoom(width);
  // What comes of looking over the whole riff follows a moment later: what was typed is painted first.
  const settled = useDeferredValue(riff);
  const school = riff.picking ?? schools.picking;
  const struck = useMemo(
    () => (lanes.has('stroke') ? strokesOf(settled, setup, school) : NO_STROKES),
    [settled, setup, school, lanes],
  );
  const strokeMap = useMemo(() => new Map(struck.map((struck) => [struck.event, struck])), [struck]);
  const hardest = useStable(
    useMemo(() => {
      const run = struck.length > 0 ? strokeFigures(settled, struck, tempo).hardest : null;
      return run && { from: run.from, to: run.to };
    }, [settled, struck, tempo]),
  );
  const rawScales = useMemo(() => laneScales(settled, setup, hands, schools), [settled, setup, hands, schools]);
  const scales = useStable(rawScales);
  const perRow = useMemo(() => asked ?? barsThatFit(settled, room, textIn(scales)), [settled, room, asked, scales]);
  const figure = useMemo(() => figureSize(settled, room, perRow, textIn(scales)), [settled, room, perRow, scales]);
  const allYours = useMemo(() => mostlyLocked(settled), [settled]);
  const [cut] = useState(rowCutter);
  const rows = useMemo(() => cut(riff, perRow), [cut, riff, perRow]);
  const scaleOf = useCallback(
    (row: StripRow): RowScale =>
      rowScale(row, riff.meters, width, scales, rowFigure(row, riff.meters, width, scales, figure)),
    [riff.meters, width, scales, figure],
  );
  const names = useStable(
    useMemo(
      () => stringLabels(setup, rawScales.strings, keyShown, schools),
      [setup, rawScales.strings, keyShown, schools],
    ),
  );
  const rowHeight = laneTops(lanes, scales.strings.length).bottom;
  const first = Math.max(0, Math.floor(seen.top / rowHeight) - MARGIN);
  const last = Math.min(rows.length - 1, Math.floor((seen.top + seen.height) / rowHeight) + MARGIN);

  const scrollTo = useCallback(
    (row: number): void => {
      const el = box.current;
      if (!el) return;
      const top = row * rowHeight;
      if (top < el.scrollTop || top + rowHeight > el.scrollTop + el.clientHeight) el.scrollTop = top;
    },
    [rowHeight],
  );

  const linked = useRef(false);
  useEffect(() => {
    if (linked.current || measured === null) return;
    linked.current = true;
    // Without a bar asked for, the riff opens where its notes begin.
    const row = rows.findIndex((row) =>
      startBar === null
        ? row.events.length > 0
        : startBar - 1 >= row.firstBar && startBar - 1 < row.firstBar + row.bars,
    );
    if (row > 0) scrollTo(row);
  }, [rows, startBar, scrollTo, measured]);

  const focusId = chosen.focus?.id;
  useEffect(() => {
    if (!focusId) return;
    const row = rows.findIndex((row) => row.events.some((event) => event.id === focusId));
    if (row >= 0) scrollTo(row);
  }, [focusId, rows, scrollTo]);
  // What is being typed is seen where it goes.
  const goesTo = target?.from;
  useEffect(() => {
    if (goesTo === undefined) return;
    const row = rows.findIndex((one) => cmp(goesTo, one.to) < 0);
    scrollTo(row < 0 ? rows.length - 1 : row);
  }, [goesTo, rows, scrollTo]);

  usePlayhead(head, { playing, rows, scaleOf, rowHeight, playhead });
  const { drag, press, move, drop, cancel } = useDragging({
    box,
    riff,
    rows,
    scaleOf,
    chosen,
    strings: scales.strings,
    onDrag,
  });

  const chosenIds = useMemo(() => new Set(chosen.events.map((event) => event.id)), [chosen.events]);
  return (
    <div
      ref={box}
      role="application"
      aria-roledescription="phrase strip"
      aria-label={`${riff.name}: arrows choose notes, question mark lists all keys`}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onPointerDown={press}
      onPointerMove={drag ? move : undefined}
      onPointerUp={drop}
      onPointerCancel={cancel}
      onScroll={(event) => {
        const now = { top: event.currentTarget.scrollTop, height: event.currentTarget.clientHeight };
        // Rows ahead are drawn between frames; those in sight are there already.
        startTransition(() =>
          setSeen((was) =>
            was.height === now.height && Math.floor(was.top / rowHeight) === Math.floor(now.top / rowHeight)
              ? was
              : now,
          ),
        );
      }}
      className="relative min-h-0 flex-1 overflow-y-auto border border-rule bg-sheet focus-visible:-outline-offset-2 focus-visible:outline-2"
    >
      <div style={{ height: rows.length * rowHeight }} className="relative">
        {(measured === null ? [] : rows.slice(first, last + 1)).map((row) => (
          <div
            key={row.index}
            className="absolute left-0"
            style={{ top: row.index * rowHeight, height: rowHeight, width, contain: 'strict' }}
          >
            {lanes.has('staff') ? (
              <div className="absolute left-0" style={{ top: LANE.top - 6 }}>
                <Staff
                  riff={riff}
                  setup={setup}
                  bars={{ from: row.firstBar, count: row.bars }}
                  choice={{ key: keyShown, pitch: schools.staff }}
                  width={width}
                  lead={LANE.pad}
                  x={scaleOf(row)}
                  label={`Staff of bars ${row.firstBar + 1} to ${row.firstBar + row.bars}, written an octave above the sound`}
                />
              </div>
            ) : null}
            <StripRowView
              row={row}
              width={width}
              meters={riff.meters}
              keyShown={keyShown}
              scales={scales}
              stringNames={names}
              lanes={lanes}
              hands={hands}
              chosen={row.events
                .filter((event) => chosenIds.has(event.id))
                .map((event) => event.id)
                .join(' ')}
              focusNote={row.events.some((event) => event.id === focusId) ? chosen.selection.note : null}
              caret={caretIn(row, chosen.insertAt, rows.length)}
              target={targetIn(row, target)}
              figure={figure}
              allYours={allYours}
              strokes={strokesText(row, strokeMap)}
              hardest={hardest}
              next={rows[row.index + 1]?.events[0] ?? null}
              setup={setup}
              schools={schools}
              harmony={harmony}
              asked={row.events
                .filter((event) => questioned.has(event.id))
                .map((event) => event.id)
                .join(' ')}
            />
          </div>
        ))}
        {drag && (drag.string !== null || drag.by !== null) ? (
          <div
            aria-hidden
            className="pointer-events-none absolute z-10 rounded-sm border border-ink bg-chosen px-2 py-0.5 text-[15px] font-semibold text-ink"
            style={{ left: drag.px + 14, top: drag.py - 30 }}
          >
            {drag.string !== null
              ? `to string ${drag.string}`
              : `${drag.by?.startsWith('-') ? '' : '+'}${drag.by} quarters`}
          </div>
        ) : null}
        <div
          ref={head}
          aria-hidden
          className="pointer-events-none absolute top-0 left-0 w-[3px] rounded bg-question opacity-0"
          style={{ height: rowHeight - 12 }}
        />
      </div>
    </div>
  );
}

/** The strokes of a row as text, so that a row is drawn anew only where its own strokes changed. */
function strokesText(row: StripRow, strokes: ReadonlyMap<string, Struck>): string {
  return row.events
    .map((event) => {
      const struck = strokes.get(event.id);
      return struck ? `${event.id}:${struck.stroke ?? ''}:${struck.by ?? ''}:${struck.group}` : '';
    })
    .filter(Boolean)
    .join(' ');
}

/** Whether most places are the instructor's: then what is proposed is marked, and what is theirs is not. */
function mostlyLocked(riff: Riff): boolean {
  const places = riff.events.flatMap((event) => event.notes.flatMap((note) => note.place ?? []));
  return places.filter((place) => place.locked).length * 2 > places.length;
}

/** Where the next call goes, if that is in a row; the end of the last row belongs to it. */
function caretIn(row: StripRow, caret: Quarter, count: number): Quarter | null {
  const within = cmp(caret, row.from) >= 0 && cmp(caret, row.to) < 0;
  return within || (row.index === count - 1 && cmp(caret, row.to) >= 0) ? minQuarter(caret, row.to) : null;
}

/** The part of a stretch that lies in a row, as text, so that rows are drawn anew only where it changed. */
function targetIn(row: StripRow, target: CallTarget | null): string | null {
  if (!target || cmp(target.until, row.from) <= 0 || cmp(target.from, row.to) >= 0) return null;
  return `${maxQuarter(target.from, row.from)} ${minQuarter(target.until, row.to)}`;
}

/** A value that keeps its identity while it says the same. */
function useStable<T>(value: T): T {
  const text = JSON.stringify(value);
  return useMemo(() => JSON.parse(text) as T, [text]);
}

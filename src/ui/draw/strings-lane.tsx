import { memo, useCallback } from 'react';
import { type Note, type RiffEvent, joinsInto } from '@/core/score';
import { add } from '@/core/time';
import { fretText, LANE, noteText, type LaneScales } from './lanes';
import { EventMarks } from './event-marks';
import { bentAbove, markEnd, NoteMarks } from './note-marks';
import { articulationRuns, RunMarks } from './run-marks';
import { Pin } from './pin';
import { GRACE_SIZE, figureWidth } from './spacing';
import { FIGURE, INK, type RowProps, type X } from './strip-scale';

/** Slurs for hammer-ons and pull-offs, a stroke for slides, between the notes they join. */
const Joins = memo(function Joins({
  from,
  to,
  x: one,
  y,
  left,
  size,
}: {
  from: RiffEvent | null;
  to: RiffEvent;
  x: X;
  y: (s: number) => number;
  left: number;
  size: number;
}) {
  const into = joinsInto(from, to);
  if (!from || into.size === 0) return null;
  return (
    <g className="stroke-ink" fill="none" strokeWidth={1.6}>
      {to.notes.map((note) => {
        const pair = into.get(note.id);
        if (!note.place || !pair?.from.place || pair.how === 'hold') return null;
        const { from: origin, how } = pair;
        const x1 = Math.max(left, one(from.at) + size * 0.5);
        const x2 = one(to.at) - size * 0.5;
        const cy = y(note.place.string);
        const arc = `M${x1},${cy - size * 0.32} Q${(x1 + x2) / 2},${cy - size * 0.62} ${x2},${cy - size * 0.32}`;
        if (how === 'slide' || how === 'shift') {
          const rise = note.place.fret > (origin.place?.fret ?? 0) ? 5 : -5;
          return (
            <g key={note.id}>
              <line x1={x1} y1={cy + rise} x2={x2} y2={cy - rise} strokeWidth={to.quickSlide ? 2.6 : 1.6} />
              {how === 'slide' ? <path d={arc} strokeWidth={1.1} /> : null}
            </g>
          );
        }
        return <path key={note.id} d={arc} />;
      })}
    </g>
  );
});

interface EventFiguresProps {
  readonly event: RiffEvent;
  readonly x: X;
  readonly y: (string: number) => number;
  readonly top: number;
  /** Where the lowest line of the lane is. */
  readonly last: number;
  /** Where marks that go on to the next event end. */
  readonly until: number;
  readonly size: number;
  readonly focusNote: string | null;
  readonly allYours: boolean;
  readonly scales: LaneScales;
}

/** What is struck at one time: figures and marks. Drawn anew only where it changed itself. */
const EventFigures = memo(function EventFigures({
  event,
  x: one,
  y,
  top,
  last,
  until,
  size,
  focusNote,
  allYours,
  scales,
}: EventFiguresProps) {
  return (
    <g data-event={event.id}>
      {event.letRing ? <RingMark event={event} x={one} y={last + 15} /> : null}
      {event.notes.map((note) => (
        <Figure
          key={note.id}
          note={note}
          cx={one(event.at)}
          cy={note.place ? y(note.place.string) : last + 12}
          until={until}
          size={size}
          focused={focusNote === note.id}
          allYours={allYours}
          lineOf={y}
          band={top}
          quiet={bentAbove(event, note)}
          scales={scales}
        />
      ))}
      <g className="text-ink">
        <EventMarks event={event} x={one} y={y} top={top} bottom={last} s={1} />
      </g>
    </g>
  );
});

/** The strings with what lies on them. */
export function StringsLane({
  row,
  x: one,
  top: laneTop,
  scales,
  stringNames,
  width,
  focusNote,
  figure,
  allYours,
  next,
}: Pick<RowProps, 'row' | 'scales' | 'stringNames' | 'width' | 'focusNote' | 'figure' | 'next'> & {
  readonly allYours: boolean;
  readonly x: X;
  readonly top: number;
}) {
  const top = laneTop + LANE.over;
  const y = useCallback(
    (string: number): number => top + 11 + Math.max(0, scales.strings.indexOf(string)) * LANE.stringGap,
    [top, scales.strings],
  );
  const last = y(scales.strings.at(-1) ?? 1);
  return (
    <g>
      {scales.strings.map((s, i) => (
        <g key={s}>
          <text x={4} y={y(s) + 5} className="fill-soft font-figures text-[13px]">
            {s}
          </text>
          <text x={20} y={y(s) + 5} className="fill-ink font-figures text-[15px] font-bold">
            {stringNames[i]?.[0]}
          </text>
          {stringNames[i]?.[1] ? (
            <text x={45} y={y(s) + 5} className="fill-soft font-figures text-[13px]">
              {stringNames[i]?.[1]}
            </text>
          ) : null}
          <line
            x1={LANE.label}
            x2={width - LANE.pad / 2}
            y1={y(s)}
            y2={y(s)}
            className="stroke-line"
            strokeWidth={0.8 + i * 0.22}
            opacity={0.8}
          />
        </g>
      ))}
      <g className="text-ink">
        <RunMarks runs={articulationRuns(row.events)} x={one} y={laneTop + 9} right={width - LANE.pad} s={1} />
      </g>
      {row.events.map((event, i) => (
        <Joins
          key={`j${event.id}`}
          from={i === 0 ? row.before : (row.events[i - 1] ?? null)}
          to={event}
          x={one}
          y={y}
          left={LANE.label}
          size={figure}
        />
      ))}
      {row.events.map((event, i) => (
        <EventFigures
          key={event.id}
          event={event}
          x={one}
          y={y}
          top={laneTop + 8}
          last={last}
          until={one(markEnd(event, row.events[i + 1] ?? next))}
          size={event.grace ? figure * GRACE_SIZE : figure}
          focusNote={event.notes.some((note) => note.id === focusNote) ? focusNote : null}
          allYours={allYours}
          scales={scales}
        />
      ))}
    </g>
  );
}

/** The other place of a note, where its string is drawn and free of the note itself. */
const otherPlaceIn = (
  note: Note,
  scales: LaneScales,
): { string: number; fret: number; reason: string | null } | null => {
  const other = note.place?.otherPlace;
  if (!other || !note.place || other.string === note.place.string || !scales.strings.includes(other.string))
    return null;
  const sounds = (place: { readonly string: number; readonly fret: number }): number =>
    (scales.opens[place.string] ?? 0) + place.fret;
  return sounds(other) === sounds(note.place) ? other : null;
};

/** The figure on the string: fret, cross or node, its ink as sure as the note, with a pin where it is locked. */
function Figure({
  note,
  cx,
  cy,
  until,
  size,
  focused,
  allYours,
  lineOf,
  band,
  quiet,
  scales,
}: {
  readonly note: Note;
  readonly cx: number;
  readonly cy: number;
  readonly until: number;
  readonly size: number;
  readonly focused: boolean;
  readonly allYours: boolean;
  /** The height of a string's line. */
  readonly lineOf: (string: number) => number;
  /** Where what stands over the strings is written. */
  readonly band: number;
  /** Its bend's figure stands at another note. */
  readonly quiet: boolean;
  readonly scales: LaneScales;
}) {
  const { place } = note;
  if (!place)
    return (
      <text
        data-note={note.id}
        x={cx}
        y={cy + 5}
        textAnchor="middle"
        className="fill-trouble font-figures text-lg font-bold"
      >
        ?
      </text>
    );
  const text = noteText(note, fretText(scales, place));
  const beside = otherPlaceIn(note, scales);
  const other = beside ? (
    <OtherFigure
      x={cx}
      y={lineOf(beside.string)}
      size={size}
      text={`(${fretText(scales, beside)})`}
      reason={beside.reason}
    />
  ) : null;
  const wide = figureWidth(text, size);
  return (
    <g data-note={note.id} className="cursor-pointer">
      <rect
        x={cx - wide / 2}
        y={cy - size * 0.55}
        width={wide}
        height={size * 1.1}
        className={focused ? 'fill-chosen' : 'fill-sheet'}
        rx={3}
        stroke={focused ? 'var(--ink)' : 'none'}
        strokeWidth={1.5}
      />
      <text
        x={cx}
        y={cy + size * 0.35}
        textAnchor="middle"
        fontSize={size}
        className={`font-figures font-bold ${place.locked ? 'fill-yours' : note.certainty === 'guess' ? 'fill-none stroke-ink' : 'fill-ink'}`}
        opacity={INK[note.certainty]}
      >
        {text}
      </text>
      {other}
      {place.locked && !allYours ? <Pin x={cx + wide / 2} y={cy - size * 0.45} s={size / FIGURE} /> : null}
      {!place.locked && allYours ? <Proposed x={cx + wide / 2} y={cy - size * 0.45} s={size / FIGURE} /> : null}
      <g className="text-ink">
        <NoteMarks note={note} cx={cx} cy={cy} half={wide / 2} until={until} band={band} quiet={quiet} s={1} />
      </g>
    </g>
  );
}

/** The other place of a note, in brackets on its string. */
function OtherFigure({
  x,
  y,
  size,
  text,
  reason,
}: {
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly text: string;
  /** Why it would do, said where the pointer rests. */
  readonly reason: string | null;
}) {
  const small = size * 0.72;
  return (
    <g data-other>
      {reason ? <title>{reason}</title> : null}
      <rect
        x={x - figureWidth(text, small) / 2}
        y={y - small * 0.55}
        width={figureWidth(text, small)}
        height={small * 1.1}
        className="fill-sheet"
      />
      <text x={x} y={y + small * 0.35} textAnchor="middle" fontSize={small} className="fill-soft font-figures">
        {text}
      </text>
    </g>
  );
}

/** Proposed, where most is the instructor's. */
function Proposed({ x, y, s }: { readonly x: number; readonly y: number; readonly s: number }) {
  return <circle data-proposed cx={x} cy={y} r={2.8 * s} className="fill-sheet stroke-proposed" strokeWidth={1.4} />;
}

function RingMark({ event, x: one, y }: { event: RiffEvent; x: X; y: number }) {
  return (
    <line
      x1={one(event.at)}
      x2={one(add(event.at, event.dur)) - 4}
      y1={y}
      y2={y}
      className="stroke-ink"
      strokeWidth={1.5}
      strokeDasharray="1.5 4"
      strokeLinecap="round"
    />
  );
}

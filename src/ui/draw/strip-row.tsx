import { memo, useCallback, useDeferredValue, useMemo } from 'react';
import { callRiff } from '@/core/callout';
import type { Setup } from '@/core/instrument';
import { noteName, type Key, type Naming } from '@/core/pitch';
import { countSyllable, isOnBeat } from '@/core/rhythm';
import type { Schools } from '@/core/schools';
import { noteEnd, type Note, type RiffEvent, joinsInto } from '@/core/score';
import { add, barStart, meterAt, mul, quarter, type MeterChange, type Quarter } from '@/core/time';
import { fretText, LANE, laneTops, noteText, type LaneName, type LaneScales } from './lanes';
import { HandLane } from './hand-lane';
import { HarmonyLane, type Harmony } from './harmony-lane';
import { LaneLabel } from './lane-label';
import { bentAbove, EventMarks, articulationRuns, markEnd, NoteMarks, RunMarks } from './marks';
import { StrokeLane } from './stroke-lane';
import { sizeThatFits, spacedScale, GRACE_SIZE, figureWidth, type RowScale } from './spacing';
import { sameLane, type LaneRow, type StripRow } from './strip-layout';
import { useTurns } from './turns';

export interface RowProps {
  readonly row: StripRow;
  readonly width: number;
  readonly meters: readonly MeterChange[];
  readonly keyShown: Key | null;
  readonly scales: LaneScales;
  readonly stringNames: readonly (readonly [string, string])[];
  readonly lanes: ReadonlySet<LaneName>;
  readonly hands: ReadonlyMap<string, number>;
  /** Ids of chosen events in this row, joined; the note in focus; where the caret stands. */
  readonly chosen: string;
  readonly focusNote: string | null;
  readonly caret: Quarter | null;
  /** The stretch a typed call would fill: from and to, with a space between. */
  readonly target?: string | null;
  readonly setup: Setup;
  readonly schools: Schools;
  /** Chords and bass where the riff is played. */
  readonly harmony?: Harmony | null;
  /** Height of a fret figure in pixels: less where many notes share a row. */
  readonly figure: number;
  /** Most places are the instructor's, so proposals are marked instead. */
  readonly allYours?: boolean;
  /** Strokes of the row as text: "event:stroke:by:group", joined by spaces. */
  readonly strokes: string;
  readonly hardest: { readonly from: string; readonly to: string } | null;
  /** The first event after the row, for marks that end with the next note. */
  readonly next: RiffEvent | null;
}

/** Where the onsets of a row begin, and the room they have. */
const rowLeft = LANE.label + LANE.pad;
export const rowRoom = (width: number): number => width - rowLeft - LANE.pad;

/** What stands on the strings for a note. */
export const textIn =
  (scales: LaneScales) =>
  (note: Note): string =>
    note.place ? noteText(note, fretText(scales, note.place)) : '?';

/** The height of a row's figures: that of the others, or less where they would touch. */
export const rowFigure = (
  row: StripRow,
  meters: readonly MeterChange[],
  width: number,
  scales: LaneScales,
  most: number,
): number => sizeThatFits(row, meters, rowRoom(width), textIn(scales), most);

/** Time to pixels in a row of the strip. */
export const rowScale = (
  row: StripRow,
  meters: readonly MeterChange[],
  width: number,
  scales: LaneScales,
  size: number,
): RowScale => spacedScale(row, meters, rowLeft, rowRoom(width), { size, text: textIn(scales) });

export const FIGURE = 20;

const INK: Record<Note['certainty'], number> = { sure: 1, likely: 0.6, guess: 0.6 };

type X = (at: Quarter) => number;

interface BarsProps {
  readonly row: LaneRow;
  readonly x: X;
  readonly meters: readonly MeterChange[];
  readonly bottom: number;
  readonly right: number;
}

const Bars = memo(function Bars({ row, x: one, meters, bottom, right }: BarsProps) {
  const marks = [];
  for (let b = 0; b < row.bars; b++) {
    const bar = row.firstBar + b;
    const at = barStart(meters, bar);
    const meter = meterAt(meters, bar);
    const changed = bar === 0 || meters.some((meter) => meter.bar === bar);
    marks.push(
      <g key={bar}>
        <line
          x1={one(at) - LANE.pad}
          x2={one(at) - LANE.pad}
          y1={6}
          y2={bottom - 6}
          className="stroke-line"
          strokeWidth={1.5}
        />
        <text x={one(at) - LANE.pad + 6} y={17} className="fill-soft font-figures text-[13px] font-bold">
          {bar + 1}
          {changed ? <tspan dx={8} className="font-normal">{`${meter.beats}/${meter.unit}`}</tspan> : null}
        </text>
        {Array.from({ length: meter.beats - 1 }, (_, i) => {
          const beat = one(add(at, mul(quarter(4, meter.unit), i + 1)));
          return (
            <line
              key={i}
              x1={beat - 8}
              x2={beat - 8}
              y1={LANE.top}
              y2={bottom - 10}
              className="stroke-rule"
              strokeWidth={1}
            />
          );
        })}
      </g>,
    );
  }
  return (
    <g>
      {marks}
      <line x1={right} x2={right} y1={6} y2={bottom - 6} className="stroke-line" strokeWidth={1.5} />
    </g>
  );
}, sameLane<never, BarsProps>());

/** Pixels a sign of the names over notes takes, and between two names. */
const NAME = { sign: 7.4, gap: 5 } as const;

/**
 * Names over the notes: below where they would run into the one before, left out where there is no room for either or
 * they would only repeat it. A dead note has no name.
 */
function soundLabels(
  row: LaneRow<'at' | 'notes'>,
  one: X,
  key: Key | null,
  naming: Naming,
): ({ names: string; above: boolean } | null)[] {
  const out: ({ names: string; above: boolean } | null)[] = [];
  const free = { above: -Infinity, below: -Infinity };
  let last = '';
  for (const event of row.events) {
    const names = event.notes
      .filter((note) => !note.technique?.dead)
      .sort((a, b) => a.pitch.midi - b.pitch.midi)
      .map((note) => noteName(note.pitch.midi, { key, naming }))
      .join(' ');
    const at = one(event.at);
    const side = at >= free.above ? 'above' : at >= free.below && names !== last ? 'below' : null;
    if (names === '' || side === null) {
      out.push(null);
      continue;
    }
    out.push({ names, above: side === 'above' });
    free[side] = at + names.length * NAME.sign + NAME.gap;
    last = names;
  }
  return out;
}

/** What of an event the sound lane shows. */
type SoundShown = 'at' | 'dur' | 'notes';

interface SoundProps extends Pick<RowProps, 'scales' | 'keyShown'> {
  readonly row: LaneRow<SoundShown>;
  readonly x: X;
  readonly top: number;
}

const SoundLane = memo(
  function SoundLane({ row, x: one, top, scales, keyShown }: SoundProps) {
    const span = scales.highPitch - scales.lowPitch;
    const y = (midi: number): number => top + 20 + (1 - (midi - scales.lowPitch) / span) * (LANE.sound - 28);
    const labels = soundLabels(row, one, keyShown, scales.naming);
    return (
      <g>
        <LaneLabel y={top + LANE.sound / 2}>sound</LaneLabel>
        {row.events.map((event, i) => {
          if (event.notes.length === 0) return null;
          const pitches = event.notes.map((note) => note.pitch.midi);
          const at = one(event.at);
          const value = labels[i];
          return (
            <g key={event.id} data-event={event.id}>
              {event.notes.map((note) => {
                const end = Math.max(at + 6, one(noteEnd(event, note)) - 3);
                const hollow = note.certainty === 'guess';
                return note.place === null ? (
                  <line
                    key={note.id}
                    data-note={note.id}
                    x1={at}
                    x2={end}
                    y1={y(note.pitch.midi)}
                    y2={y(note.pitch.midi)}
                    className="stroke-trouble"
                    strokeWidth={3}
                    strokeDasharray="4 3"
                  />
                ) : (
                  <line
                    key={note.id}
                    data-note={note.id}
                    x1={at}
                    x2={end}
                    y1={y(note.pitch.midi)}
                    y2={y(note.pitch.midi)}
                    className={hollow ? 'stroke-line' : 'stroke-ink'}
                    strokeWidth={hollow ? 2 : 4.5}
                    opacity={INK[note.certainty]}
                  />
                );
              })}
              {value ? (
                <text
                  x={at}
                  y={value.above ? y(Math.max(...pitches)) - 6 : y(Math.min(...pitches)) + 15}
                  className="fill-soft text-[13px]"
                >
                  {value.names}
                </text>
              ) : null}
            </g>
          );
        })}
      </g>
    );
  },
  sameLane<SoundShown, SoundProps>('at', 'dur', 'notes'),
);

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

function StringsLane({
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

/** Locked by the instructor. */
export function Pin({ x, y, s = 1 }: { x: number; y: number; s?: number }) {
  return (
    <g className="stroke-yours fill-yours" strokeWidth={1.4}>
      <line x1={x - 3 * s} y1={y + 5 * s} x2={x} y2={y} />
      <circle cx={x} cy={y} r={2.6 * s} stroke="none" />
    </g>
  );
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

/** What of an event the count shows. */
type CountShown = 'at' | 'grace' | 'anticipated';

interface CountProps {
  readonly row: LaneRow<CountShown>;
  readonly x: X;
  readonly top: number;
  readonly meters: readonly MeterChange[];
  readonly dense: boolean;
}

const CountLane = memo(
  function CountLane({ row, x: one, top, meters, dense }: CountProps) {
    return (
      <g>
        <LaneLabel y={top + 17}>count</LaneLabel>
        {row.events.map((other) =>
          other.grace ? null : (
            <text
              key={other.id}
              x={one(other.at)}
              y={top + 17}
              textAnchor="middle"
              className={isOnBeat(meters, other.at) ? 'fill-ink font-bold' : 'fill-soft'}
              fontSize={isOnBeat(meters, other.at) ? 15 : dense ? 12.5 : 14}
            >
              {other.anticipated ? `‹${countSyllable(meters, other.at)}` : countSyllable(meters, other.at)}
            </text>
          ),
        )}
      </g>
    );
  },
  sameLane<CountShown, CountProps>('at', 'grace', 'anticipated'),
);

/** The row as it is spoken: a moment after it is seen. */
function useLabel({ row, meters, setup, schools, keyShown }: RowProps, wanted: boolean): string {
  const events = useDeferredValue(row.events);
  const bars = `Bars ${row.firstBar + 1} to ${row.firstBar + row.bars}`;
  return useMemo(
    () =>
      wanted ? callRiff({ meters, events }, setup, { schools, key: keyShown }).join(' ') || `${bars}, empty` : bars,
    [wanted, meters, events, setup, schools, keyShown, bars],
  );
}

/** Whether a row would be drawn the same: its own events, hands and marks, not those of the rest of the riff. */
function sameDrawing(a: RowProps, b: RowProps): boolean {
  const { row: rowA, hands: handsA, next: nextA, ...restA } = a;
  const { row: rowB, hands: handsB, next: nextB, ...restB } = b;
  if (
    nextA?.at !== nextB?.at ||
    rowA.before !== rowB.before ||
    rowA.index !== rowB.index ||
    rowA.bars !== rowB.bars ||
    rowA.from !== rowB.from ||
    rowA.to !== rowB.to ||
    rowA.events.length !== rowB.events.length
  )
    return false;
  if (
    !rowA.events.every(
      (event, i) => event === rowB.events[i] && (handsA === handsB || handsA.get(event.id) === handsB.get(event.id)),
    )
  )
    return false;
  return (Object.keys(restA) as (keyof typeof restA)[]).every((key) => restA[key] === restB[key]);
}

/** Where what is typed would go. */
function Target({ text, x, bottom }: { readonly text: string; readonly x: X; readonly bottom: number }) {
  const [from, to] = text.split(' ') as [Quarter, Quarter];
  return (
    <rect
      data-target={text}
      x={x(from) - 8}
      y={LANE.top - 8}
      width={Math.max(16, x(to) - x(from))}
      height={bottom - LANE.top}
      className="fill-none stroke-yours"
      strokeWidth={1.5}
      strokeDasharray="2 4"
      rx={3}
    />
  );
}

/**
 * One row of the phrase strip, all lanes on one time axis. Pure drawing: who is clicked is read from data attributes.
 */
export const StripRowView = memo(function StripRowView(props: RowProps) {
  const { row, width, meters, lanes, scales } = props;
  // A row comes into sight lane by lane, the strings first: a whole one would cost more than a frame.
  const drawn = useTurns(6);
  const label = useLabel(props, drawn > 2);
  const tops = laneTops(lanes, scales.strings.length);
  const left = LANE.label + LANE.pad;
  const figure = useMemo(
    () => rowFigure(row, meters, width, scales, props.figure),
    [row, meters, width, scales, props.figure],
  );
  const x = useMemo(() => rowScale(row, meters, width, scales, figure), [row, meters, width, scales, figure]);
  const chosen = new Set(props.chosen.split(' '));
  return (
    <svg
      width={width}
      height={tops.bottom}
      role="img"
      aria-label={label}
      data-row={row.index}
      className="block select-none"
    >
      <Bars row={row} x={x} meters={meters} bottom={tops.bottom} right={width - LANE.pad / 2} />
      {row.events.map((event) =>
        chosen.has(event.id) ? (
          <rect
            key={event.id}
            x={x(event.at) - 10}
            y={LANE.top - 4}
            width={Math.max(20, x(add(event.at, event.dur)) - x(event.at))}
            height={tops.bottom - LANE.top - 4}
            className="fill-chosen"
            opacity={0.55}
            rx={2}
          />
        ) : null,
      )}
      {props.target ? <Target text={props.target} x={x} bottom={tops.bottom} /> : null}
      {props.caret !== null ? (
        <line
          x1={x(props.caret)}
          x2={x(props.caret)}
          y1={LANE.top - 8}
          y2={tops.bottom - 8}
          className="stroke-yours"
          strokeWidth={2}
          strokeDasharray="3 3"
        />
      ) : null}
      {drawn > 3 && lanes.has('sound') ? (
        <SoundLane row={row} x={x} top={tops.sound} scales={scales} keyShown={props.keyShown} />
      ) : null}
      {drawn > 1 && lanes.has('strings') ? (
        <StringsLane
          row={row}
          x={x}
          top={tops.strings}
          scales={scales}
          stringNames={props.stringNames}
          width={width}
          focusNote={props.focusNote}
          figure={figure}
          allYours={props.allYours === true}
          next={props.next}
        />
      ) : null}
      {drawn > 4 && lanes.has('hand') ? (
        <HandLane row={row} x={x} top={tops.hand} hands={props.hands} scales={scales} right={width - LANE.pad} />
      ) : null}
      {drawn > 4 && lanes.has('stroke') ? (
        <StrokeLane row={row} x={x} top={tops.stroke} strokes={props.strokes} hardest={props.hardest} />
      ) : null}
      {drawn > 5 && lanes.has('count') ? (
        <CountLane row={row} x={x} top={tops.count} meters={meters} dense={figure < 16} />
      ) : null}
      {lanes.has('harmony') ? (
        <HarmonyLane
          {...{ row, x, left }}
          top={tops.harmony}
          right={width - LANE.pad}
          harmony={props.harmony ?? null}
          naming={props.schools.notes}
        />
      ) : null}
    </svg>
  );
}, sameDrawing);

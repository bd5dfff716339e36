import { memo, useDeferredValue, useMemo } from 'react';
import { callRiff } from '@/core/callout';
import { add, barStart, meterAt, mul, quarter, type MeterChange, type Quarter } from '@/core/time';
import { LANE, laneTops } from './lanes';
import { HandLane } from './hand-lane';
import { HarmonyLane } from './harmony-lane';
import { StrokeLane } from './stroke-lane';
import { sameLane, type LaneRow } from './strip-layout';
import { useTurns } from './turns';

import { CountLane } from './count-lane';
import { SoundLane } from './sound-lane';
import { StringsLane } from './strings-lane';
import { rowFigure, rowScale, type RowProps, type X } from './strip-scale';

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
      {(props.asked ? props.asked.split(' ') : []).map((id) => {
        const event = row.events.find((one) => one.id === id);
        return event ? (
          <text
            key={id}
            data-asked={id}
            x={x(event.at)}
            y={tops.strings + LANE.over - 4}
            textAnchor="middle"
            className="fill-question font-figures text-[15px] font-bold"
          >
            ?
          </text>
        ) : null;
      })}
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
          keyShown={props.keyShown}
        />
      ) : null}
    </svg>
  );
}, sameDrawing);

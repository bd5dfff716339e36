import { scaleLinear } from 'd3-scale';
import { area, curveStepAfter } from 'd3-shape';
import { memo } from 'react';
import type { RiffEvent } from '@/core/score';
import { add, type Quarter } from '@/core/time';
import { LANE, type LaneScales } from './lanes';
import { sameLane, type LaneRow } from './strip-layout';

/** What of an event the lane shows. */
type Shown = 'at' | 'dur' | 'notes';

interface Props {
  readonly row: LaneRow<Shown>;
  readonly x: (at: Quarter) => number;
  readonly top: number;
  readonly hands: ReadonlyMap<string, number>;
  readonly scales: LaneScales;
  readonly right: number;
}

/**
 * The hand ribbon: its height is the neck, low frets below. The band is the hand from the index
 * to a finger three frets on; it steps where the hand shifts. Digits say which finger presses,
 * at the height of their fret. Where only open strings sound, the band is dotted: the hand is free.
 */
export const HandLane = memo(function HandLane({ row, x, top, hands, scales, right }: Props) {
  const y = scaleLinear([scales.lowFret - 0.6, scales.highFret + 0.6], [top + LANE.hand - 4, top + 6]);
  const points = row.events.map((one) => ({
    at: x(one.at) - 9,
    hand: (hands.get(one.id) ?? 0) > 0 ? (hands.get(one.id) ?? 0) + scales.base : 0,
    open: one.notes.every((note) => !note.place || note.place.fret === 0),
    id: one.id,
  }));
  const known = points.filter((one) => one.hand > 0);
  const last = row.events.at(-1);
  const end = last ? Math.min(right, x(add(last.at, last.dur)) - 9) : right;
  const ribbon = area<{ at: number; hand: number }>()
    .x((one) => one.at)
    .y0((one) => y(one.hand - 0.5))
    .y1((one) => y(one.hand + 3.5))
    .curve(curveStepAfter);
  const tail = known.at(-1);
  const ticks = [...new Set([scales.lowFret, Math.round((scales.lowFret + scales.highFret) / 2), scales.highFret])];
  return (
    <g>
      <text x={4} y={top + LANE.hand / 2} className="fill-soft text-[13px] font-semibold">
        hand
      </text>
      {ticks.map((f) => (
        <g key={f}>
          <text x={LANE.label - 8} y={y(f) + 4} textAnchor="end" className="fill-soft font-figures text-[12px]">
            {scales.counting === 'nut' ? f : f - scales.base}
          </text>
          <line x1={LANE.label} x2={right} y1={y(f)} y2={y(f)} className="stroke-rule" strokeWidth={1} />
        </g>
      ))}
      {tail ? (
        <path
          d={ribbon([...known, { at: Math.max(end, tail.at + 12), hand: tail.hand }]) ?? ''}
          className="fill-proposed-wash stroke-proposed"
          strokeWidth={1.4}
        />
      ) : null}
      {points.map((one, i) => {
        if (!one.open || one.hand === 0) return null;
        const to = points[i + 1]?.at ?? end;
        return (
          <rect
            key={one.id}
            x={one.at + 1}
            y={y(one.hand + 3.5) + 1}
            width={Math.max(2, to - one.at - 2)}
            height={Math.max(2, y(one.hand - 0.5) - y(one.hand + 3.5) - 2)}
            className="fill-sheet stroke-proposed"
            strokeWidth={1}
            strokeDasharray="2 4"
          />
        );
      })}
      {points.map((one, i) => {
        const before = points[i - 1];
        if (!before || before.hand === 0 || one.hand === 0 || before.hand === one.hand) return null;
        return (
          <text
            key={one.id}
            x={one.at + 2}
            y={y(Math.max(one.hand, before.hand) + 3.5) - 2}
            className="fill-proposed font-figures text-[12px] font-bold"
          >
            {one.hand > before.hand ? `+${one.hand - before.hand}` : `−${before.hand - one.hand}`}
          </text>
        );
      })}
      {row.events.flatMap((one) => {
        const fingers = fingersByFret(one, scales.nuts).sort((a, b) => b.fret - a.fret);
        const heights = spread(fingers.map(({ fret }) => y(fret)));
        return fingers.map(({ fret, digits, yours }, i) => (
          <text
            key={`${one.id}.${fret}`}
            x={x(one.at)}
            y={(heights[i] ?? 0) + 4.5}
            textAnchor="middle"
            className={`font-figures text-[14px] font-bold ${yours ? 'fill-yours' : 'fill-proposed'}`}
          >
            {digits}
          </text>
        ));
      })}
    </g>
  );
}, sameHands);

const sameLooks = sameLane<Shown, Omit<Props, 'hands'>>('at', 'dur', 'notes');

/** Of all hands only those of its own row are looked at. */
function sameHands({ hands: a, ...before }: Props, { hands: b, ...after }: Props): boolean {
  return sameLooks(before, after) && (a === b || after.row.events.every((one) => a.get(one.id) === b.get(one.id)));
}

/** Pixels between digits over one another. */
const DIGIT_GAP = 11.5;

/** Heights from top to bottom, moved apart so far that digits don't touch, about where they were. */
function spread(heights: readonly number[]): number[] {
  const out: number[] = [];
  for (const height of heights) out.push(Math.max(height, (out.at(-1) ?? -Infinity) + DIGIT_GAP));
  const shift = out.reduce((sum, height, i) => sum + height - (heights[i] ?? 0), 0) / Math.max(1, out.length);
  return out.map((height) => height - shift);
}

const fingerMark = (one: number | string): string => (one === 5 ? 'T' : String(one));

/** Fingers of an event by the fret from the nut they press: those on one fret stand side by side. */
function fingersByFret(
  event: Pick<RiffEvent, 'notes'>,
  nuts: readonly number[],
): { fret: number; digits: string; yours: boolean }[] {
  const frets = new Map<number, { digits: Set<number | string>; yours: boolean }>();
  for (const { place } of event.notes) {
    if (!place?.finger) continue;
    const fret = place.fret + (nuts[place.string] ?? 0);
    const at = frets.get(fret) ?? { digits: new Set<number | string>(), yours: false };
    // "1 or 2" stands as one mark.
    at.digits.add(
      place.otherFinger === undefined ? place.finger : `${fingerMark(place.finger)}/${fingerMark(place.otherFinger)}`,
    );
    at.yours ||= place.fingerBy === 'instructor';
    frets.set(fret, at);
  }
  return [...frets].map(([fret, { digits, yours }]) => ({
    fret,
    digits: [...digits].sort().map(fingerMark).join(''),
    yours,
  }));
}

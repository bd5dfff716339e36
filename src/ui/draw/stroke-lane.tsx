import { memo } from 'react';
import type { Struck } from '@/core/rhythm';
import { sameLane, type LaneRow } from './strip-layout';
import { LANE } from './lanes';
import { StrokeSign } from './stroke-sign';
import type { Quarter } from '@/core/time';

/** What of an event the lane shows. */
type Shown = 'at' | 'grace' | 'notes';

interface Props {
  readonly row: LaneRow<Shown>;
  readonly x: (at: Quarter) => number;
  readonly top: number;
  /** As text: "event:stroke:by:group", joined by spaces. */
  readonly strokes: string;
  /** First and last event of the hardest run, for the line under it. */
  readonly hardest: { readonly from: string; readonly to: string } | null;
}

/**
 * How the picking hand goes: a sign each stroke, a line under the notes one stroke carries, a wavy line under the
 * hardest run.
 */
export const StrokeLane = memo(
  function StrokeLane({ row, x, top, strokes: told, hardest }: Props) {
    const strokes = strokesIn(told);
    const middle = top + 9;
    const groups = new Map<number, { from: number; to: number; count: number }>();
    for (const event of row.events) {
      const struck = strokes.get(event.id);
      if (!struck || event.notes.length === 0) continue;
      const at = groups.get(struck.group);
      if (at) {
        at.to = x(event.at);
        at.count++;
      } else groups.set(struck.group, { from: x(event.at), to: x(event.at), count: 1 });
    }
    const run = hardest
      ? { from: row.events.find((one) => one.id === hardest.from), to: row.events.find((one) => one.id === hardest.to) }
      : null;
    const inRun = run && (run.from || run.to);
    return (
      <g>
        <text x={4} y={top + 15} className="fill-soft text-[13px] font-semibold">
          stroke
        </text>
        {row.events.map((event) => {
          const struck = strokes.get(event.id);
          if (!struck?.stroke) return null;
          return (
            <g
              key={event.id}
              data-event={event.id}
              data-stroke={struck.stroke}
              className={struck.by === 'instructor' ? 'text-yours' : 'text-ink'}
            >
              <StrokeSign stroke={struck.stroke} x={x(event.at)} y={middle} s={event.grace ? 0.65 : 0.9} />
            </g>
          );
        })}
        {[...groups]
          .filter(([, one]) => one.count > 1)
          .map(([id, one]) => (
            <line
              key={id}
              x1={one.from - 4}
              x2={one.to + 4}
              y1={top + 19}
              y2={top + 19}
              className="stroke-proposed"
              strokeWidth={2}
            />
          ))}
        {inRun ? (
          <line
            x1={run.from ? x(run.from.at) - 6 : LANE.label}
            x2={run.to ? x(run.to.at) + 6 : x(row.to)}
            y1={top + 22.5}
            y2={top + 22.5}
            className="stroke-question"
            strokeWidth={1.6}
            strokeDasharray="2 2"
          />
        ) : null}
      </g>
    );
  },
  sameLane<Shown, Props>('at', 'grace', 'notes'),
);

function strokesIn(text: string): ReadonlyMap<string, Struck> {
  return new Map(
    text
      .split(' ')
      .filter(Boolean)
      .map((part): [string, Struck] => {
        const [event = '', stroke = '', by = '', group = '0'] = part.split(':');
        return [
          event,
          {
            event,
            stroke: stroke === '' ? null : (stroke as Struck['stroke']),
            by: by === '' ? null : (by as Struck['by']),
            group: Number(group),
          },
        ];
      }),
  );
}

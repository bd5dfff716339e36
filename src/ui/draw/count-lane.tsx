import { memo } from 'react';
import { countSyllable, isOnBeat } from '@/core/rhythm';
import type { MeterChange } from '@/core/time';
import { LaneLabel } from './lane-label';
import { sameLane, type LaneRow } from './strip-layout';
import type { X } from './strip-scale';

/** What of an event the count shows. */
type CountShown = 'at' | 'grace' | 'anticipated';

interface CountProps {
  readonly row: LaneRow<CountShown>;
  readonly x: X;
  readonly top: number;
  readonly meters: readonly MeterChange[];
  readonly dense: boolean;
}

export const CountLane = memo(
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

import { type RiffEvent } from '@/core/score';

/** A stroke as the sign on paper. */
export function StrokeSign({
  stroke,
  x,
  y,
  s,
}: {
  readonly stroke: NonNullable<RiffEvent['stroke']>;
  readonly x: number;
  readonly y: number;
  readonly s: number;
}) {
  const letter = { thumb: 'p', index: 'i', middle: 'm', third: 'a', slap: 'S', pop: 'P' }[stroke as string];
  if (letter)
    return (
      <text
        x={x}
        y={y + 5 * s}
        textAnchor="middle"
        fontSize={14 * s}
        fontWeight={700}
        fill="currentColor"
        stroke="none"
        fontStyle={letter === letter.toLowerCase() ? 'italic' : 'normal'}
      >
        {letter}
      </text>
    );
  if (stroke === 'down')
    return (
      <path
        d={`M${x - 4.5 * s},${y + 5 * s} V${y - 4 * s} H${x + 4.5 * s} V${y + 5 * s} M${x - 4.5 * s},${y - 2.6 * s} H${x + 4.5 * s}`}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.8 * s}
      />
    );
  if (stroke === 'up')
    return (
      <path
        d={`M${x - 4.5 * s},${y - 5 * s} L${x},${y + 6 * s} L${x + 4.5 * s},${y - 5 * s}`}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.8 * s}
      />
    );
  if (stroke === 'same')
    return (
      <path
        d={`M${x - 5 * s},${y} h${10 * s} m${-3 * s},${-3 * s} l${3 * s},${3 * s} l${-3 * s},${3 * s}`}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.5 * s}
      />
    );
  const down = stroke === 'brush-down';
  const tip = down ? y + 7 * s : y - 7 * s;
  const back = down ? -4 * s : 4 * s;
  return (
    <path
      d={`M${x},${down ? y - 7 * s : y + 7 * s} V${tip} M${x - 3.5 * s},${tip + back} L${x},${tip} L${x + 3.5 * s},${tip + back}`}
      fill="none"
      stroke="currentColor"
      strokeWidth={1.7 * s}
    />
  );
}

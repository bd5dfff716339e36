import { endOf, type RiffEvent } from '@/core/score';
import { type Quarter } from '@/core/time';

type X = (at: Quarter) => number;

/** Runs of events played in one manner, as one word and a dashed line: "P.M. - - -". */
export interface Run {
  readonly text: string;
  readonly from: Quarter;
  readonly to: Quarter;
}

/** Runs of palm muting, choking and the slide bar. A run that comes in from the row before goes on without its word. */
export function articulationRuns(events: readonly RiffEvent[]): Run[] {
  const of = (text: string, has: (event: RiffEvent) => boolean): Run[] => {
    const runs: { text: string; from: Quarter; to: Quarter }[] = [];
    events.forEach((event, i) => {
      if (!has(event)) return;
      const last = runs.at(-1);
      const before = events[i - 1];
      if (last && before && has(before)) last.to = endOf(event);
      else runs.push({ text, from: event.at, to: endOf(event) });
    });
    return runs;
  };
  return [
    ...of('P.M.', (event) => event.mute === 'palm'),
    ...of('choked', (event) => event.mute === 'choked'),
    ...of('slide bar', (event) => event.slideBar === true),
  ];
}

export function RunMarks({
  runs,
  x: one,
  y,
  right,
  s,
}: {
  readonly runs: readonly Run[];
  readonly x: X;
  readonly y: number;
  readonly right: number;
  readonly s: number;
}) {
  return (
    <g fill="currentColor" stroke="currentColor">
      {runs.map((run) => {
        const from = one(run.from) - 7 * s;
        const to = Math.min(right, one(run.to) - 9 * s);
        const word = run.text.length * 6.4 * s + 4 * s;
        return (
          <g key={`${run.text}${run.from}`}>
            <text x={from} y={y} fontSize={11.5 * s} stroke="none" fontWeight={600}>
              {run.text}
            </text>
            {to > from + word + 4 * s ? (
              <path
                d={`M${from + word},${y - 3.5 * s} H${to} v${4 * s}`}
                fill="none"
                strokeWidth={1.1 * s}
                strokeDasharray={`${4 * s} ${3 * s}`}
              />
            ) : null}
          </g>
        );
      })}
    </g>
  );
}

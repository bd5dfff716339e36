import type { Sign, StaffBar } from '@/core/staff';
import { type Quarter } from '@/core/time';

/** Height of a stem under the tab. */
export const STEM = 24;

const flagsOf = (sign: Sign): number => (sign.base >= 8 ? Math.log2(sign.base) - 2 : 0);
const isRest = (sign: Sign): boolean => sign.heads.length === 0 && !sign.slash;

/** The lengths of a bar: stems, beams and flags, dots, ties, tuplets, rests. */
export function Rhythm({
  bar,
  x,
  y,
}: {
  readonly bar: StaffBar;
  readonly x: (at: Quarter) => number;
  readonly y: number;
}) {
  const beamed = new Map<number, { readonly group: readonly number[]; readonly at: number }>();
  for (const group of bar.beams) group.forEach((i, at) => beamed.set(i, { group, at }));
  const foot = y + STEM;
  return (
    <g stroke="currentColor" strokeWidth={1}>
      {bar.signs.map((sign, i) => {
        const whole = isRest(sign) && bar.signs.length === 1;
        const px = whole ? (x(bar.from) + x(bar.to)) / 2 : x(sign.at);
        if (isRest(sign))
          return <Rest key={i} base={whole ? 1 : sign.base} dots={whole ? 0 : sign.dots} x={px} y={y + STEM / 2} />;
        const beam = beamed.get(i);
        const flags = flagsOf(sign);
        const nextIndex = beam?.group[beam.at + 1];
        const next = nextIndex === undefined ? undefined : bar.signs[nextIndex];
        const beforeIndex = beam?.group[beam.at - 1];
        const before = beforeIndex === undefined ? undefined : bar.signs[beforeIndex];
        const after = bar.signs[i + 1];
        return (
          <g key={i}>
            {sign.base >= 2 ? <line x1={px} x2={px} y1={sign.base === 2 ? y + STEM / 2 : y} y2={foot} /> : null}
            {Array.from({ length: flags }, (_, k) => {
              const fy = foot - k * 5;
              if (next && k < flagsOf(next))
                return <line key={k} x1={px} x2={x(next.at)} y1={fy} y2={fy} strokeWidth={2.6} />;
              if (before && k < flagsOf(before)) return null;
              return beam ? (
                <line
                  key={k}
                  x1={before && !next ? px - 6 : px}
                  x2={before && !next ? px : px + 6}
                  y1={fy}
                  y2={fy}
                  strokeWidth={2.6}
                />
              ) : (
                <line key={k} x1={px} x2={px + 6} y1={fy} y2={fy - 6} strokeWidth={1.4} />
              );
            })}
            {Array.from({ length: sign.dots }, (_, k) => (
              <circle key={`d${k}`} cx={px + 5 + 4 * k} cy={foot - 3} r={1.3} fill="currentColor" stroke="none" />
            ))}
            {sign.tied ? (
              <path
                d={`M${px + 2},${foot + 4} Q${(px + (after ? x(after.at) : x(bar.to))) / 2},${foot + 9} ${(after ? x(after.at) : x(bar.to)) - 2},${foot + 4}`}
                fill="none"
                strokeWidth={0.9}
              />
            ) : null}
          </g>
        );
      })}
      {bar.tuplets.map((one) => {
        const from = bar.signs[one.from];
        const to = bar.signs[one.to];
        if (!from || !to) return null;
        const middle = (x(from.at) + x(to.at)) / 2;
        return (
          <text
            key={one.from}
            x={middle}
            y={foot + 10}
            fontSize={9}
            fontStyle="italic"
            textAnchor="middle"
            stroke="none"
            fill="currentColor"
          >
            {one.notes}
          </text>
        );
      })}
    </g>
  );
}

/** Plain rest signs: a block for whole and half, a stroke for a quarter, a hook for shorter ones. */
function Rest({
  base,
  dots,
  x,
  y,
}: {
  readonly base: number;
  readonly dots: number;
  readonly x: number;
  readonly y: number;
}) {
  const hooks = base >= 8 ? Math.log2(base) - 2 : 0;
  return (
    <g stroke="currentColor" fill="none" strokeWidth={1.4}>
      {base === 1 ? <rect x={x - 5} y={y - 4} width={10} height={4} fill="currentColor" stroke="none" /> : null}
      {base === 2 ? <rect x={x - 5} y={y} width={10} height={4} fill="currentColor" stroke="none" /> : null}
      {base === 4 ? (
        <path d={`M${x - 2},${y - 8} L${x + 3},${y - 3} L${x - 2},${y + 1} L${x + 3},${y + 6} q-6,-1 -3,4`} />
      ) : null}
      {hooks > 0 ? <path d={`M${x + 4},${y - 6} L${x},${y + 8}`} /> : null}
      {Array.from({ length: hooks }, (_, k) => (
        <path key={k} d={`M${x + 4 - k * 1.5},${y - 6 + k * 5} q-4,4 -7,1`} />
      ))}
      {Array.from({ length: dots }, (_, k) => (
        <circle key={`d${k}`} cx={x + 8 + 3 * k} cy={y - 1} r={1.2} fill="currentColor" stroke="none" />
      ))}
    </g>
  );
}

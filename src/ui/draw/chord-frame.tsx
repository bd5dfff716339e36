import type { ChordFrame } from '@/core/harmony';

interface Props {
  readonly frame: Pick<ChordFrame, 'frets' | 'fingers'>;
  readonly name: string;
  /** Written under it where it sounds otherwise than it is called. */
  readonly sounds?: string | null;
  readonly mirrored?: boolean;
}

const GAP = 13;
const ROW = 17;

/**
 * A chord frame as printed since ever: strings upright, thick at the left, fingers on their frets, o open, x not
 * struck.
 */
export function ChordFrameView({ frame, name, sounds = null, mirrored = false }: Props) {
  const { frets, fingers } = frame;
  const stopped = frets.filter((fret): fret is number => fret !== null && fret > 0);
  const high = Math.max(4, ...stopped);
  const first = high > 4 ? Math.min(...stopped) : 1;
  const rows = Math.max(4, high - first + 1);
  const width = (frets.length - 1) * GAP + 30;
  const x = (i: number): number => 15 + (mirrored ? frets.length - 1 - i : i) * GAP;
  const top = 34;
  const wording = frets
    .map(
      (fret, i) =>
        `string ${frets.length - i} ${fret === null ? 'not struck' : fret === 0 ? 'open' : `fret ${fret}, finger ${fingers[i] ?? '?'}`}`,
    )
    .join(', ');
  return (
    <svg
      width={width + 8}
      height={top + rows * ROW + (sounds ? 22 : 8)}
      role="img"
      aria-label={`${name}: ${wording}`}
      className="block"
    >
      <text x={width / 2} y={13} textAnchor="middle" className="fill-ink text-[15px] font-bold">
        {name}
      </text>
      {Array.from({ length: rows + 1 }, (_, r) => (
        <line
          key={r}
          x1={15}
          x2={15 + (frets.length - 1) * GAP}
          y1={top + r * ROW}
          y2={top + r * ROW}
          className="stroke-ink"
          strokeWidth={r === 0 && first === 1 ? 3 : 1}
        />
      ))}
      {frets.map((_, i) => (
        <line key={i} x1={x(i)} x2={x(i)} y1={top} y2={top + rows * ROW} className="stroke-ink" strokeWidth={1} />
      ))}
      {first > 1 ? (
        <text x={width - 8} y={top + ROW * 0.5 + 4} className="fill-soft font-figures text-[12px]">
          {first}
        </text>
      ) : null}
      {frets.map((fret, i) => {
        if (fret === null)
          return (
            <text key={i} x={x(i)} y={top - 5} textAnchor="middle" className="fill-soft font-figures text-[13px]">
              ×
            </text>
          );
        if (fret === 0)
          return <circle key={i} cx={x(i)} cy={top - 9} r={3.6} className="fill-none stroke-ink" strokeWidth={1.4} />;
        const cy = top + (fret - first + 0.5) * ROW;
        return (
          <g key={i}>
            <circle cx={x(i)} cy={cy} r={6.6} className="fill-ink" />
            {fingers[i] ? (
              <text x={x(i)} y={cy + 4} textAnchor="middle" className="fill-sheet font-figures text-[11px] font-bold">
                {fingers[i]}
              </text>
            ) : null}
          </g>
        );
      })}
      {sounds ? (
        <text
          x={width / 2}
          y={top + rows * ROW + 17}
          textAnchor="middle"
          className="fill-yours text-[14px] font-semibold"
        >
          {sounds}
        </text>
      ) : null}
    </svg>
  );
}

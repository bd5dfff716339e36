import { scaleLinear } from 'd3-scale';

interface Props {
  /** Cents from the target, or null where nothing is heard. */
  readonly cents: number | null;
  readonly verdict: 'in tune' | 'flat' | 'sharp' | 'far' | null;
  readonly width: number;
}

const REACH = 50;
const HEIGHT = 150;

/**
 * The beam: a ruler of cents with the target as a bridge in the middle. What sounds is a string laid
 * across, which sinks on the flat side and rises on the sharp, and lies level where it is in tune.
 */
export function TunerBeam({ cents, verdict, width }: Props) {
  const one = scaleLinear([-REACH, REACH], [30, width - 30]).clamp(true);
  const mid = one(0);
  const base = HEIGHT - 38;
  const tone =
    verdict === 'in tune'
      ? 'stroke-proposed fill-proposed'
      : verdict === null || verdict === 'far'
        ? 'stroke-line fill-line'
        : 'stroke-yours fill-yours';
  const at = one(cents ?? 0);
  const tilt = cents === null || verdict === 'far' ? 0 : -Math.max(-REACH, Math.min(REACH, cents)) * 0.55;
  return (
    <svg width={width} height={HEIGHT} aria-hidden className="block">
      <rect
        x={one(-4)}
        y={26}
        width={one(4) - one(-4)}
        height={base - 26}
        className={verdict === 'in tune' ? 'fill-proposed-wash' : 'fill-wood'}
      />
      {Array.from({ length: 21 }, (_, i) => i * 5 - REACH).map((c) => (
        <g key={c}>
          <line
            x1={one(c)}
            x2={one(c)}
            y1={base}
            y2={base - (c % 25 === 0 ? 14 : c % 10 === 0 ? 9 : 5)}
            className="stroke-line"
            strokeWidth={c === 0 ? 2.5 : 1}
          />
          {c % 25 === 0 ? (
            <text x={one(c)} y={base + 20} textAnchor="middle" className="fill-soft font-figures text-[14px]">
              {c > 0 ? `+${c}` : c < 0 ? `−${-c}` : '0'}
            </text>
          ) : null}
        </g>
      ))}
      <path d={`M${mid - 9},${base} L${mid},${base - 22} L${mid + 9},${base} Z`} className="fill-ink" />
      {cents !== null && verdict !== 'far' ? (
        <g className={tone}>
          <line x1={30} x2={width - 30} y1={62 - tilt} y2={62 + tilt} strokeWidth={2} opacity={0.75} />
          <line x1={at} x2={at} y1={30} y2={base - 2} strokeWidth={5} strokeLinecap="round" />
          <circle cx={at} cy={26} r={9} stroke="none" />
        </g>
      ) : (
        <line x1={30} x2={width - 30} y1={62} y2={62} className="stroke-line" strokeWidth={1.5} strokeDasharray="2 6" />
      )}
    </svg>
  );
}

import { max } from 'd3-array';
import { scaleLinear, scalePoint } from 'd3-scale';
import { line } from 'd3-shape';

export interface TensionLine {
  readonly name: string;
  /** Per string number; null where it can't be known. */
  readonly newtons: readonly { readonly string: number; readonly newtons: number | null }[];
}

/** Marks and dashes tell the lines apart without colour. */
const STYLES = [
  { dash: undefined, shape: 'circle', tone: 'stroke-ink fill-ink' },
  { dash: '7 4', shape: 'square', tone: 'stroke-yours fill-yours' },
  { dash: '2 4', shape: 'diamond', tone: 'stroke-proposed fill-proposed' },
  { dash: '9 3 2 3', shape: 'cross', tone: 'stroke-question fill-question' },
] as const;

interface Props {
  readonly lines: readonly TensionLine[];
  /** Below this a string is floppy. */
  readonly floppy: number;
  readonly width: number;
}

const LEFT = 46;
const TOP = 14;
const HEIGHT = 250;

/** Tension across the strings, thick at the left, for some set-ups at once. */
export function TensionChart({ lines, floppy, width }: Props) {
  const count = max(lines, (one) => max(one.newtons, (one) => one.string) ?? 0) ?? 6;
  const strings = Array.from({ length: count }, (_, i) => count - i);
  const other = scalePoint<number>(strings, [LEFT + 24, width - 20]);
  const most = max(lines, (one) => max(one.newtons, (one) => one.newtons ?? 0) ?? 0) ?? 100;
  const y = scaleLinear([0, most * 1.12], [HEIGHT - 30, TOP]).nice(5);
  const path = line<{ readonly string: number; readonly newtons: number | null }>()
    .defined((one) => one.newtons !== null)
    .x((one) => other(one.string) ?? 0)
    .y((one) => y(one.newtons ?? 0));
  const wording = lines
    .map(
      (one) =>
        `${one.name}: ${one.newtons.map((one) => `string ${one.string} ${one.newtons === null ? 'unknown' : `${Math.round(one.newtons)} newtons`}`).join(', ')}`,
    )
    .join('. ');
  return (
    <svg width={width} height={HEIGHT} role="img" aria-label={`Tension across strings. ${wording}`} className="block">
      <rect
        x={LEFT}
        y={y(floppy)}
        width={width - LEFT - 6}
        height={Math.max(0, y(0) - y(floppy))}
        className="fill-question-wash"
        opacity={0.6}
      />
      <text x={width - 10} y={y(floppy) + 14} textAnchor="end" className="fill-question text-[12px]">
        floppy
      </text>
      {y.ticks(5).map((t) => (
        <g key={t}>
          <line x1={LEFT} x2={width - 6} y1={y(t)} y2={y(t)} className="stroke-rule" />
          <text x={LEFT - 6} y={y(t) + 4} textAnchor="end" className="fill-soft font-figures text-[13px]">
            {t}
            {t === y.ticks(5).at(-1) ? ' N' : ''}
          </text>
        </g>
      ))}
      {strings.map((s) => (
        <text
          key={s}
          x={other(s)}
          y={HEIGHT - 10}
          textAnchor="middle"
          className="fill-ink font-figures text-[14px] font-bold"
        >
          {s}
        </text>
      ))}
      {lines.map((one, i) => {
        const style = STYLES[i % STYLES.length] ?? STYLES[0];
        return (
          <g key={`${i}${one.name}`}>
            <path
              d={path(one.newtons) ?? ''}
              className={`${style.tone} fill-none!`}
              strokeWidth={2}
              strokeDasharray={style.dash}
            />
            {one.newtons.map((one) =>
              one.newtons === null ? null : (
                <Mark
                  key={one.string}
                  shape={style.shape}
                  x={other(one.string) ?? 0}
                  y={y(one.newtons)}
                  className={style.tone}
                />
              ),
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** The mark of a line, for the chart and its legend. */
export function LineMark({ index }: { readonly index: number }) {
  const style = STYLES[index % STYLES.length] ?? STYLES[0];
  return (
    <svg width={36} height={14} aria-hidden className="inline-block">
      <line x1={0} x2={36} y1={7} y2={7} className={style.tone} strokeWidth={2} strokeDasharray={style.dash} />
      <Mark shape={style.shape} x={18} y={7} className={style.tone} />
    </svg>
  );
}

function Mark({
  shape,
  x,
  y,
  className,
}: {
  readonly shape: (typeof STYLES)[number]['shape'];
  readonly x: number;
  readonly y: number;
  readonly className: string;
}) {
  if (shape === 'circle') return <circle cx={x} cy={y} r={4.5} className={className} />;
  if (shape === 'square') return <rect x={x - 4} y={y - 4} width={8} height={8} className={className} />;
  if (shape === 'diamond')
    return <path d={`M${x},${y - 5.5}L${x + 5.5},${y}L${x},${y + 5.5}L${x - 5.5},${y}Z`} className={className} />;
  return (
    <path
      d={`M${x - 4.5},${y - 4.5}L${x + 4.5},${y + 4.5}M${x + 4.5},${y - 4.5}L${x - 4.5},${y + 4.5}`}
      className={className}
      strokeWidth={2.4}
    />
  );
}

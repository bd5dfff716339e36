import { fretDistance } from '@/core/instrument';
import { CAPO_PLACE_WORDS, CAPO_RANGE, type Schools } from '@/core/schools';

/** Where the capo goes: the space before its fret to scale, and the range the school allows in it. */
export function CapoPlace({
  fret,
  scaleMm,
  place,
  strings,
  held,
}: {
  readonly fret: number;
  readonly scaleMm: number;
  readonly place: Schools['capoPlace'];
  readonly strings: number;
  readonly held: readonly number[] | null;
}) {
  const from = fretDistance(scaleMm, Math.max(0, fret - 1));
  const to = fretDistance(scaleMm, fret);
  const next = fretDistance(scaleMm, fret + 1);
  const width = 300;
  // To a hundredth of a pixel: server and browser differ in the last digits of a power.
  const x = (mm: number): number => Math.round(100 * (26 + ((mm - from) / (next - from)) * (width - 40))) / 100;
  const [a, b] = CAPO_RANGE[place];
  const at = (share: number): number => from + share * (to - from);
  const gap = 11;
  const top = 16;
  const bottom = top + (strings - 1) * gap;
  const rows = Array.from({ length: strings }, (_, i) => i + 1);
  const on = rows.filter((s) => held === null || held.includes(s));
  const y = (s: number): number => top + (s - 1) * gap;
  const low = y(on[0] ?? 1) - 5;
  const high = y(on.at(-1) ?? strings) + 5;
  return (
    <svg
      width={width}
      height={bottom + 34}
      role="img"
      aria-label={`Capo before fret ${fret}: ${CAPO_PLACE_WORDS[place]} The space is ${(to - from).toFixed(0)} mm wide.`}
      className="block"
    >
      <rect x={x(from)} y={top - 8} width={x(next) - x(from)} height={bottom - top + 16} className="fill-wood" />
      <rect
        x={x(at(a))}
        y={low}
        width={x(at(b)) - x(at(a))}
        height={high - low}
        className="fill-proposed-wash stroke-proposed"
        strokeDasharray="4 3"
      />
      <rect x={x(at((a + b) / 2)) - 6} y={low - 3} width={12} height={high - low + 6} rx={5} className="fill-soft" />
      {[from, to, next].map((mm, i) => (
        <line
          key={mm}
          x1={x(mm)}
          x2={x(mm)}
          y1={top - 8}
          y2={bottom + 8}
          className={i === 1 ? 'stroke-ink' : 'stroke-line'}
          strokeWidth={i === 0 && fret === 1 ? 6 : 3}
        />
      ))}
      {rows.map((s) => (
        <line key={s} x1={8} x2={x(next)} y1={y(s)} y2={y(s)} className="stroke-soft" strokeWidth={0.8 + s * 0.25} />
      ))}
      <text
        x={(x(from) + x(to)) / 2}
        y={bottom + 24}
        textAnchor="middle"
        className="fill-soft font-figures text-[13px]"
      >
        {(to - from).toFixed(0)} mm
      </text>
      <text x={x(to)} y={bottom + 24} textAnchor="middle" className="fill-ink font-figures text-[13px] font-bold">
        {fret}
      </text>
    </svg>
  );
}

import { memo } from 'react';
import { Link } from '@/ui/link';
import type { ChartBlock, ChartRow, Contour, Slip } from '@/core/form';
import { cn } from '@/ui/cn';

/** Consecutive plays of one use that are played alike, as one slip. */
export interface Joined extends Slip {
  readonly times: number;
  /** Each play's notes, and where it begins in bars of the block. */
  readonly plays: readonly { readonly from: number; readonly contour: Contour }[];
}

export function joined(slips: readonly Slip[]): Joined[] {
  const out: Joined[] = [];
  for (const slip of slips) {
    const last = out.at(-1);
    const play = { from: slip.from, contour: slip.contour };
    if (last && last.use.id === slip.use.id && last.how === slip.how && last.kind === slip.kind)
      out[out.length - 1] = { ...last, to: slip.to, times: last.times + 1, plays: [...last.plays, play] };
    else out.push({ ...slip, times: 1, plays: [play] });
  }
  return out;
}

const LOOK: Readonly<Record<Slip['kind'], string>> = {
  riff: 'border-line/60 bg-sheet',
  varied: 'border-yours bg-sheet',
  silent: 'border-line/60 border-dashed bg-transparent text-soft',
  rest: 'border-transparent bg-transparent text-soft',
  free: 'border-proposed border-dashed bg-transparent',
  unwritten: 'border-question border-dashed bg-transparent text-question',
  fault: 'border-trouble bg-trouble-wash',
};

/** What a slip says to whoever doesn't see it. */
const spoken = (row: ChartRow, slip: Joined, { firstBar }: Pick<ChartBlock, 'firstBar'>): string => {
  const bar = (firstBar ?? 1) + Math.floor(slip.from + 1e-6);
  const end = (firstBar ?? 1) + Math.ceil(slip.to - 1e-6) - 1;
  const where = end > bar ? `bars ${bar} to ${end}` : `bar ${bar}`;
  return `${row.part.name}, ${where}: ${slip.name}${slip.how ? `, ${slip.how}` : ''}${slip.times > 1 ? `, ${slip.times} times in all` : ''}${slip.use.remark ? `, ${slip.use.remark}` : ''}`;
};

const paths = new WeakMap<Contour, { readonly alone: string; readonly together: string }>();

/** The dashes of a contour as two paths in bars: what is alone thick, what sounds together thin. */
function pathsOf(contour: Contour): { readonly alone: string; readonly together: string } {
  const known = paths.get(contour);
  if (known) return known;
  const of = (chord: boolean): string =>
    contour
      .filter((dash) => dash.chord === chord)
      .map((dash) => {
        const to = Math.max(dash.from + 0.04, dash.to - 0.03);
        return `M${(dash.from + 0.015).toFixed(3)} ${(13 - 11 * dash.height).toFixed(1)}H${to.toFixed(3)}`;
      })
      .join('');
  const made = { alone: of(false), together: of(true) };
  paths.set(contour, made);
  return made;
}

const ContourView = memo(function ContourView({ contour, at }: { readonly contour: Contour; readonly at: number }) {
  const { alone, together } = pathsOf(contour);
  const transform = at === 0 ? undefined : `translate(${at} 0)`;
  return (
    <>
      {alone ? <path d={alone} {...{ transform }} strokeWidth={2.2} vectorEffect="non-scaling-stroke" /> : null}
      {together ? <path d={together} {...{ transform }} strokeWidth={1.1} vectorEffect="non-scaling-stroke" /> : null}
    </>
  );
});

/** One slip as far as it stands on one line of the chart. */
export function SlipView({
  row,
  slip,
  firstBar,
  from,
  to,
  href,
}: {
  readonly row: ChartRow;
  readonly slip: Joined;
  readonly firstBar: number | null;
  readonly from: number;
  readonly to: number;
  readonly href: string | null;
}) {
  const [begin, end] = [Math.max(slip.from, from), Math.min(slip.to, to)];
  const share = (bar: number): string => `${(100 * (bar - from)) / (to - from)}%`;
  const first = slip.from >= from - 1e-6;
  const words = spoken(row, slip, { firstBar });
  const inner = (
    <>
      <span className="pointer-events-none absolute inset-x-1 top-0 flex items-baseline gap-1 truncate text-[13px] leading-[17px]">
        {first ? (
          <>
            <span className={cn(slip.use.spot ? '' : 'font-bold', slip.kind === 'varied' && 'text-yours')}>
              {slip.name}
            </span>
            {slip.how ? <span className="font-semibold text-yours">{slip.how}</span> : null}
            {slip.times > 1 ? <span className="text-soft">{slip.times} times</span> : null}
            {slip.use.remark ? <i className="text-soft">{slip.use.remark}</i> : null}
          </>
        ) : (
          <span className="text-soft">…</span>
        )}
      </span>
      <svg
        aria-hidden
        className="pointer-events-none absolute inset-x-0 bottom-0.5 h-[15px] w-full"
        viewBox={`${begin} 0 ${Math.max(1e-3, end - begin)} 15`}
        preserveAspectRatio="none"
        fill="none"
        stroke="currentColor"
      >
        {slip.plays.map((play) => (
          <ContourView key={play.from} contour={play.contour} at={play.from} />
        ))}
      </svg>
      {slip.plays
        .map((play) => play.from)
        .filter((cut) => cut > begin + 1e-6 && cut < end - 1e-6)
        .map((cut) => (
          <span
            key={cut}
            aria-hidden
            className="absolute inset-y-1 border-l border-line/50"
            style={{ left: `${(100 * (cut - begin)) / (end - begin)}%` }}
          />
        ))}
    </>
  );
  const look = cn('absolute inset-y-0 overflow-hidden rounded-[3px] border text-ink', LOOK[slip.kind]);
  const place = { left: `calc(${share(begin)} + 1px)`, width: `calc(${(100 * (end - begin)) / (to - from)}% - 2px)` };
  if (!href || !first)
    return (
      <span
        className={look}
        style={place}
        {...(first ? { role: 'img', 'aria-label': words } : { 'aria-hidden': true })}
      >
        {inner}
      </span>
    );
  return (
    <Link
      href={href}
      prefetch={false}
      aria-label={`${words}. Open on the bench`}
      title={words}
      className={cn(look, 'hover:border-ink')}
      style={place}
    >
      {inner}
    </Link>
  );
}

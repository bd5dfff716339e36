import { memo } from 'react';
import Link from 'next/link';
import type { ChartBlock, ChartRow, Slip } from '@/core/form';
import { cmp, toNumber, ZERO } from '@/core/time';
import { cn } from '@/ui/cn';

/** How the chart is worked: what is chosen, what is played, where a slip leads. */
export interface ChartDesk {
  readonly chosen: string | null;
  readonly onChoose: (section: string) => void;
  readonly onBar: (bar: number, extend: boolean) => void;
  /** The stretch to be played, in bars of the piece from 1. */
  readonly stretch: { readonly from: number; readonly to: number } | null;
  /** Where the music is, in bars of the piece with a fraction from 0; null in silence. */
  readonly sounding: number | null;
  readonly href: (row: ChartRow, slip: Slip) => string | null;
  readonly onDrop: (section: string, part: string, riff: string, bar: number, chord: string | null) => void;
  readonly narrow: boolean;
}

/** The media type a riff is dragged by. */
export const RIFF_DRAG = 'application/x-intonazione-riff';

/** Bars across: eight, or four on a phone; twelve stand in threes of four. */
function across(bars: number, narrow: boolean): number {
  if (narrow) return 4;
  return bars === 12 ? 4 : 8;
}

/** Consecutive plays of one use that are played alike, as one slip. */
interface Joined extends Slip {
  readonly times: number;
  readonly cuts: readonly number[];
}

function joined(slips: readonly Slip[]): Joined[] {
  const out: Joined[] = [];
  for (const slip of slips) {
    const last = out.at(-1);
    if (last && last.use.id === slip.use.id && last.how === slip.how && last.kind === slip.kind)
      out[out.length - 1] = {
        ...last,
        to: slip.to,
        times: last.times + 1,
        cuts: [...last.cuts, slip.from],
        contour: [...last.contour, ...slip.contour],
      };
    else out.push({ ...slip, times: 1, cuts: [] });
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
const spoken = (row: ChartRow, slip: Joined, block: ChartBlock): string => {
  const bar = (block.firstBar ?? 1) + Math.floor(slip.from + 1e-6);
  const end = (block.firstBar ?? 1) + Math.ceil(slip.to - 1e-6) - 1;
  const where = end > bar ? `bars ${bar} to ${end}` : `bar ${bar}`;
  return `${row.part.name}, ${where}: ${slip.name}${slip.how ? `, ${slip.how}` : ''}${slip.times > 1 ? `, ${slip.times} times in all` : ''}${slip.use.remark ? `, ${slip.use.remark}` : ''}`;
};

function SlipView({
  row,
  slip,
  block,
  from,
  to,
  desk,
}: {
  readonly row: ChartRow;
  readonly slip: Joined;
  readonly block: ChartBlock;
  readonly from: number;
  readonly to: number;
  readonly desk: ChartDesk;
}) {
  const [begin, end] = [Math.max(slip.from, from), Math.min(slip.to, to)];
  const share = (bar: number): string => `${(100 * (bar - from)) / (to - from)}%`;
  const first = slip.from >= from - 1e-6;
  const href = desk.href(row, slip);
  const words = spoken(row, slip, block);
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
      >
        {slip.contour
          .filter((dash) => dash.to > begin && dash.from < end)
          .map((dash, i) => (
            <line
              key={i}
              x1={Math.max(begin, dash.from) + 0.015}
              x2={Math.max(dash.from + 0.04, Math.min(end, dash.to) - 0.03)}
              y1={13 - 11 * dash.height}
              y2={13 - 11 * dash.height}
              stroke="currentColor"
              strokeWidth={dash.chord ? 1.1 : 2.2}
              vectorEffect="non-scaling-stroke"
            />
          ))}
      </svg>
      {slip.cuts
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

/** "Guitar 1" in two letters. */
const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((word) => word.charAt(0))
    .join('')
    .slice(0, 3);

function ChartLine({
  block,
  from,
  to,
  rows,
  desk,
}: {
  readonly block: ChartBlock;
  readonly from: number;
  readonly to: number;
  readonly rows: readonly { readonly row: ChartRow; readonly slips: readonly Joined[] }[];
  readonly desk: ChartDesk;
}) {
  const n = across(block.bars, desk.narrow);
  const last = Math.min(to, block.bars);
  const width = (100 * (last - from)) / n;
  const share = (bar: number): string => `${(100 * (bar - from)) / (last - from)}%`;
  const chords = block.chords.filter((chord) => chord.at >= from - 1e-6 && chord.at < last - 1e-6);
  const sounding = desk.sounding !== null && block.firstBar !== null ? desk.sounding - (block.firstBar - 1) : null;
  const now = sounding !== null && sounding >= from && sounding < last ? Math.floor(sounding) : null;
  return (
    <div className="relative" style={{ width: `${width}%` }}>
      {now !== null ? (
        <span
          aria-hidden
          className="absolute inset-y-0 bg-chosen/60"
          style={{ left: share(now), width: `${100 / (last - from)}%` }}
        />
      ) : null}
      <div className="relative h-[46px]">
        {Array.from({ length: last - from }, (_, i) => {
          const bar = from + i;
          const number = block.firstBar === null ? null : block.firstBar + bar;
          const inside =
            desk.stretch !== null && number !== null && number >= desk.stretch.from && number <= desk.stretch.to;
          return (
            <span key={bar} className="absolute top-0 bottom-0 border-l border-rule" style={{ left: share(bar) }}>
              {number === null ? null : (
                <button
                  type="button"
                  tabIndex={-1}
                  onClick={(event) => desk.onBar(number, event.shiftKey)}
                  title={`Play from bar ${number}; with Shift to here`}
                  className={cn(
                    'ml-1 rounded-sm px-0.5 font-figures text-[12px] leading-4 text-soft',
                    inside && 'bg-chosen text-ink',
                  )}
                >
                  {number}
                </button>
              )}
            </span>
          );
        })}
        {chords.map((chord, i) => {
          const next = chords[i + 1]?.at ?? last;
          return (
            <span
              key={chord.at}
              className={cn(
                'absolute top-[17px] pl-1.5 leading-7 font-semibold whitespace-nowrap',
                next - chord.at < 0.45 ? 'text-[16px]' : 'text-[21px]',
              )}
              style={{ left: share(chord.at) }}
            >
              {chord.name}
              {chord.bass ? (
                <span className="text-[16px] text-soft">{chord.name ? `/${chord.bass}` : chord.bass}</span>
              ) : null}
            </span>
          );
        })}
        <span aria-hidden className="absolute top-3 bottom-0 left-0 border-l-2 border-ink" />
        <span
          aria-hidden
          className={cn(
            'absolute top-3 right-0 bottom-0',
            last === block.bars ? 'border-r-2 border-ink' : 'border-r border-rule',
          )}
        />
      </div>
      {rows.map(({ row, slips }) => (
        <div
          key={row.part.id}
          className="relative mb-[3px] h-[36px] border-l-2 border-ink"
          onDragOver={(event) => {
            if (event.dataTransfer.types.includes(RIFF_DRAG)) event.preventDefault();
          }}
          onDrop={(event) => {
            const [part, riff] = event.dataTransfer.getData(RIFF_DRAG).split(' ');
            if (!riff || part !== row.part.id) return;
            event.preventDefault();
            const box = event.currentTarget.getBoundingClientRect();
            const bar = from + Math.floor(((event.clientX - box.left) / box.width) * (last - from));
            // With Alt it goes to the chord that lies there.
            const chord = block.chords.findLast((one) => one.at <= bar + 1e-6)?.name ?? null;
            desk.onDrop(block.section.id, part, riff, Math.max(0, bar), event.altKey ? chord : null);
          }}
        >
          {Array.from({ length: last - from - 1 }, (_, i) => (
            <span
              key={i}
              aria-hidden
              className="absolute inset-y-0 border-l border-rule"
              style={{ left: share(from + i + 1) }}
            />
          ))}
          <span
            aria-hidden
            title={row.part.name}
            className="absolute right-full mr-2 w-20 truncate text-right text-[12px] leading-[36px] text-soft max-[899px]:mr-1 max-[899px]:w-6"
          >
            {desk.narrow ? initials(row.part.name) : row.part.name}
          </span>
          {slips
            .filter((slip) => slip.to > from + 1e-6 && slip.from < last - 1e-6)
            .map((slip) => (
              <SlipView key={`${slip.use.id}.${slip.play}`} {...{ row, slip, block, desk }} from={from} to={last} />
            ))}
          <span
            aria-hidden
            className={cn(
              'absolute inset-y-0 right-0',
              last === block.bars ? 'border-r-2 border-ink' : 'border-r border-rule',
            )}
          />
        </div>
      ))}
      <Endings block={block} from={from} to={last} />
    </div>
  );
}

/** Brackets under the bars that some passes play otherwise, with words. */
function Endings({ block, from, to }: { readonly block: ChartBlock; readonly from: number; readonly to: number }) {
  const here = block.endings.filter((one) => one.from >= from && one.from < to);
  return here.map((one) => {
    const left = (100 * (one.from - from)) / (to - from);
    // Words that would run over the end stand to the left of the bracket's end.
    const right = left > 55;
    return (
      <div key={`${one.use.id} ${one.words}`} className="relative mt-0.5 h-[25px]">
        <span
          aria-hidden
          className="absolute top-0 h-[6px] border-t-2 border-l-2 border-yours"
          style={{ left: `${left}%`, width: `${(100 * (Math.min(to, one.to) - one.from)) / (to - from)}%` }}
        />
        <details
          className="absolute top-[5px] text-[14px] leading-[18px] text-yours"
          style={right ? { right: 0 } : { left: `calc(${left}% + 6px)` }}
        >
          <summary className="cursor-pointer font-semibold whitespace-nowrap">
            {one.part.name}, {one.words}
          </summary>
          {one.detail.length > 0 ? (
            <ul className="relative z-10 rounded-sm border border-line bg-paper px-3 py-2 text-ink shadow-lg">
              {one.detail.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          ) : null}
        </details>
      </div>
    );
  });
}

/** By how much a row misses its section, in words. */
function lackWords(row: ChartRow): string | null {
  if (!row.row || cmp(row.over, ZERO) === 0 || row.row.uses.length === 0) return null;
  const beats = Math.abs(toNumber(row.over));
  const words = `${Math.round(beats * 100) / 100} ${beats === 1 ? 'quarter' : 'quarters'}`;
  return cmp(row.over, ZERO) > 0 ? `${row.part.name} goes ${words} over` : `${row.part.name} stops ${words} early`;
}

/** One section, or one pass of it, with its bars. */
export const ChartSection = memo(function ChartSection({
  block,
  desk,
}: {
  readonly block: ChartBlock;
  readonly desk: ChartDesk;
}) {
  const n = across(block.bars, desk.narrow);
  const lines = Array.from({ length: Math.ceil(block.bars / n) }, (_, i) => i * n);
  const rows = block.rows.filter((row) => row.row !== null).map((row) => ({ row, slips: joined(row.slips) }));
  const silent = block.rows.filter((row) => row.row === null);
  const chosen = desk.chosen === block.section.id;
  const lacks = block.rows.flatMap((row) => lackWords(row) ?? []);
  return (
    <section
      aria-label={`${block.section.name}${block.firstBar === null ? '' : `, from bar ${block.firstBar}`}`}
      className={cn(
        'flex gap-3 rounded-sm px-2 py-2 max-[899px]:flex-col max-[899px]:gap-1',
        chosen && 'bg-yours-wash/50',
      )}
      data-section={block.section.id}
    >
      <div className="w-34 shrink-0 max-[899px]:w-auto">
        <h3 className="text-xl leading-6">
          <button
            type="button"
            className="text-left hover:underline"
            onClick={() => desk.onChoose(block.section.id)}
            aria-expanded={chosen}
          >
            {block.section.name}
          </button>
        </h3>
        <p className="text-[14px] text-soft">{block.plays}</p>
        {block.remarks.map((remark, i) => (
          <p
            key={remark}
            className={cn('text-[14px] leading-[18px]', i === 0 && block.section.cue ? 'text-question' : 'text-soft')}
          >
            {remark}
          </p>
        ))}
        {silent.length > 0 && rows.length > 0 ? (
          <p className="text-[14px] leading-[18px] text-soft">
            without {silent.map((row) => row.part.name).join(', ')}
          </p>
        ) : null}
        {lacks.map((words) => (
          <p key={words} className="text-[14px] leading-[18px] text-question">
            ? {words}
          </p>
        ))}
      </div>
      <div className="ml-20 flex min-w-0 flex-1 flex-col gap-1.5 max-[899px]:ml-7">
        {lines.map((from) => (
          <ChartLine key={from} {...{ block, from, rows, desk }} to={from + n} />
        ))}
        {rows.length === 0 ? <p className="text-[14px] text-soft">Nobody plays here yet.</p> : null}
      </div>
    </section>
  );
});

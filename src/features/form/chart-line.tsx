import { memo } from 'react';
import type { ChartBlock, ChartRow, Slip } from '@/core/form';
import { cn } from '@/ui/cn';
import { SlipView, type Joined } from './slip';

/** What can be done on a chart. */
export interface ChartDesk {
  readonly onChoose: (section: string) => void;
  readonly onBar: (bar: number, extend: boolean) => void;
  /** Where a slip leads. */
  readonly href: (slip: Slip) => string | null;
  readonly onDrop: (section: string, part: string, riff: string, bar: number, chord: string | null) => void;
  /** Puts a section where another stands. */
  readonly onMove: (section: string, to: string) => void;
  readonly narrow: boolean;
}

/** A stretch of bars of the piece, from 1, the last included. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** A part's row with its plays joined to slips. */
export interface JoinedRow {
  readonly row: ChartRow;
  readonly slips: readonly Joined[];
}

/** The media type a riff is dragged by. */
export const RIFF_DRAG = 'application/x-intonazione-riff';
/** The media type a section is dragged by. */
export const SECTION_DRAG = 'application/x-intonazione-section';

/** "Guitar 1" in two letters. */
const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((word) => word.charAt(0))
    .join('')
    .slice(0, 3);

/** One line of the chart: bar numbers and chords, a row of slips for each part, and what holds for some passes. */
export const ChartLine = memo(function ChartLine({
  block,
  from,
  to,
  across,
  rows,
  desk,
  sounding,
  stretch,
}: {
  readonly block: ChartBlock;
  readonly from: number;
  readonly to: number;
  /** Bars on a full line. */
  readonly across: number;
  readonly rows: readonly JoinedRow[];
  readonly desk: ChartDesk;
  /** The bar of the block that sounds, from 0; null where none of it does. */
  readonly sounding: number | null;
  readonly stretch: Stretch | null;
}) {
  const last = Math.min(to, block.bars);
  const width = (100 * (last - from)) / across;
  const share = (bar: number): string => `${(100 * (bar - from)) / (last - from)}%`;
  const chords = block.chords.filter((chord) => chord.at >= from - 1e-6 && chord.at < last - 1e-6);
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
          const inside = stretch !== null && number !== null && number >= stretch.from && number <= stretch.to;
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
              <SlipView
                key={`${slip.use.id}.${slip.play}`}
                {...{ row, slip, from }}
                to={last}
                firstBar={block.firstBar}
                href={desk.href(slip)}
              />
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
});

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

import equal from 'fast-deep-equal';
import { memo, useDeferredValue, useMemo, useState } from 'react';
import type { ChartBlock, ChartRow } from '@/core/form';
import { cmp, toNumber, ZERO } from '@/core/time';
import { cn } from '@/ui/cn';
import { ChartLine, SECTION_DRAG, type ChartDesk, type Stretch } from './chart-line';
import { joined } from './slip';

/** Bars across: eight, or four on a phone; twelve stand in threes of four. */
function across(bars: number, narrow: boolean): number {
  if (narrow) return 4;
  return bars === 12 ? 4 : 8;
}

/** By how much a row misses its section, in words. */
function lackWords(row: ChartRow): string | null {
  if (!row.row || cmp(row.over, ZERO) === 0 || row.row.uses.length === 0) return null;
  const beats = Math.abs(toNumber(row.over));
  const words = `${Math.round(beats * 100) / 100} ${beats === 1 ? 'quarter' : 'quarters'}`;
  return cmp(row.over, ZERO) > 0 ? `${row.part.name} goes ${words} over` : `${row.part.name} stops ${words} early`;
}

interface SectionProps {
  readonly block: ChartBlock;
  readonly desk: ChartDesk;
  readonly chosen: boolean;
  /** The bar of the block that sounds, from 0; null where none of it does. */
  readonly sounding: number | null;
  /** What of it is in the stretch to be played. */
  readonly stretch: Stretch | null;
}

/** One section, or one pass of it, with its bars. */
const ChartSection = memo(function ChartSection({ block, desk, chosen, sounding, stretch }: SectionProps) {
  const n = across(block.bars, desk.narrow);
  const lines = Array.from({ length: Math.ceil(block.bars / n) }, (_, i) => i * n);
  const rows = useMemo(
    () => block.rows.filter((row) => row.row !== null).map((row) => ({ row, slips: joined(row.slips) })),
    [block],
  );
  const silent = block.rows.filter((row) => row.row === null);
  const lacks = block.rows.flatMap((row) => lackWords(row) ?? []);
  return (
    <section
      aria-label={`${block.section.name}${block.firstBar === null ? '' : `, from bar ${block.firstBar}`}`}
      className={cn(
        'relative flex gap-3 rounded-sm px-2 py-2 [contain-intrinsic-size:auto_320px] [content-visibility:auto] has-[details[open]]:z-10 has-[details[open]]:[content-visibility:visible] max-[899px]:flex-col max-[899px]:gap-1',
        chosen && 'bg-yours-wash/50',
      )}
      data-section={block.section.id}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(SECTION_DRAG)) event.preventDefault();
      }}
      onDrop={(event) => {
        const dragged = event.dataTransfer.getData(SECTION_DRAG);
        if (dragged && dragged !== block.section.id) desk.onMove(dragged, block.section.id);
      }}
    >
      <div className="w-34 shrink-0 max-[899px]:w-auto">
        <h3 className="text-xl leading-6">
          <button
            type="button"
            className="text-left hover:underline"
            draggable
            onDragStart={(event) => event.dataTransfer.setData(SECTION_DRAG, block.section.id)}
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
          <ChartLine
            key={from}
            {...{ block, from, rows, desk, stretch }}
            to={from + n}
            across={n}
            sounding={sounding !== null && sounding >= from && sounding < from + n ? sounding : null}
          />
        ))}
        {rows.length === 0 ? <p className="text-[14px] text-soft">Nobody plays here yet.</p> : null}
      </div>
    </section>
  );
}, sameProps);

/** Blocks are made anew with every change; what is drawn of them is looked at, not who made them. */
function sameProps(a: SectionProps, b: SectionProps): boolean {
  return (
    a.desk === b.desk &&
    a.chosen === b.chosen &&
    a.sounding === b.sounding &&
    equal(a.stretch, b.stretch) &&
    equal(a.block, b.block)
  );
}

/** Sections drawn at once: as many as fill a window, by a line's height; the others follow when these are painted. */
function inSight(blocks: readonly ChartBlock[], narrow: boolean): number {
  let height = 0;
  const last = blocks.findIndex((block) => {
    const rows = block.rows.filter((row) => row.row !== null).length;
    return (height += Math.ceil(block.bars / across(block.bars, narrow)) * (52 + 39 * rows)) > 1000;
  });
  return last < 0 ? blocks.length : last + 1;
}

/** All sections, or all passes of them, down the page. */
export function Chart({
  blocks,
  desk,
  chosen,
  sounding,
  stretch,
}: {
  readonly blocks: readonly ChartBlock[];
  readonly desk: ChartDesk;
  readonly chosen: string | null;
  /** The bar of the piece that sounds, from 0; null in silence. */
  readonly sounding: number | null;
  readonly stretch: Stretch | null;
}) {
  const [first] = useState(() => inSight(blocks, desk.narrow));
  const drawn = useDeferredValue(blocks.length, first);
  return blocks.slice(0, Math.max(first, drawn)).map((block) => {
    const one = block.firstBar ?? Infinity;
    const from = Math.max(one, stretch?.from ?? Infinity);
    const to = Math.min(one + block.bars - 1, stretch?.to ?? -1);
    const bar = sounding === null ? -1 : sounding - (one - 1);
    return (
      <ChartSection
        key={block.key}
        {...{ block, desk }}
        chosen={chosen === block.section.id}
        sounding={bar >= 0 && bar < block.bars ? bar : null}
        stretch={from <= to ? { from, to } : null}
      />
    );
  });
}

import { useEffect, useState } from 'react';
import type { Result } from '@/core/base';
import { takeWay, type Edit } from '@/core/edit';
import type { WayFacts } from '@/core/place';
import type { Part, Piece, Riff, RiffEvent } from '@/core/score';
import type { TempoStep } from '@/core/time';
import { usePlacement } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import type { WayAnswer } from '@/workers/place.worker';

interface Props {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly tempo: readonly TempoStep[];
  /** What the ways are for: chosen events, or the whole riff. */
  readonly events: readonly RiffEvent[];
  readonly whole: boolean;
  readonly edit: (made: Result<Edit>) => boolean;
}

/** More events than this are placed as one piece of work, not compared at a glance. */
const MOST = 120;

/** The whole phrase in a few ways a player would call different, side by side: take one, or one for what is chosen. */
export function Ways({ piece, part, riff, tempo, events, whole, edit }: Props) {
  const { keeper } = usePlacement();
  const [open, setOpen] = useState(false);
  const [answer, setAnswer] = useState<{ readonly riff: Riff; readonly ids: string; readonly ways: readonly WayAnswer[] } | null>(null);
  const ids = events.map((e) => e.id).join(' ');
  useEffect(() => {
    if (!open || !keeper || ids === '' || ids.split(' ').length > MOST) return;
    let wanted = true;
    void keeper.ways(riff, part.setup, tempo, ids.split(' ')).then((ways) => { if (wanted) setAnswer({ riff, ids, ways }); });
    return () => { wanted = false; };
  }, [open, keeper, riff, part.setup, tempo, ids]);
  if (events.length < 2) return null;
  const ways = answer?.riff === riff && answer.ids === ids ? answer.ways : null;
  const over = events.length > MOST;
  return (
    <section aria-label="Ways" className="flex flex-col gap-2">
      <Button size="small" className="self-start" aria-expanded={open} onClick={() => setOpen(!open)}>{open ? 'Hide the ways' : whole ? 'Other ways of playing it' : `Other ways for ${events.length} chosen`}</Button>
      {!open ? null : over ? <p className="text-[15px] text-soft">{events.length} onsets are too many to compare: choose a stretch of up to {MOST}.</p> : ways === null ? <p className="text-[15px] text-soft">Looking for ways…</p> : (
        <ol className="divide-y divide-rule border-y border-rule">
          {ways.map((way, i) => (
            <li key={i} className="py-2 text-[15px]">
              <div className="flex items-baseline justify-between gap-2">
                <b>{position(way.facts)}</b>
                <span className="font-figures text-soft">{i === 0 ? 'easiest' : `+${way.extra.toFixed(1)}`}</span>
              </div>
              <Ribbon hands={way.hands} low={Math.min(...ways.map((w) => w.facts.lowest))} high={Math.max(...ways.map((w) => w.facts.highest)) + 3} />
              <p className="text-soft">{factWords(way.facts)}</p>
              <Button size="small" className="mt-1" onClick={() => edit(takeWay(piece, riff.id, way.places, `took a way: ${position(way.facts)}`))}>Take this way</Button>
            </li>
          ))}
          {ways.length === 1 ? <li className="py-2 text-[15px] text-soft">None of the sixty easiest ways differs enough to call it another. Choose a shorter stretch, or unlock some of it.</li> : null}
        </ol>
      )}
    </section>
  );
}

function position({ lowest, highest }: WayFacts): string {
  if (lowest === 0) return 'open strings only';
  return lowest === highest ? `hand at fret ${lowest}` : `hand at frets ${lowest} to ${highest}`;
}

function factWords({ open, shifts, farthestMm, widestMm, hardest }: WayFacts): string {
  const words = [
    `${open === 0 ? 'no' : open} open note${open === 1 ? '' : 's'}`,
    shifts === 0 ? 'no shift' : `${shifts} shift${shifts === 1 ? '' : 's'}, up to ${Math.round(farthestMm)} mm`,
    widestMm > 0 ? `a stretch of ${Math.round(widestMm)} mm` : '',
    hardest ? `hardest: ${hardest.words}` : '',
  ].filter(Boolean).join('; ');
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}

/** The hand along the neck over the phrase, all ways on one scale. */
function Ribbon({ hands, low, high }: { readonly hands: readonly number[]; readonly low: number; readonly high: number }) {
  const width = 260;
  const height = 34;
  const x = (i: number): number => 2 + (i / Math.max(1, hands.length)) * (width - 4);
  const y = (fret: number): number => height - 3 - ((fret - low) / Math.max(1, high - low)) * (height - 6);
  return (
    <svg width={width} height={height} aria-hidden className="my-1 block">
      <rect x={0} y={0} width={width} height={height} className="fill-wood" />
      {hands.map((h, i) => (h > 0 ? <rect key={i} x={x(i)} y={y(h + 3)} width={x(i + 1) - x(i) + 0.5} height={Math.max(3, y(h) - y(h + 3))} className="fill-proposed" /> : null))}
    </svg>
  );
}

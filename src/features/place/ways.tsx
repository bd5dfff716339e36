import { useEffect, useMemo, useState } from 'react';
import type { Result } from '@/core/base';
import { chooseWay } from '@/core/command';
import type { Piece, Riff, RiffEvent } from '@/core/score';
import type { Edit } from '@/core/edit';
import type { WayFacts } from '@/core/place';
import { barOf } from '@/core/time';
import { usePlacement } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import type { WayAnswer } from '@/workers/place.worker';
import { factWords, regionWords } from './way-words';

interface Props {
  readonly piece: Piece;
  readonly riff: Riff;
  /** What the ways are for: chosen events, or the whole riff. */
  readonly events: readonly RiffEvent[];
  readonly whole: boolean;
  readonly edit: (made: Result<Edit>) => boolean;
}

/** More events than this are placed as one piece of work, not compared at a glance. */
const MOST = 120;

/**
 * The whole phrase in a few ways a player would call different, side by side: take one, one for what is chosen, or
 * mix them bar by bar.
 */
export function Ways({ piece, riff, events, whole, edit }: Props) {
  const { keeper } = usePlacement();
  const [open, setOpen] = useState(false);
  const [answer, setAnswer] = useState<{
    readonly riff: Riff;
    readonly ids: string;
    readonly ways: readonly WayAnswer[];
  } | null>(null);
  const ids = events.map((event) => event.id).join(' ');
  useEffect(() => {
    if (!open || !keeper || ids === '' || ids.split(' ').length > MOST) return;
    let wanted = true;
    void keeper.ways(riff, ids.split(' ')).then((ways) => {
      if (wanted && ways) setAnswer({ riff, ids, ways });
    });
    return () => {
      wanted = false;
    };
  }, [open, keeper, riff, ids]);
  if (events.length < 2) return null;
  const ways = answer?.riff === riff && answer.ids === ids ? answer.ways : null;
  const over = events.length > MOST;
  return (
    <section aria-label="Ways" className="flex flex-col gap-2">
      <Button size="small" className="self-start" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Hide the ways' : whole ? 'Other ways of playing it' : `Other ways for ${events.length} chosen`}
      </Button>
      {!open ? null : over ? (
        <p className="text-[15px] text-soft">
          {events.length} onsets are too many to compare: choose a stretch of up to {MOST}.
        </p>
      ) : ways === null ? (
        <p className="text-[15px] text-soft">Looking for ways…</p>
      ) : (
        <Compared key={ids} piece={piece} riff={riff} events={events} ways={ways} edit={edit} />
      )}
    </section>
  );
}

function Compared({ piece, riff, events, ways, edit }: Omit<Props, 'whole'> & { readonly ways: readonly WayAnswer[] }) {
  const bars = useMemo(
    () => [...new Set(events.map((event) => barOf(riff.meters, event.at).bar))],
    [events, riff.meters],
  );
  /** Which way each bar is taken from, once mixing has begun. */
  const [mix, setMix] = useState<ReadonlyMap<number, number>>(new Map());
  const low = Math.min(...ways.map((way) => way.facts.lowest));
  const high = Math.max(...ways.map((way) => way.facts.highest)) + 3;
  return (
    <>
      <ol className="divide-y divide-rule border-y border-rule">
        {ways.map((way, i) => (
          <li key={i} className="py-2 text-[15px]">
            <div className="flex items-baseline justify-between gap-2">
              <b>{regionWords(way.facts)}</b>
              <span className="font-figures text-soft">{i === 0 ? 'easiest' : `+${way.extra.toFixed(1)}`}</span>
            </div>
            <Ribbon
              riff={riff}
              events={events}
              bars={bars}
              hands={way.hands}
              low={low}
              high={high}
              name={`way ${i + 1}`}
              picked={bars.filter((b) => mix.get(b) === i)}
              onPick={
                ways.length > 1 && bars.length > 1
                  ? (bar) => setMix(new Map([...bars.map((b) => [b, mix.get(b) ?? 0] as const), [bar, i]]))
                  : null
              }
            />
            <p className="text-soft">{factWords(way.facts)}</p>
            <Button
              size="small"
              className="mt-1"
              onClick={() => edit(chooseWay(piece, riff.id, way.places, `took a way: ${regionWords(way.facts)}`))}
            >
              Take this way
            </Button>
          </li>
        ))}
        {ways.length === 1 ? (
          <li className="py-2 text-[15px] text-soft">
            No other way differs enough to call it another. Choose a shorter stretch, or unlock some of it.
          </li>
        ) : null}
      </ol>
      {ways.length > 1 && bars.length > 1 ? (
        mix.size === 0 ? (
          <p className="text-[15px] text-soft">Click bars in the pictures to mix ways.</p>
        ) : (
          <Mixed piece={piece} riff={riff} ways={ways} mix={mix} edit={edit} onEnd={() => setMix(new Map())} />
        )
      ) : null}
    </>
  );
}

/** Bars taken from different ways, tried as one: what the joins cost is known before it is taken. */
function Mixed({
  piece,
  riff,
  ways,
  mix,
  edit,
  onEnd,
}: {
  readonly piece: Piece;
  readonly riff: Riff;
  readonly ways: readonly WayAnswer[];
  readonly mix: ReadonlyMap<number, number>;
  readonly edit: Props['edit'];
  readonly onEnd: () => void;
}) {
  const { keeper } = usePlacement();
  const places = useMemo(() => {
    const barById = new Map(riff.events.map((event) => [event.id, barOf(riff.meters, event.at).bar]));
    return ways.flatMap((way, i) => way.places.filter((place) => mix.get(barById.get(place.event) ?? -1) === i));
  }, [riff, ways, mix]);
  const [answer, setAnswer] = useState<{
    readonly to: typeof places;
    readonly blocked: number;
    readonly facts: WayFacts;
  } | null>(null);
  useEffect(() => {
    let wanted = true;
    void keeper?.mixed(riff, places).then((found) => {
      if (wanted && found) setAnswer({ to: places, ...found });
    });
    return () => {
      wanted = false;
    };
  }, [keeper, riff, places]);
  const now = answer?.to === places ? answer : null;
  return (
    <div className="border-l-4 border-yours pl-3 text-[15px]">
      <p>
        <b>Your mixture:</b> {[...mix].map(([bar, way]) => `bar ${bar + 1} as way ${way + 1}`).join(', ')}.
      </p>
      <p className="text-soft">
        {now === null
          ? 'Trying the joins…'
          : now.blocked > 0
            ? 'No hand can join these bars: take another for one of them.'
            : factWords(now.facts)}
      </p>
      <div className="mt-1 flex gap-2">
        <Button
          size="small"
          tone="yours"
          disabled={now === null || now.blocked > 0}
          onClick={() => {
            if (edit(chooseWay(piece, riff.id, places, 'took a mixture of ways'))) onEnd();
          }}
        >
          Take the mixture
        </Button>
        <Button size="small" tone="quiet" onClick={onEnd}>
          Leave it
        </Button>
      </div>
    </div>
  );
}

interface RibbonProps {
  readonly riff: Riff;
  readonly events: readonly RiffEvent[];
  readonly bars: readonly number[];
  readonly hands: readonly number[];
  readonly low: number;
  readonly high: number;
  readonly name: string;
  readonly picked: readonly number[];
  readonly onPick: ((bar: number) => void) | null;
}

const WIDTH = 260;
const HEIGHT = 34;

/** The hand along the neck over what is compared, all ways on one scale; its bars can be picked for a mixture. */
function Ribbon({ riff, events, bars, hands, low, high, name, picked, onPick }: RibbonProps) {
  const shown = events.map((event) => ({
    bar: barOf(riff.meters, event.at).bar,
    hand: hands[riff.events.indexOf(event)] ?? 0,
  }));
  const x = (i: number): number => 2 + (i / Math.max(1, shown.length)) * (WIDTH - 4);
  const y = (fret: number): number => HEIGHT - 3 - ((fret - low) / Math.max(1, high - low)) * (HEIGHT - 6);
  return (
    <div className="relative my-1" style={{ width: WIDTH, height: HEIGHT }}>
      <svg width={WIDTH} height={HEIGHT} aria-hidden className="block">
        <rect x={0} y={0} width={WIDTH} height={HEIGHT} className="fill-wood" />
        {shown.map(({ hand }, i) =>
          hand > 0 ? (
            <rect
              key={i}
              x={x(i)}
              y={y(hand + 3)}
              width={x(i + 1) - x(i) + 0.5}
              height={Math.max(3, y(hand) - y(hand + 3))}
              className="fill-proposed"
            />
          ) : null,
        )}
        {bars.slice(1).map((b) => {
          const at = x(shown.findIndex((one) => one.bar === b));
          return <line key={b} x1={at} x2={at} y1={0} y2={HEIGHT} className="stroke-line" strokeWidth={1} />;
        })}
      </svg>
      {onPick
        ? bars.map((b) => {
            const from = shown.findIndex((one) => one.bar === b);
            const to = shown.length - [...shown].reverse().findIndex((one) => one.bar === b);
            const on = picked.includes(b);
            return (
              <button
                key={b}
                type="button"
                aria-pressed={on}
                aria-label={`Bar ${b + 1} as in ${name}`}
                onClick={() => onPick(b)}
                className={`absolute top-0 h-full border-2 ${on ? 'border-yours' : 'border-transparent hover:border-line'}`}
                style={{ left: x(from), width: x(to) - x(from) }}
              />
            );
          })
        : null}
    </div>
  );
}

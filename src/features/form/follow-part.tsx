import { useEffect, useMemo, useRef } from 'react';
import { momentAt, type Line } from '@/core/form';
import { stringNumbers } from '@/core/instrument';
import { barStart } from '@/core/time';
import { NeckFrame } from '@/features/place/bench-parts';
import { SoundingNeck } from '@/features/place/sounding-neck';
import { stringLabels } from '@/features/place/strip';
import { LANE, laneScales, laneTops, type LaneName } from '@/ui/draw/lanes';
import { rowsOf } from '@/ui/draw/strip-layout';
import { StripRowView } from '@/ui/draw/strip-row';
import { FIGURE, rowFigure, rowScale } from '@/ui/draw/strip-scale';
import { useSchools } from '@/ui/schools';
import { useWidth } from '@/ui/use-width';

const LANES: ReadonlySet<LaneName> = new Set(['strings', 'count', 'harmony']);
const NO_HANDS: ReadonlyMap<string, number> = new Map();
/** Bars of the strip at once. */
const BARS = 2;

/** What one part plays now: the bars of its strip the music is in, and its neck. */
export function FollowPart({
  line,
  bar,
  playing,
  at,
}: {
  readonly line: Line;
  /** The bar that is shown, from 0. */
  readonly bar: number;
  readonly playing: boolean;
  readonly at: () => number | null;
}) {
  const schools = useSchools();
  const [box, width] = useWidth();
  const head = useRef<HTMLSpanElement>(null);
  const { riff, part, map } = line;
  const { setup } = part;
  const key = momentAt(map, barStart(map.meters, bar)).key;
  const strings = stringNumbers(setup).reverse();
  const names = useMemo(() => stringLabels(setup, stringNumbers(setup).reverse(), key, schools), [setup, key, schools]);
  const rows = useMemo(() => rowsOf(riff, BARS), [riff]);
  const index = Math.min(rows.length - 1, Math.floor(bar / BARS));
  const row = rows[index];
  const scales = useMemo(() => laneScales(riff, setup, NO_HANDS, schools), [riff, setup, schools]);
  const scale = useMemo(() => {
    if (!row || width === 0) return null;
    return rowScale(row, riff.meters, width, scales, rowFigure(row, riff.meters, width, scales, FIGURE));
  }, [row, width, riff.meters, scales]);
  useEffect(() => {
    if (!playing || !scale) return;
    let frame = requestAnimationFrame(function follow() {
      frame = requestAnimationFrame(follow);
      const now = at();
      if (!head.current) return;
      head.current.style.opacity = now === null ? '0' : '1';
      if (now !== null) head.current.style.transform = `translateX(${scale.time(now)}px)`;
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, scale, at]);
  const height = laneTops(LANES, strings.length).bottom;
  return (
    <section
      aria-label={`${part.name} as it is played`}
      className="flex gap-4 border-t border-rule py-2 max-[899px]:flex-col"
    >
      <div ref={box} className="relative min-w-0 flex-1 border border-rule bg-sheet" style={{ height }}>
        {row && width > 0 ? (
          <StripRowView
            {...{ row, width, scales, setup, schools }}
            meters={riff.meters}
            keyShown={key}
            stringNames={names}
            lanes={LANES}
            hands={NO_HANDS}
            chosen=""
            focusNote={null}
            caret={null}
            figure={FIGURE}
            strokes=""
            hardest={null}
            next={rows[index + 1]?.events[0] ?? null}
            harmony={map}
            allYours
          />
        ) : null}
        <span
          ref={head}
          aria-hidden
          className="pointer-events-none absolute left-0 w-[3px] rounded bg-question opacity-0"
          style={{ top: LANE.top - 8, height: height - LANE.top }}
        />
      </div>
      <div className="w-[42%] shrink-0 max-[899px]:w-full">
        <NeckFrame>
          {(neck) => (
            <SoundingNeck
              {...{ riff, playing, setup }}
              playhead={at}
              hand={null}
              width={neck}
              stringNames={names}
              places={[]}
              mirrored={(setup.instrument.handed === 'left') !== (schools.handed === 'left')}
              counting={schools.frets}
              label={`The neck of ${part.name}: what sounds now`}
            />
          )}
        </NeckFrame>
      </div>
    </section>
  );
}

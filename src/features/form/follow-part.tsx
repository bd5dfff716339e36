import { useEffect, useMemo, useRef } from 'react';
import { momentAt, type Line } from '@/core/form';
import { stringNumbers } from '@/core/instrument';
import { barStart } from '@/core/time';
import { NeckFrame } from '@/features/place/bench-parts';
import { SoundingNeck } from '@/features/place/sounding-neck';
import { stringLabels } from '@/features/place/strip';
import { LANE, type LaneName } from '@/ui/draw/lanes';
import { useSchools } from '@/ui/schools';
import { PartStrip } from './part-strip';

const LANES: ReadonlySet<LaneName> = new Set(['strings', 'count', 'harmony']);
/** Bars of the strip at once. */
const BARS = 2;

/** Where the music is, drawn over a strip with every frame while it plays. */
function Playhead({
  playing,
  at,
  time,
  height,
}: {
  readonly playing: boolean;
  readonly at: () => number | null;
  readonly time: (quarters: number) => number;
  readonly height: number;
}) {
  const head = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!playing) return;
    let frame = requestAnimationFrame(function follow() {
      frame = requestAnimationFrame(follow);
      const now = at();
      if (!head.current) return;
      head.current.style.opacity = now === null ? '0' : '1';
      if (now !== null) head.current.style.transform = `translateX(${time(now)}px)`;
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, time, at]);
  return (
    <span
      ref={head}
      aria-hidden
      className="pointer-events-none absolute left-0 w-[3px] rounded bg-question opacity-0"
      style={{ top: LANE.top - 8, height: height - LANE.top }}
    />
  );
}

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
  const { riff, part, map } = line;
  const { setup } = part;
  const key = momentAt(map, barStart(map.meters, bar)).key;
  const names = useMemo(() => stringLabels(setup, stringNumbers(setup).reverse(), key, schools), [setup, key, schools]);
  return (
    <section
      aria-label={`${part.name} as it is played`}
      className="flex gap-4 border-t border-rule py-2 max-[899px]:flex-col"
    >
      <PartStrip {...{ line, bar }} bars={BARS} lanes={LANES}>
        {(time, height) => <Playhead {...{ playing, at, time, height }} />}
      </PartStrip>
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

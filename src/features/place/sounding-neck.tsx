import { useEffect, useMemo, useState, type ComponentProps } from 'react';
import { nutOf } from '@/core/instrument';
import { endOf, type Riff, type RiffEvent } from '@/core/score';
import { toNumber } from '@/core/time';
import { Neck, type NeckPlace } from '@/ui/draw/neck';

/** The neck with what sounds now laid over it: only this is drawn anew as the music goes on. */
export function SoundingNeck({
  riff,
  playing,
  playhead,
  places,
  ...neck
}: ComponentProps<typeof Neck> & {
  readonly riff: Riff;
  readonly playing: boolean;
  readonly playhead: () => number | null;
}) {
  const event = useSounding(riff, playing, playhead);
  const { setup } = neck;
  const now =
    event?.notes.flatMap((note): NeckPlace[] =>
      note.place
        ? [
            {
              string: note.place.string,
              fretFromNut: note.place.fret + nutOf(setup, note.place.string),
              kind: 'playing',
              text: String(note.place.fret),
              title: 'sounds now',
            },
          ]
        : [],
    ) ?? [];
  // As far as the riff goes, so that the neck keeps its measure while it plays.
  const furthest = useMemo(
    () =>
      Math.max(
        0,
        ...riff.events.flatMap((event) =>
          event.notes.map((note) => (note.place ? note.place.fret + nutOf(setup, note.place.string) : 0)),
        ),
      ),
    [riff, setup],
  );
  return (
    <Neck
      {...neck}
      furthest={furthest}
      places={[...places.filter((place) => !now.some((one) => one.string === place.string)), ...now]}
    />
  );
}

/** The event the music has come to; null in silence and in rests. */
function useSounding(riff: Riff, playing: boolean, playhead: () => number | null): RiffEvent | null {
  const [index, setIndex] = useState(-1);
  const times = useMemo(
    () => (playing ? riff.events.map((event) => [toNumber(event.at), toNumber(endOf(event))] as const) : []),
    [playing, riff.events],
  );
  useEffect(() => {
    if (times.length === 0) return;
    let shown = -1;
    let frame = requestAnimationFrame(function follow() {
      frame = requestAnimationFrame(follow);
      const at = playhead();
      const next = at === null ? -1 : times.findLastIndex(([from, to]) => from <= at + 1e-6 && at < to);
      if (next !== shown) setIndex((shown = next));
    });
    return () => {
      cancelAnimationFrame(frame);
      setIndex(-1);
    };
  }, [times, playhead]);
  return riff.events[index] ?? null;
}

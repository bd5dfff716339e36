import { barStart, toNumber } from '@/core/time';
import type { ClipDocument } from '@/core/hearing';
import { useToast } from '@/ui/toast';
import { held, type View } from './picture-frame';
import type { ClipContext } from './use-clip-context';
import type { ClipPlaying } from './use-clip-player';

interface Given {
  readonly context: ClipContext;
  readonly player: ClipPlaying;
  readonly view: View;
  readonly setView: (view: View) => void;
  readonly change: (document: ClipDocument) => void;
}

/** Bars laid on a recording by hand, and the loop taken by whole bars. */
export function useLaying({ context, player, view, setView, change }: Given) {
  const toast = useToast();
  const { bars, seconds, target, marks, withMarks } = context;
  const { at, loop, setLoop, setLooping, playing, stand } = player;
  const layBar = (): void => {
    const here = Math.round(at() * 1000) / 1000;
    const last = marks.at(-1);
    const near = bars?.known
      ? Math.round(
          bars
            .lines(here - 20, here + 20)
            .reduce((best, one) => (Math.abs(one.at - here) < Math.abs(best.at - here) ? one : best), {
              bar: 0,
              at: -1e9,
            }).bar,
        )
      : last
        ? last.bar + 1
        : 0;
    const kept = marks.filter((one) => one.bar !== near && Math.abs(one.at - here) > 0.05);
    const next = [...kept, { bar: near, at: here }].sort((a, b) => a.at - b.at);
    if (!next.every((one, i) => i === 0 || one.bar > (next[i - 1]?.bar ?? -99)))
      return toast('That bar would stand before one that comes earlier. Move the other line first.');
    change(withMarks(next));
  };
  /** The loop by whole bars: the bar at the playhead, or the loop grown or moved by a bar. */
  const loopBars = (grow: number, move = 0): void => {
    if (!bars?.known) return toast('Lay bars first: B at each bar’s beginning, or let the program listen.');
    // Before the first bar it is the first bar that is meant.
    const first = bars.barAt(Math.max(bars.seconds(0), loop?.from ?? at()) + 0.01);
    const last = loop ? bars.barAt(loop.to - 0.01) : first;
    const edge = (bar: number): number =>
      bars.seconds(toNumber(barStart(target?.riff.meters ?? [{ bar: 0, beats: 4, unit: 4 }], bar)));
    const from = Math.max(0, edge(first.bar + move));
    const to = Math.min(
      seconds,
      edge(Math.max(first.bar + 1, (grow === 0 && move === 0 ? first.bar : last.bar) + 1 + grow) + move),
    );
    if (to - from < 0.05) return;
    setLoop({ from, to });
    setLooping(true);
    if (!playing) stand(from);
    if (from < view.from || to > view.to)
      setView(held({ from: from - (to - from) / 2, to: to + (to - from) / 2 }, seconds));
  };
  /** Moves one bar line; refused where it would pass its neighbour. */
  const moveLine = (bar: number, to: number): void => {
    const others = marks.filter((one) => one.bar !== bar);
    const next = [...others, { bar, at: Math.round(to * 1000) / 1000 }].sort((a, b) => a.bar - b.bar);
    if (next.every((one, i) => i === 0 || one.at > (next[i - 1]?.at ?? -1e9))) change(withMarks(next));
    else toast('A bar line can’t go past its neighbour.');
  };
  return { layBar, loopBars, moveLine };
}

export type Laying = ReturnType<typeof useLaying>;

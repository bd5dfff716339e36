import { useEffect, type RefObject } from 'react';
import { toNumber } from '@/core/time';
import type { RowScale } from '@/ui/draw/spacing';
import type { StripRow } from '@/ui/draw/strip-layout';

/** The playhead moves by itself, outside React: a frame costs one style change. */
export function usePlayhead(
  head: RefObject<HTMLDivElement | null>,
  {
    playing,
    rows,
    scaleOf,
    rowHeight,
    playhead,
  }: {
    readonly playing: boolean;
    readonly rows: readonly StripRow[];
    readonly scaleOf: (row: StripRow) => RowScale;
    readonly rowHeight: number;
    readonly playhead: () => number | null;
  },
): void {
  useEffect(() => {
    const drawn = head.current;
    if (!playing) return;
    let frame = 0;
    // The scale of the row it is in: one row is played for seconds.
    let scaled: { readonly row: StripRow; readonly scale: RowScale } | null = null;
    const follow = (): void => {
      frame = requestAnimationFrame(follow);
      const line = head.current;
      if (!line) return;
      const at = playhead();
      const row = at === null ? undefined : (rows.find((row) => at < toNumber(row.to) - 1e-9) ?? rows.at(-1));
      if (at === null || !row) {
        line.style.opacity = '0';
        return;
      }
      if (scaled?.row !== row) scaled = { row, scale: scaleOf(row) };
      const x = scaled.scale.time(at);
      line.style.opacity = '1';
      line.style.transform = `translate(${x}px, ${row.index * rowHeight + 6}px)`;
    };
    frame = requestAnimationFrame(follow);
    return () => {
      cancelAnimationFrame(frame);
      if (drawn) drawn.style.opacity = '0';
    };
  }, [head, playing, rows, scaleOf, rowHeight, playhead]);
}

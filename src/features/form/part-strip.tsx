import { useMemo, type ReactNode } from 'react';
import { momentAt, type Line } from '@/core/form';
import { stringNumbers } from '@/core/instrument';
import { barStart } from '@/core/time';
import { stringLabels } from '@/features/place/strip';
import { laneScales, laneTops, type LaneName } from '@/ui/draw/lanes';
import { rowsOf } from '@/ui/draw/strip-layout';
import { StripRowView } from '@/ui/draw/strip-row';
import { FIGURE, rowFigure, rowScale } from '@/ui/draw/strip-scale';
import { useSchools } from '@/ui/schools';
import { useWidth } from '@/ui/use-width';

const NO_HANDS: ReadonlyMap<string, number> = new Map();

/** Some bars of what a part plays in the form: its strip, to be looked at. */
export function PartStrip({
  line,
  bar,
  bars,
  lanes,
  children,
}: {
  readonly line: Line;
  /** A bar that is shown, from 0: the row of so many bars it stands in. */
  readonly bar: number;
  readonly bars: number;
  readonly lanes: ReadonlySet<LaneName>;
  /** Laid over it, with where a time in quarters stands in pixels and how high it is. */
  readonly children?: (time: (quarters: number) => number, height: number) => ReactNode;
}) {
  const schools = useSchools();
  const [box, width] = useWidth();
  const { riff, part, map } = line;
  const { setup } = part;
  const key = momentAt(map, barStart(map.meters, bar)).key;
  const names = useMemo(() => stringLabels(setup, stringNumbers(setup).reverse(), key, schools), [setup, key, schools]);
  const rows = useMemo(() => rowsOf(riff, bars), [riff, bars]);
  const index = Math.min(rows.length - 1, Math.floor(bar / bars));
  const row = rows[index];
  const scales = useMemo(() => laneScales(riff, setup, NO_HANDS, schools), [riff, setup, schools]);
  const scale = useMemo(() => {
    if (!row || width === 0) return null;
    return rowScale(row, riff.meters, width, scales, rowFigure(row, riff.meters, width, scales, FIGURE));
  }, [row, width, riff.meters, scales]);
  const height = laneTops(lanes, stringNumbers(setup).length).bottom;
  return (
    <div ref={box} className="relative min-w-0 flex-1 border border-rule bg-sheet" style={{ height }}>
      {row && width > 0 ? (
        <StripRowView
          {...{ row, width, scales, setup, schools, lanes }}
          meters={riff.meters}
          keyShown={key}
          stringNames={names}
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
      {scale ? children?.((quarters) => scale.time(quarters), height) : null}
    </div>
  );
}

import { spanOf, type PaperItem, type PaperLayout } from './paper';

/** A stretch of the long sheet that is one page. */
export interface PageCut {
  readonly from: number;
  readonly to: number;
}

/**
 * Where a long sheet is cut into pages: at breaks that are asked for, else as low as a page goes without cutting
 * through anything that stays together; through it only where it is taller than a page.
 */
export function pageCuts(layout: Pick<PaperLayout, 'page' | 'height' | 'whole' | 'breaks' | 'items'>): PageCut[] {
  const room = layout.page.height - 2 * layout.page.margin;
  const whole = joined([...layout.whole, ...layout.items.map(spanOf)]);
  const breaks = [...layout.breaks].filter((at) => at > 0 && at < layout.height).sort((a, b) => a - b);
  const cuts: PageCut[] = [];
  let from = 0;
  while (from < layout.height - 0.5) {
    const asked = breaks.find((at) => at > from + 0.5);
    const most = Math.min(layout.height, from + room);
    let to = asked !== undefined && asked <= most ? asked : most;
    if (to === most && most < layout.height) {
      const over = whole.find(([a, b]) => a < to - 0.5 && b > to + 0.5);
      // What begins on this page and ends beyond it goes to the next one.
      if (over && over[0] > from + 0.5) to = over[0];
    }
    cuts.push({ from, to });
    from = to;
  }
  return cuts.length > 0 ? cuts : [{ from: 0, to: layout.height }];
}

/** Stretches that overlap are one. */
function joined(stretches: readonly (readonly [number, number])[]): [number, number][] {
  const out: [number, number][] = [];
  for (const [from, to] of [...stretches].sort((a, b) => a[0] - b[0])) {
    const last = out.at(-1);
    if (last && from < last[1] - 0.01) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/** The items of a page: those that begin on it. */
export const itemsOn = (items: readonly PaperItem[], { from, to }: PageCut): PaperItem[] =>
  items.filter((item) => {
    const [top, bottom] = spanOf(item);
    const middle = (top + bottom) / 2;
    return middle >= from && middle < to;
  });

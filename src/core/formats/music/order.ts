import type { BarRange, Repeat } from './types';

/** Bars played at most; a file that jumps about for ever is cut there. */
export const MOST_PLAYED = 10_000;

/** The order of bars that repeats and endings give: neighbouring ranges joined. */
export function orderOf(bars: number, repeats: readonly Repeat[]): BarRange[] {
  const out: BarRange[] = [];
  const push = (from: number, to: number): void => {
    if (to <= from) return;
    const last = out.at(-1);
    if (last?.to === from) out[out.length - 1] = { from: last.from, to };
    else out.push({ from, to });
  };
  let at = 0;
  let played = 0;
  for (const repeat of [...repeats].sort((a, b) => a.from - b.from)) {
    if (repeat.from < at) continue;
    push(at, repeat.from);
    const first = repeat.endings[0]?.from ?? repeat.to;
    const end = repeat.endings.at(-1)?.to ?? repeat.to;
    for (let pass = 1; pass <= repeat.times && played < MOST_PLAYED; pass++) {
      const ending = repeat.endings.find((one) => one.passes.includes(pass));
      if (ending?.from === first) push(repeat.from, ending.to);
      else {
        push(repeat.from, first);
        if (ending) push(ending.from, ending.to);
      }
      played += end - repeat.from;
    }
    at = end;
  }
  push(at, bars);
  return out;
}

/** Bars where a stretch begins that is played as a whole: at every jump of the order, and at the marks. */
export function cutsOf(order: readonly BarRange[], marks: readonly number[], bars: number): number[] {
  const cuts = new Set<number>([0, ...marks.filter((bar) => bar > 0 && bar < bars)]);
  order.forEach((range, i) => {
    const next = order[i + 1];
    if (range.from > 0) cuts.add(range.from);
    if (next && range.to < bars) cuts.add(range.to);
    else if (!next && range.to < bars) cuts.add(range.to);
  });
  return [...cuts].sort((a, b) => a - b);
}

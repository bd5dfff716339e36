import { MOST_PLAYED, orderOf, type BarRange, type Repeat } from '../music';
import type { ReadMeasure } from './measure';

/** From repeat signs, endings and jumps to what is played. Measures of the first part lead: signs stand in all. */

export function repeatsOf(measures: readonly ReadMeasure[]): Repeat[] {
  const repeats: Repeat[] = [];
  let start = 0;
  for (let bar = 0; bar < measures.length; bar++) {
    const one = measures[bar] as ReadMeasure;
    if (one.forward) start = bar;
    if (one.endingStart) {
      const endings = endingsFrom(measures, bar);
      const last = endings.at(-1);
      if (last && last.to > bar) {
        const times = Math.max(2, ...endings.flatMap((ending) => ending.passes));
        if (start < bar || endings.length > 1) repeats.push({ from: start, to: last.to, times, endings });
        start = last.to;
        bar = last.to - 1;
        continue;
      }
    }
    if (one.backward !== null) {
      repeats.push({ from: start, to: bar + 1, times: one.backward, endings: [] });
      start = bar + 1;
    }
  }
  return repeats;
}

/** Endings one behind the other, from a bar on. One that is nowhere closed ends with the repeat sign, or is a bar. */
function endingsFrom(measures: readonly ReadMeasure[], from: number): Repeat['endings'] {
  const endings: (BarRange & { passes: readonly number[] })[] = [];
  const seen = new Set<number>();
  for (let bar = from; bar < measures.length;) {
    const passes = measures[bar]?.endingStart;
    if (!passes) break;
    // A pass that had its ending begins the endings of another repeat.
    if (passes.some((pass) => seen.has(pass))) break;
    passes.forEach((pass) => seen.add(pass));
    let to = bar;
    while (
      to < measures.length - 1 &&
      !measures[to]?.endingStop &&
      measures[to]?.backward === null &&
      !measures[to + 1]?.endingStart
    )
      to++;
    const closed = measures[to]?.endingStop || measures[to]?.backward !== null || measures[to + 1]?.endingStart;
    endings.push({ from: bar, to: closed ? to + 1 : bar + 1, passes });
    const last = endings.at(-1);
    bar = last?.to ?? bar + 1;
    // The last ending has no sign to go back.
    if (last && measures[last.to - 1]?.backward === null) break;
  }
  return endings;
}

/** The order of playing: repeats, then the jump back to beginning or sign, to the end, "fine" or the coda. */
export function playedOrder(measures: readonly ReadMeasure[], repeats: readonly Repeat[]): BarRange[] {
  const bars = measures.length;
  const jumpAt = measures.findIndex((one) => one.jump !== null);
  const jump = measures[jumpAt]?.jump;
  if (!jump) return orderOf(bars, repeats);
  const sign = measures.findIndex((one) => one.sign);
  const target = jump.to === 'sign' && sign >= 0 && sign <= jumpAt ? sign : 0;
  const first = clipped(orderOf(bars, repeats), jumpAt + 1);
  const fine = measures.findIndex((one, bar) => bar >= target && one.fine);
  const leave = measures.findIndex((one, bar) => bar >= target && one.toCoda);
  const coda = measures.findLastIndex((one, bar) => one.coda && bar > leave);
  const again = orderOf(bars, repeats.map(lastPass));
  const until =
    jump.until === 'fine' || (fine >= 0 && leave < 0)
      ? fine + 1 || bars
      : leave >= 0 && coda > leave
        ? leave + 1
        : bars;
  const second = clipped(again, until).flatMap((range) => cut(range, target, until));
  const rest =
    leave >= 0 && coda > leave && until === leave + 1 ? again.flatMap((range) => cut(range, coda, bars)) : [];
  return joined([...first, ...second, ...rest]);
}

/** After a jump repeats are played once, with their last ending. */
function lastPass(repeat: Repeat): Repeat {
  const last = repeat.endings.find((one) => one.passes.includes(repeat.times)) ?? repeat.endings.at(-1);
  return {
    ...repeat,
    times: 1,
    endings: last ? repeat.endings.map((one) => ({ ...one, passes: one === last ? [1] : [0] })) : [],
  };
}

/** The order up to the first time a bar's end is reached for good: the last range that holds it is cut there. */
function clipped(order: readonly BarRange[], end: number): BarRange[] {
  const last = order.findLastIndex((range) => range.from < end && range.to >= end);
  return last < 0 ? [...order] : [...order.slice(0, last), ...cut(order[last] as BarRange, 0, end)];
}

const cut = (range: BarRange, from: number, to: number): BarRange[] => {
  const [a, b] = [Math.max(range.from, from), Math.min(range.to, to)];
  return b > a ? [{ from: a, to: b }] : [];
};

function joined(ranges: readonly BarRange[]): BarRange[] {
  const out: BarRange[] = [];
  let bars = 0;
  for (const range of ranges) {
    bars += range.to - range.from;
    if (bars > MOST_PLAYED) break;
    const last = out.at(-1);
    if (last?.to === range.from) out[out.length - 1] = { from: last.from, to: range.to };
    else out.push(range);
  }
  return out;
}

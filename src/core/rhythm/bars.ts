import { finding, type Finding, type Locus } from '../base';
import type { Riff } from '../score';
import { add, barOf, barStart, cmp, sub, ZERO, type Quarter } from '../time';
import { barWords, sumBar, type BarSum, type Counted } from './arithmetic';

/** A bar that does not come out: what is off, of how much, and the likely causes as its evidence. */
export interface BarFinding extends Finding {
  readonly rule: 'bar-short' | 'bar-over';
  readonly locus: Locus & { readonly riff: string; readonly bar: number };
}

/**
 * Bars of a riff whose written lengths run over, or leave silence at their end. Silence between
 * notes is a rest; what rings under others is no length of its own; the last bar may stop early
 * where the riff has more bars.
 */
export function barFindings(riff: Riff): BarFinding[] {
  const bars = new Map<number, { readonly list: Counted[]; end: Quarter }>();
  const events = riff.events.filter((event) => !event.grace);
  events.forEach((event, i) => {
    const { bar } = barOf(riff.meters, event.at);
    if (bar < 0) return;
    const next = events[i + 1];
    const at = bars.get(bar) ?? { list: [], end: barStart(riff.meters, bar) };
    if (cmp(event.at, at.end) > 0) at.list.push({ length: sub(event.at, at.end), name: 'the rest' });
    const under = event.letRing || event.notes.some((note) => note.technique?.letRing);
    const step = under && next && cmp(add(event.at, event.dur), next.at) > 0 ? sub(next.at, event.at) : event.dur;
    at.list.push({ length: step, name: `note ${at.list.length + 1}` });
    at.end = add(event.at, step);
    bars.set(bar, at);
  });
  const last = Math.max(-1, ...bars.keys());
  return [...bars].flatMap(([bar, { list }]) => {
    const full = sub(barStart(riff.meters, bar + 1), barStart(riff.meters, bar));
    const sum = sumBar(list, full);
    const stopsEarly = bar === last && cmp(sum.off, ZERO) < 0 && riff.bars > bar + 1;
    return sum.off === ZERO || stopsEarly ? [] : [barFinding(riff.id, bar, sum, full)];
  });
}

function barFinding(riff: string, bar: number, sum: BarSum, full: Quarter): BarFinding {
  const rule = cmp(sum.off, ZERO) < 0 ? 'bar-short' : 'bar-over';
  const evidence = sum.causes.length > 0 ? sum.causes.join('; or ') : null;
  return { ...finding(rule, 'question', barWords(sum, full), {}, { evidence }), rule, locus: { riff, bar } };
}

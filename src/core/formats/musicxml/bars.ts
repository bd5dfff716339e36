import { finding, type Finding } from '../../base';
import { add, barLength, cmp, parseMeter, sub, toRatio, ZERO, type MeterChange, type Quarter } from '../../time';
import type { Question, ReadOptions } from '../music';
import type { LeftOutList } from './left-out';
import type { ReadMeasure } from './measure';

export interface Bars {
  /** Where each measure of the file begins, from the first whole bar. */
  readonly starts: readonly Quarter[];
  readonly lengths: readonly Quarter[];
  readonly meters: readonly MeterChange[];
  readonly pickup: Quarter;
  readonly questions: readonly Question[];
  /** Measures whose notes beyond the bar line are left out. */
  readonly cut: ReadonlySet<number>;
}

/** How long each measure is: as its meter says, a pickup and split measures as they are, an over-full one asked. */
export function barsOf(
  parts: readonly (readonly ReadMeasure[])[],
  answers: NonNullable<ReadOptions['answers']>,
  left: LeftOutList,
  remarks: Finding[],
): Bars {
  const count = parts.reduce((most, part) => Math.max(most, part.length), 0);
  let meter = { beats: 4, unit: 4 };
  let pickup = ZERO;
  const lengths: Quarter[] = [];
  const meters: MeterChange[] = [];
  const questions: Question[] = [];
  const cut = new Set<number>();
  let short = 0;
  let bar = 0;
  for (let i = 0; i < count; i++) {
    const all = parts.flatMap((part) => part[i] ?? []);
    meter = all.find((one) => one.meter)?.meter ?? meter;
    const nominal = barLength(meter);
    const content = all.reduce<Quarter>((most, one) => (cmp(one.length, most) > 0 ? one.length : most), ZERO);
    const split = all.some((one) => one.implicit);
    const under = cmp(content, ZERO) > 0 && cmp(content, nominal) < 0;
    const over = cmp(content, nominal) > 0;
    if (i === 0 && under && count > 1) {
      pickup = content;
      lengths.push(content);
      continue;
    }
    let length = nominal;
    let here = meter;
    if (over) {
      const id = `overfull-${i + 1}`;
      const own = meterFor(content);
      const number = all[0]?.number || String(i + 1);
      const usual = own ? 'longer' : 'cut';
      questions.push({
        id,
        finding: finding(
          'overfull',
          'question',
          `Measure ${number} holds ${quartersWords(content)} in a meter of ${meter.beats}/${meter.unit}.`,
          { path: ['measure', i + 1] },
        ),
        answers: [
          ...(own ? [{ id: 'longer', words: `Make the bar longer: ${own.beats}/${own.unit}` }] : []),
          { id: 'cut', words: 'Keep the meter, leave out what goes beyond' },
        ],
        usual,
      });
      if ((answers[id] ?? usual) === 'longer' && own) {
        length = content;
        here = own;
      } else cut.add(i);
    } else if (under && split) {
      const own = meterFor(content);
      if (own) {
        length = content;
        here = own;
      }
    } else if (under) short++;
    lengths.push(length);
    const last = meters.at(-1);
    if (last?.beats !== here.beats || last.unit !== here.unit) meters.push({ bar, ...here });
    bar++;
  }
  if (short > 0)
    remarks.push(
      finding(
        'underfull',
        'warning',
        `${short === 1 ? 'A bar does' : `${short} bars do`} not fill the meter: rests were added.`,
      ),
    );
  if (cut.size > 0) left.add('notes beyond an over-full bar', `measure ${Math.min(...cut) + 1}`, cut.size);
  const starts: Quarter[] = [];
  let at = pickup === ZERO ? ZERO : sub(ZERO, pickup);
  for (const length of lengths) {
    starts.push(at);
    at = add(at, length);
  }
  return { starts, lengths, meters: meters.length > 0 ? meters : [{ bar: 0, ...meter }], pickup, questions, cut };
}

/** A meter of so many quarters; null where none of the usual note values counts it. */
function meterFor(length: Quarter): { beats: number; unit: number } | null {
  const { n, d } = toRatio(length);
  const unit = d === 1 ? 4 : 4 * d;
  return parseMeter(`${n}/${unit}`);
}

const quartersWords = (length: Quarter): string => {
  const { n, d } = toRatio(length);
  return `${Math.round((n / d) * 100) / 100} quarters`;
};

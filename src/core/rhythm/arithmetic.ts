import { cmp, describeQuarters, mul, quarter, sub, ZERO, type Quarter } from '../time';
import { amountWords, lengthLabel, total, valueWords, withArticle } from './lengths';

/** How a bar comes out, and what may have gone wrong. */
export interface BarSum {
  /** What is over (above 0) or missing (below 0), in quarters. */
  readonly off: Quarter;
  /** Likely causes, the likeliest first; empty where the bar is full. */
  readonly causes: readonly string[];
}

/** A length in a bar and what it is called ("note 3", "rest"). */
export interface Counted {
  readonly length: Quarter;
  readonly name: string;
}

const MOST = 4;

/**
 * Adds up a bar and looks for the single slips that would make it fit: a length said one value
 * off, a dot lost or one too many, a tuplet unsaid, notes lost or one too many, a rest unsaid.
 */
export function sumBar(counted: readonly Counted[], full: Quarter): BarSum {
  const off = sub(total(counted.map((one) => one.length)), full);
  if (off === ZERO) return { off, causes: [] };
  const short = cmp(off, ZERO) < 0;
  const causes: { text: string; price: number }[] = [];
  counted.forEach(({ length, name }, i) => {
    const should = sub(length, off);
    if (cmp(should, ZERO) <= 0) return;
    const words = valueWords(should);
    if (words === null) return;
    const dot = should === mul(length, 3, 2) || length === mul(should, 3, 2);
    const twice = should === mul(length, 2) || length === mul(should, 2);
    if (dot || twice)
      causes.push({
        text: `${name} may be a ${words}, not a ${lengthLabel(length)}`,
        price: (dot ? 1 : 1.5) + (i === counted.length - 1 ? -0.5 : 0),
      });
  });
  const same = runOfSame(counted);
  if (!short && same.count >= 3 && sub(mul(same.length, same.count), mul(same.length, same.count * 2, 3)) === off) {
    causes.push({ text: `${same.count} ${lengthLabel(same.length)}s in a row may be triplets`, price: 0.8 });
  }
  if (short) {
    const missing = mul(off, -1);
    const lost = commonest(counted);
    if (lost && isWhole(missing, lost)) {
      const n = times(missing, lost);
      causes.push({
        text:
          n === 1
            ? `${withArticle(lengthLabel(lost))} note may be lost`
            : `${n} notes of ${withArticle(lengthLabel(lost))} may be lost`,
        price: 1 + 0.3 * n,
      });
    }
    causes.push({ text: `a rest of ${amountWords(missing)} may be unsaid`, price: 1.2 });
  } else {
    const last = counted.at(-1);
    const extra = counted.filter((one) => one.length === off).at(-1);
    if (extra)
      causes.push({
        text:
          extra === last
            ? `${extra.name} may belong to the next bar`
            : `one note of ${withArticle(lengthLabel(off))} may be too many`,
        price: 1.1,
      });
    else if (last && cmp(off, last.length) < 0)
      causes.push({ text: `${last.name} may be tied over into the next bar`, price: 1.3 });
  }
  return {
    off,
    causes: causes
      .sort((a, b) => a.price - b.price)
      .slice(0, MOST)
      .map((one) => one.text),
  };
}

/** "1/2 quarters missing of 4", with causes. */
export function barWords(sum: BarSum, full: Quarter): string {
  if (sum.off === ZERO) return `full: ${describeQuarters(full)}`;
  const short = cmp(sum.off, ZERO) < 0;
  const amount = describeQuarters(short ? mul(sum.off, -1) : sum.off);
  const head = short
    ? `${amount} of ${describeQuarters(full)} quarters missing`
    : `${amount} quarters more than ${describeQuarters(full)}`;
  return sum.causes.length > 0 ? `${head}: ${sum.causes.join('; or ')}` : head;
}

function runOfSame(counted: readonly Counted[]): { length: Quarter; count: number } {
  let best = { length: ZERO, count: 0 };
  let count = 0;
  counted.forEach(({ length }, i) => {
    count = counted[i - 1]?.length === length ? count + 1 : 1;
    if (count > best.count) best = { length, count };
  });
  return best;
}

function commonest(counted: readonly Counted[]): Quarter | null {
  const times = new Map<Quarter, number>();
  for (const { length } of counted) times.set(length, (times.get(length) ?? 0) + 1);
  return [...times].sort((a, b) => b[1] - a[1])[0]?.[0] ?? quarter(1, 2);
}

function times(a: Quarter, b: Quarter): number {
  for (let n = 1; n <= 16; n++) if (mul(b, n) === a) return n;
  return 0;
}
const isWhole = (a: Quarter, b: Quarter): boolean => times(a, b) > 0;

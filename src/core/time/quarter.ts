/**
 * Exact musical time: a rational number of quarter notes, kept as its canonical string ("3/2",
 * "-1", "0"), so that equal times are equal strings in documents, maps and tests. Never a float.
 */
export type Quarter = string & { readonly __quarter: true };

interface Ratio {
  readonly n: number;
  readonly d: number;
}

const PATTERN = /^(-?\d{1,12})(?:\/(\d{1,12}))?$/;
/** Times of a long file of many parts: below it each would be read from its text again and again. */
const CACHE_LIMIT = 100_000;
const cache = new Map<string, Ratio>();

function gcd(a: number, b: number): number {
  while (b !== 0) [a, b] = [b, a % b];
  return Math.abs(a);
}

function make(n: number, d: number): Quarter {
  if (!Number.isSafeInteger(n) || !Number.isSafeInteger(d) || d === 0)
    throw new RangeError(`musical time out of range: ${n}/${d}`);
  const g = gcd(n, d) || 1;
  const sign = d < 0 ? -1 : 1;
  const num = (sign * n) / g || 0;
  const den = (sign * d) / g;
  const text = (den === 1 ? String(num) : `${num}/${den}`) as Quarter;
  if (!cache.has(text)) {
    if (cache.size > CACHE_LIMIT) cache.clear();
    cache.set(text, { n: num, d: den });
  }
  return text;
}

function ratio(at: Quarter): Ratio {
  const known = cache.get(at);
  if (known) return known;
  const parsed = parseQuarter(at);
  if (parsed === null) throw new RangeError(`not a musical time: ${at}`);
  return cache.get(parsed) ?? { n: 0, d: 1 };
}

/** Reads "3", "3/2" or "-1/4"; null when it is none of these. The result is in lowest terms. */
export function parseQuarter(text: string): Quarter | null {
  const match = PATTERN.exec(text.trim());
  if (!match) return null;
  const d = match[2] === undefined ? 1 : Number(match[2]);
  return d === 0 ? null : make(Number(match[1]), d);
}

/** n/d quarter notes. Throws RangeError beyond safe integers or for d = 0. */
export const quarter = (n: number, d = 1): Quarter => make(n, d);

export const ZERO = quarter(0);

export function add(a: Quarter, b: Quarter): Quarter {
  const one = ratio(a);
  const other = ratio(b);
  return one.d === other.d ? make(one.n + other.n, one.d) : make(one.n * other.d + other.n * one.d, one.d * other.d);
}

export function sub(a: Quarter, b: Quarter): Quarter {
  const one = ratio(b);
  return add(a, make(-one.n, one.d));
}

export function mul(a: Quarter, n: number, d = 1): Quarter {
  const one = ratio(a);
  return make(one.n * n, one.d * d);
}

/** Negative, zero or positive as a is before, at or after b. */
export function cmp(a: Quarter, b: Quarter): number {
  if (a === b) return 0;
  const one = ratio(a);
  const other = ratio(b);
  return one.n * other.d - other.n * one.d;
}

export const lt = (a: Quarter, b: Quarter): boolean => cmp(a, b) < 0;
export const le = (a: Quarter, b: Quarter): boolean => cmp(a, b) <= 0;
export const maxQuarter = (a: Quarter, b: Quarter): Quarter => (cmp(a, b) >= 0 ? a : b);
export const minQuarter = (a: Quarter, b: Quarter): Quarter => (cmp(a, b) <= 0 ? a : b);

/** As a float, for drawing and sounding only: never to compute musical times with. */
export function toNumber(at: Quarter): number {
  const one = ratio(at);
  return one.n / one.d;
}

/** Numerator and denominator in lowest terms. */
export const toRatio = (at: Quarter): Ratio => ratio(at);

/** How many whole times b fits into a (floor of a/b). b must be positive. */
export function floorDiv(a: Quarter, b: Quarter): number {
  const one = ratio(a);
  const other = ratio(b);
  return Math.floor((one.n * other.d) / (one.d * other.n));
}

import { add, cmp, describeQuarters, mul, quarter, sub, ZERO, type Quarter } from '../time';

/** The words for lengths, the longest first. */
export const LENGTHS: Readonly<Record<string, Quarter>> = {
  whole: quarter(4),
  half: quarter(2),
  quarter: quarter(1),
  eighth: quarter(1, 2),
  sixteenth: quarter(1, 4),
  'thirty-second': quarter(1, 8),
  'sixty-fourth': quarter(1, 16),
};

/** How many notes of a tuplet take the time of how many. */
export const TUPLETS: Readonly<Record<string, readonly [number, number]>> = {
  duplet: [2, 3],
  triplet: [3, 2],
  quintuplet: [5, 4],
  sextuplet: [6, 4],
  septuplet: [7, 4],
};

/** Words of one written value by its length: plain, dotted, double dotted, in a tuplet, in a tuplet of a tuplet. */
const WORDS: ReadonlyMap<Quarter, string> = (() => {
  const words = new Map<Quarter, string>();
  const put = (length: Quarter, wording: string): void => {
    if (!words.has(length)) words.set(length, wording);
  };
  const entries = Object.entries(LENGTHS);
  for (const [word, plain] of entries) put(plain, word);
  for (const [word, plain] of entries) put(mul(plain, 3, 2), `dotted ${word}`);
  for (const [word, plain] of entries) put(mul(plain, 7, 4), `dotted dotted ${word}`);
  const tuplets = (['triplet', 'quintuplet', 'septuplet', 'duplet'] as const).map(
    (name) => [name, TUPLETS[name] ?? [1, 1]] as const,
  );
  for (const [name, [n, m]] of tuplets) for (const [word, plain] of entries) put(mul(plain, m, n), `${name} ${word}`);
  for (const [name, [n, m]] of tuplets)
    for (const [word, plain] of entries) put(mul(plain, 3 * m, 2 * n), `${name} dotted ${word}`);
  for (const [outer, [n, m]] of tuplets)
    for (const [inner, [k, l]] of tuplets)
      for (const [word, plain] of entries) put(mul(plain, m * l, n * k), `${outer} ${inner} ${word}`);
  return words;
})();

/** The words for a length that one written value has, or null. */
export const valueWords = (length: Quarter): string | null => WORDS.get(length) ?? null;

/** The words for a length, tied of two values where one does not do; null where it takes more. */
export function lengthWords(length: Quarter): string | null {
  const one = WORDS.get(length);
  if (one !== undefined) return one;
  for (const plain of Object.values(LENGTHS)) {
    if (cmp(plain, length) >= 0) continue;
    const rest = WORDS.get(sub(length, plain));
    if (rest !== undefined && cmp(sub(length, plain), ZERO) > 0) return `${WORDS.get(plain) ?? ''} tied ${rest}`;
  }
  return null;
}

/** A length in words where it has some, else in quarters. */
export const lengthLabel = (length: Quarter): string => lengthWords(length) ?? `${describeQuarters(length)} quarters`;

/** A word with its article: "an eighth", "a quarter". */
export const withArticle = (words: string): string => `${/^[aeiou]/.test(words) ? 'an' : 'a'} ${words}`;

/** How much time, in words: "an eighth", "a quarter", "2 1/2 quarters". */
export function amountWords(length: Quarter): string {
  const short = cmp(length, quarter(1)) <= 0 ? valueWords(length) : null;
  return short === null ? `${describeQuarters(length)} quarters` : withArticle(short);
}

/** The sum of lengths. */
export const total = (lengths: readonly Quarter[]): Quarter => lengths.reduce(add, ZERO);

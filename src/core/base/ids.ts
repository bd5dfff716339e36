const ALPHABET = '0123456789abcdefghjkmnpqrstvwxyz';
const BASE = ALPHABET.length;
/** Numbers of more digits than this are no numbers of ours: an id from outside. */
const MOST_DIGITS = 8;

function digitsOf(number: number): string {
  let digits = '';
  for (let rest = number; digits === '' || rest > 0; rest = Math.floor(rest / BASE))
    digits = ALPHABET[rest % BASE] + digits;
  return digits;
}

/**
 * A short id that does not clash with those taken: the prefix and the lowest free number in a
 * readable base-32. Deterministic, so the same edits give the same document everywhere. For things whose
 * ids may be used again after a deletion; what stands in a piece gets its ids from `freshIds`.
 */
export function stableId(prefix: string, taken: ReadonlySet<string>, from = taken.size): string {
  for (let number = from; ; number++) {
    const id = prefix + digitsOf(number);
    if (!taken.has(id)) return id;
  }
}

/** The number behind the first letter of an id as `freshIds` makes them; 0 for an id of another form. */
export function idNumber(id: string): number {
  if (id.length < 2 || id.length > MOST_DIGITS + 1) return 0;
  let number = 0;
  for (let i = 1; i < id.length; i++) {
    const digit = ALPHABET.indexOf(id.charAt(i));
    if (digit < 0) return 0;
    number = number * BASE + digit;
  }
  return number;
}

/** Gives ids one after the other, each with a one-letter prefix and a number above every number given before. */
export function freshIds(last: number): (prefix: string) => string {
  let number = last;
  return (prefix) => prefix + digitsOf(++number);
}

/** Reading a short typed line from left to right: words, numbers, names that are known. */
export class Scan {
  at = 0;
  constructor(
    readonly text: string,
    private readonly to = text.length,
  ) {}

  /** Past spaces; whether nothing is left. */
  get done(): boolean {
    while (this.at < this.to && /\s/.test(this.text.charAt(this.at))) this.at++;
    return this.at >= this.to;
  }

  /** What a pattern finds right here, eaten; null where it finds nothing. */
  eat(pattern: RegExp): RegExpExecArray | null {
    if (this.done) return null;
    const sticky = new RegExp(pattern.source, 'iuy');
    sticky.lastIndex = this.at;
    const found = sticky.exec(this.text.slice(0, this.to));
    if (found) this.at += found[0].length;
    return found;
  }

  /** The longest of some names that stands here as whole words, or a name in quotes; eaten. */
  name<Named extends { readonly name: string }>(known: readonly Named[]): Named | null {
    if (this.done) return null;
    const start = this.at;
    const quoted = this.eat(/"([^"]*)"/);
    if (quoted) {
      const found = known.find((one) => same(one.name, quoted[1] ?? ''));
      if (!found) this.at = start;
      return found ?? null;
    }
    const rest = this.text.slice(this.at, this.to);
    const fits = known.filter(
      (one) =>
        same(rest.slice(0, one.name.length), one.name) &&
        !/^[\p{L}\p{N}'’]/u.test(rest.slice(one.name.length)) &&
        // "verse 2 times" speaks of the verse, whatever else is called "verse 2".
        !(/\d$/.test(one.name) && /^\s*(?:times|x|×)(?![\p{L}\p{N}])/u.test(rest.slice(one.name.length))),
    );
    const found = fits.reduce<Named | null>(
      (best, one) => (best && best.name.length >= one.name.length ? best : one),
      null,
    );
    if (found) this.at += found.name.length;
    return found;
  }

  /** What is left up to the next comma, trimmed, not eaten. */
  get rest(): string {
    return this.text.slice(this.at, this.to).trim();
  }
}

export const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

export interface Piece {
  readonly text: string;
  readonly from: number;
  readonly to: number;
}

/** A line cut at its commas, those in quotes or brackets left alone. */
export function itemsOf(text: string, separator = ','): Piece[] {
  const out: Piece[] = [];
  let depth = 0;
  let quoted = false;
  let from = 0;
  for (let i = 0; i <= text.length; i++) {
    const sign = text.charAt(i);
    if (sign === '"') quoted = !quoted;
    else if (!quoted && sign === '(') depth++;
    else if (!quoted && sign === ')') depth = Math.max(0, depth - 1);
    if (i === text.length || (sign === separator && depth === 0 && !quoted)) {
      if (text.slice(from, i).trim() !== '') out.push({ text: text.slice(from, i), from, to: i });
      from = i + 1;
    }
  }
  return out;
}

const NUMBERS: Readonly<Record<string, number>> = {
  ...{ one: 1, two: 2, three: 3, four: 4, five: 5, six: 6, seven: 7, eight: 8, nine: 9, ten: 10, twelve: 12 },
  ...{ once: 1, twice: 2 },
};
const NUMBER = '\\d{1,3}|one|two|three|four|five|six|seven|eight|nine|ten|twelve';

/** How often in all: "2 times", "2 times in all", "twice", "x3", "3x", a bare number; null where none is said. */
export function eatPlays(scan: Scan): number | null {
  const found =
    scan.eat(/(once|twice)(?: in all)?(?![\p{L}\p{N}])/u) ??
    scan.eat(new RegExp(`(${NUMBER})\\s*(?:times|x|×)(?: in all)?(?![a-z0-9])`)) ??
    scan.eat(/[x×]\s*(\d{1,3})(?![a-z0-9])/) ??
    scan.eat(/(\d{1,3})(?=\s*(?:$|,|\(|"|slowing|held|fad|stops))/);
  if (!found) return null;
  const word = (found[1] ?? '').toLowerCase();
  return NUMBERS[word] ?? Number(word);
}

/** A number said as a digit or a word. */
export function eatNumber(scan: Scan): number | null {
  const found = scan.eat(new RegExp(`(${NUMBER})(?![a-z0-9])`)) ?? scan.eat(/(an?)(?![a-z0-9])/);
  if (!found) return null;
  const word = (found[1] ?? '').toLowerCase();
  return /^an?$/.test(word) ? 1 : (NUMBERS[word] ?? Number(word));
}

/** A name as it is typed: in quotes where it would be read otherwise. */
export function typedName(name: string, known: readonly { readonly name: string }[]): string {
  const scan = new Scan(name);
  const plain = !/[,"():]/.test(name) && name.trim() === name && same(scan.name(known)?.name ?? '', name) && scan.done;
  // A name that begins like another thing said there would be taken for it.
  const word = /^(?:rest|free|unwritten|bars?)\b/i.test(name);
  return plain && !word ? name : `"${name.replaceAll('"', "'")}"`;
}

/** Names as they are typed: of several that are called alike, the second is "Name #2". */
export function labelled<Named extends { readonly name: string }>(list: readonly Named[]): Named[] {
  const seen = new Map<string, number>();
  return list.map((one) => {
    const key = one.name.trim().toLowerCase();
    const n = (seen.get(key) ?? 0) + 1;
    seen.set(key, n);
    return n === 1 ? one : { ...one, name: `${one.name} #${n}` };
  });
}

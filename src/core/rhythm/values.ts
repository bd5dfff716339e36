import { add, barOf, barStart, cmp, mul, quarter, sub, ZERO, type MeterChange, type Quarter } from '../time';

/** A written note value: 1 whole, 2 half, 4 quarter ... 32; dots; 3 for a triplet. */
export interface NoteValue {
  readonly base: 1 | 2 | 4 | 8 | 16 | 32;
  readonly dots: 0 | 1 | 2;
  readonly tuplet: 1 | 3;
}

const BASES = [1, 2, 4, 8, 16, 32] as const;

const VALUES: ReadonlyMap<Quarter, NoteValue> = new Map(
  BASES.flatMap((base) => {
    const plain = quarter(4, base);
    return [
      [plain, { base, dots: 0, tuplet: 1 }],
      [mul(plain, 3, 2), { base, dots: 1, tuplet: 1 }],
      [mul(plain, 7, 4), { base, dots: 2, tuplet: 1 }],
      [mul(plain, 2, 3), { base, dots: 0, tuplet: 3 }],
    ] as [Quarter, NoteValue][];
  }),
);

/** The single note value that lasts so long, or null (then it is tied or cut short). */
export const noteValue = (dur: Quarter): NoteValue | null => VALUES.get(dur) ?? null;

/** Length of a written value. */
export function valueLength(value: NoteValue): Quarter {
  const plain = quarter(4, value.base);
  const dotted = value.dots === 0 ? plain : value.dots === 1 ? mul(plain, 3, 2) : mul(plain, 7, 4);
  return value.tuplet === 3 ? mul(dotted, 2, 3) : dotted;
}

/** The longest written value that fits into a length, for what has none of its own. */
export function nearestValue(dur: Quarter): NoteValue {
  const exact = noteValue(dur);
  if (exact) return exact;
  for (const base of BASES) for (const dots of [1, 0] as const) {
    const value: NoteValue = { base, dots, tuplet: 1 };
    if (cmp(valueLength(value), dur) <= 0) return value;
  }
  return { base: 32, dots: 0, tuplet: 1 };
}

/** A silent stretch as written rests: cut at bar lines, then largest values first from where it starts. */
export function restsIn(meters: readonly MeterChange[], from: Quarter, to: Quarter): { at: Quarter; value: NoteValue }[] {
  const rests: { at: Quarter; value: NoteValue }[] = [];
  let at = from;
  for (let guard = 0; cmp(at, to) < 0 && guard < 4096; guard++) {
    const bar = barOf(meters, at).bar;
    const line = bar < 0 ? ZERO : barStart(meters, bar + 1);
    const end = cmp(line, to) < 0 ? line : to;
    const left = sub(end, at);
    const value = noteValue(left) ?? nearestValue(left);
    rests.push({ at, value });
    const next = add(at, valueLength(value));
    at = cmp(next, end) > 0 ? end : next;
    if (cmp(left, quarter(1, 8)) < 0) at = end;
  }
  return rests;
}

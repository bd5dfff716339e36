import { add, mul, quarter, toNumber, ZERO, type Quarter } from '../../time';

/** From where things stand in a bar to when they are played. */

/** Into how many equal parts a bar may be divided by where its notes stand, with what each costs to believe. */
const GRIDS: readonly (readonly [parts: number, price: number])[] = [
  [4, 0],
  [8, 0],
  [16, 0.01],
  [12, 0.02],
  [24, 0.05],
  [32, 0.06],
];

export interface Timed {
  /** By onset column, when it is played from the bar's beginning. */
  readonly times: ReadonlyMap<number, Quarter>;
  /** How far the onsets stood from where they were put, as a share of the bar; above 0.03 it is a guess. */
  readonly error: number;
}

/**
 * Times by where notes stand: hand-typed tab is spaced evenly more often than not, after a dash or two behind the bar
 * line. `columns`: onsets from the bar line, ascending; `width`: of the bar; `length` of the bar in quarters; `usual`:
 * dashes that stand behind every bar line of the text, where one knows.
 */
export function bySpacing(columns: readonly number[], width: number, length: Quarter, usual = 1): Timed {
  const first = columns[0];
  if (first === undefined) return { times: new Map(), error: 0 };
  const quarters = toNumber(length);
  let best: { times: Map<number, Quarter>; error: number; cost: number } | null = null;
  // The dashes before the first note are the frame's, where it begins the bar at all.
  const frames = new Set([0, Math.min(first, 1), Math.min(first, 2), first <= 3 ? first : 0, Math.min(first, usual)]);
  // As many columns as steps, though the bar begins with a dash: the last dash is what was left off.
  for (const [frame, room, odd] of [...frames].flatMap((one) => [
    [one, width - one, 0] as const,
    ...(one > 0 ? [[one, width, 0.01] as const] : []),
  ]))
    for (const [four, price] of GRIDS) {
      const parts = Math.max(1, Math.round((four * quarters) / 4));
      const steps = columns.map((column) => ((column - frame) * parts) / room);
      const rounded = steps.map((step) => Math.round(step));
      const clash = new Set(rounded).size < rounded.length || (rounded.at(-1) ?? 0) >= parts;
      const error = steps.reduce((sum, step, i) => sum + Math.abs(step - (rounded[i] ?? 0)) / parts, 0) / steps.length;
      // Whole columns to a step is how people type.
      const even = room % parts === 0 ? 0 : 0.015;
      // What stands a dash or two behind the bar line begins the bar.
      const late = (rounded[0] ?? 0) > 0 && first <= 2 && frame !== usual ? 0.02 : 0;
      const own = frame === Math.min(first, usual) ? 0 : 0.004;
      const cost = error + price * 0.3 + even + late + odd + own + (clash ? 1 : 0);
      if (best && cost >= best.cost - 1e-9) continue;
      const times = new Map(
        columns.map((column, i) => [column, mul(length, Math.min(parts - 1, rounded[i] ?? 0), parts)]),
      );
      best = { times, error, cost };
    }
  if (best && best.cost < 1) return best;
  // Too many for any grid: one after the other, evenly.
  return {
    times: new Map(columns.map((column, i) => [column, mul(length, i, columns.length)])),
    error: 1,
  };
}

const LENGTHS: Readonly<Record<string, Quarter>> = {
  w: quarter(4),
  h: quarter(2),
  q: quarter(1),
  e: quarter(1, 2),
  s: quarter(1, 4),
  t: quarter(1, 8),
};

/** Lengths by letters over the columns: "q. e s" and so on. Null where they are not one for each onset. */
export function byLetters(
  letters: string,
  columns: readonly number[],
  from: number,
): { at: Quarter; dur: Quarter }[] | null {
  const found = [...letters.matchAll(/([whqest])(\.?)(3?)/gi)].map((match) => ({
    column: match.index - from,
    dur: mul(
      mul(LENGTHS[(match[1] ?? 'q').toLowerCase()] ?? quarter(1), match[2] ? 3 : 1, match[2] ? 2 : 1),
      match[3] ? 2 : 1,
      match[3] ? 3 : 1,
    ),
  }));
  if (found.length === 0) return null;
  const out: { at: Quarter; dur: Quarter }[] = [];
  let at = ZERO;
  let k = 0;
  for (const one of found) {
    // A letter over nothing is a rest.
    const column = columns[k];
    if (column !== undefined && Math.abs(column - one.column) <= 1) {
      out.push({ at, dur: one.dur });
      k++;
    } else if (column !== undefined && column < one.column - 1) return null;
    at = add(at, one.dur);
  }
  return k === columns.length ? out : null;
}

/** Times by a counted line under the columns: "1 e & a 2 ...". Null where an onset has no syllable under it. */
export function byCounts(counts: string, columns: readonly number[], from: number, beat: Quarter): Quarter[] | null {
  const syllables: { column: number; at: Quarter }[] = [];
  let number = 0;
  const tokens = [...counts.matchAll(/\d{1,2}|[&+ea]|trip|let|la|li|and/gi)];
  tokens.forEach((match, i) => {
    const word = match[0].toLowerCase();
    const column = match.index - from;
    if (/\d/.test(word)) {
      number = Number(word);
      syllables.push({ column, at: mul(beat, number - 1) });
      return;
    }
    if (number === 0) return;
    const whole = mul(beat, number - 1);
    const before = tokens[i - 1]?.[0].toLowerCase() ?? '';
    const next = tokens[i + 1]?.[0].toLowerCase() ?? '';
    // "1 & a" counts triplets; "1 e & a" sixteenths.
    const thirds =
      /trip|la|let|li/.test(word) ||
      ((word === '&' || word === '+') && next === 'a' && /\d/.test(before) && isThird(tokens, i));
    const share =
      word === 'e'
        ? quarter(1, 4)
        : word === '&' || word === '+' || word === 'and'
          ? thirds
            ? quarter(1, 3)
            : quarter(1, 2)
          : word === 'a'
            ? /[&+]/.test(before) && isThird(tokens, i - 1)
              ? quarter(2, 3)
              : quarter(3, 4)
            : word === 'trip' || word === 'la'
              ? quarter(1, 3)
              : quarter(2, 3);
    syllables.push({
      column,
      at: add(
        whole,
        mul(share, toNumber(beat) === 1 ? 1 : Math.round(toNumber(beat) * 2), toNumber(beat) === 1 ? 1 : 2),
      ),
    });
  });
  const out: Quarter[] = [];
  for (const column of columns) {
    const near = syllables.filter((one) => Math.abs(one.column - column) <= 1);
    const exact = near.find((one) => one.column === column) ?? near[0];
    if (!exact) return null;
    out.push(exact.at);
  }
  return out.every((at, i) => i === 0 || toNumber(at) > toNumber(out[i - 1] ?? ZERO)) ? out : null;
}

/** Whether "&" and "a" behind a number are thirds: they stand at thirds of the way to the next number. */
function isThird(tokens: readonly RegExpMatchArray[], i: number): boolean {
  const [before, here, next, after] = [tokens[i - 1], tokens[i], tokens[i + 1], tokens[i + 2]];
  if (!before || !here || !next || !/\d/.test(before[0])) return false;
  if (next[0].toLowerCase() !== 'a') return false;
  const [a = 0, b = 0, c = 0] = [before.index, here.index, next.index];
  if (!after || !/\d/.test(after[0])) return b - a === c - b;
  return b - a === c - b && (after.index ?? 0) - c === c - b;
}

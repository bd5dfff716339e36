import { add, cmp, floorDiv, mul, quarter, sub, ZERO, type Quarter } from './quarter';

/** A meter from a bar on: `beats` beats of a 1/`unit` note each. Bars count from 0 inside. */
export interface MeterChange {
  readonly bar: number;
  readonly beats: number;
  readonly unit: number;
}

/** Length of one bar in quarter notes. */
export const barLength = (one: Pick<MeterChange, 'beats' | 'unit'>): Quarter => quarter(4 * one.beats, one.unit);

/** The meter in force in a bar. `meters` is sorted by bar and starts at bar 0. */
export function meterAt(meters: readonly MeterChange[], bar: number): MeterChange {
  let found = meters[0] ?? { bar: 0, beats: 4, unit: 4 };
  for (const meter of meters) if (meter.bar <= bar) found = meter;
  return found;
}

/**
 * Start of a bar in quarter notes from the riff's first bar line. A pickup lies before bar 0, at
 * negative times, so that bar numbers stay stable when a pickup is added.
 */
export function barStart(meters: readonly MeterChange[], bar: number): Quarter {
  let at = ZERO;
  let from = 0;
  let length = barLength(meterAt(meters, 0));
  for (const meter of meters) {
    if (meter.bar === 0 || meter.bar > bar) continue;
    at = add(at, mul(length, meter.bar - from));
    from = meter.bar;
    length = barLength(meter);
  }
  return add(at, mul(length, bar - from));
}

/**
 * Answers of `barOf` by the list of meters: a riff keeps its list from edit to edit, and asks for the same times over
 * and over.
 */
const answers = new WeakMap<readonly MeterChange[], Map<Quarter, { readonly bar: number; readonly offset: Quarter }>>();
const ANSWERS = 20_000;

/** The bar a time falls into and the time since its bar line. Times before 0 are in bar -1, the pickup. */
export function barOf(meters: readonly MeterChange[], at: Quarter): { readonly bar: number; readonly offset: Quarter } {
  let known = answers.get(meters);
  if (!known) answers.set(meters, (known = new Map()));
  const found = known.get(at);
  if (found) return found;
  const made = findBar(meters, at);
  if (known.size > ANSWERS) known.clear();
  known.set(at, made);
  return made;
}

function findBar(meters: readonly MeterChange[], at: Quarter): { bar: number; offset: Quarter } {
  if (cmp(at, ZERO) < 0) return { bar: -1, offset: at };
  let start = ZERO;
  let from = 0;
  let length = barLength(meterAt(meters, 0));
  for (const meter of meters) {
    if (meter.bar === 0) continue;
    const next = add(start, mul(length, meter.bar - from));
    if (cmp(next, at) > 0) break;
    start = next;
    from = meter.bar;
    length = barLength(meter);
  }
  const into = sub(at, start);
  const bars = floorDiv(into, length);
  return { bar: from + bars, offset: sub(into, mul(length, bars)) };
}

/** Reads "4/4", "6/8"; null when it is not a meter with 1-32 beats of a power-of-two unit up to 32. */
export function parseMeter(text: string): { beats: number; unit: number } | null {
  const match = /^\s*(\d{1,2})\s*\/\s*(\d{1,2})\s*$/.exec(text);
  if (!match) return null;
  const beats = Number(match[1]);
  const unit = Number(match[2]);
  return beats >= 1 && beats <= 32 && [1, 2, 4, 8, 16, 32].includes(unit) ? { beats, unit } : null;
}

/** A quarter-note count in words an instructor reads at once: "3 1/2", "2/3". */
export function describeQuarters(at: Quarter): string {
  const whole = floorDiv(at, quarter(1));
  const rest = sub(at, quarter(whole));
  if (rest === ZERO) return String(whole);
  return whole === 0 ? rest : `${whole} ${rest}`;
}

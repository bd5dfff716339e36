import { fail, ok, type Result } from '../base';
import { chordName, parseChord } from '../harmony';
import { parseName, renderName, type Naming } from '../pitch';
import type { Context } from '../score';
import {
  add,
  barStart,
  cmp,
  floorDiv,
  maxQuarter,
  meterAt,
  minQuarter,
  mul,
  parseQuarter,
  quarter,
  sub,
  ZERO,
  type MeterChange,
  type Quarter,
} from '../time';

/**
 * Chords typed as musicians write them over bars: `| Am | Dm | Am Em |`. Chords of a bar share it evenly, by beats
 * where it has as many to give; `Am 3 Em 1` says the beats, `%` repeats the bar before, `-` or `N.C.` is no chord.
 */

export type ChordLane = NonNullable<Context['chords']>;
export type BassLane = NonNullable<Context['bass']>;
export const NO_CHORD = 'N.C.';

interface Told {
  readonly name: string;
  /** How many beats it lasts; null where it shares what is left. */
  readonly beats: Quarter | null;
  readonly from: number;
}

interface Bar {
  readonly told: readonly Told[];
  readonly from: number;
}

/** Bars of a typed line with what stands in each and where in the text. Bar lines at both ends may be left out. */
function barsOf(text: string): Result<Bar[]> {
  const bars: Bar[] = [];
  let from = 0;
  const parts = text.split('|');
  for (const [i, part] of parts.entries()) {
    const edge = i === 0 || i === parts.length - 1;
    if (!(edge && part.trim() === '' && parts.length > 1)) {
      const told: Told[] = [];
      for (const match of part.matchAll(/\S+/g)) {
        const word = match[0];
        const last = told.at(-1);
        const at = from + match.index;
        if (/^\d{1,3}(?:\/\d{1,3})?$/.test(word)) {
          if (!last)
            return fail('chord-line', `"${word}" needs a chord before it: write the chord, then its beats.`, {
              text: { from: at, to: at + word.length },
            });
          told[told.length - 1] = { ...last, beats: parseQuarter(word) };
        } else told.push({ name: word, beats: null, from: at });
      }
      bars.push({ told, from });
    }
    from += part.length + 1;
  }
  return ok(bars);
}

interface Placed {
  readonly at: Quarter;
  readonly dur: Quarter;
  readonly name: string;
  readonly from: number;
}

/** Beats shared out among so many: whole ones where there are enough, the first taking what is over. */
function sharesOf(beats: Quarter, among: number): Quarter[] {
  if (among === 0) return [];
  const whole = floorDiv(beats, quarter(among));
  if (whole === 0) return Array.from({ length: among }, () => mul(beats, 1, among));
  const over = sub(beats, quarter(whole * among));
  return Array.from({ length: among }, (_, i) =>
    add(quarter(whole), minQuarter(quarter(1), maxQuarter(ZERO, sub(over, quarter(i))))),
  );
}

function laid(text: string, meters: readonly MeterChange[], bars: number): Result<Placed[]> {
  const read = barsOf(text);
  if (!read.ok) return read;
  if (read.value.length > bars)
    return fail(
      'chord-line',
      `${read.value.length} bars are written and the section has ${bars}: leave some out or make it longer.`,
      {
        text: { from: read.value[bars]?.from ?? 0, to: text.length },
      },
    );
  const out: Placed[] = [];
  let before: Bar | null = null;
  for (const [index, given] of read.value.entries()) {
    const same: Bar | null = given.told.length === 1 && given.told[0]?.name === '%' ? before : null;
    if (given.told[0]?.name === '%' && !same)
      return fail('chord-line', '% repeats the bar before, and there is none.', {
        text: { from: given.from, to: given.from + 2 },
      });
    const bar: Bar = same ?? given;
    const start = barStart(meters, index);
    const { beats: count, unit } = meterAt(meters, index);
    const said = bar.told.reduce((sum, one) => (one.beats ? add(sum, one.beats) : sum), ZERO);
    const open = bar.told.filter((one) => one.beats === null).length;
    const left = sub(quarter(count), said);
    const over = cmp(left, ZERO);
    if (over < 0 || (open > 0 && over === 0) || (open === 0 && bar.told.length > 0 && over !== 0))
      return fail('chord-line', `Bar ${index + 1} has ${count} beats, and ${said} are written.`, {
        text: { from: bar.from, to: bar.from + 1 },
      });
    const shares = sharesOf(left, open);
    let at = start;
    let n = 0;
    for (const one of bar.told) {
      const dur = mul(one.beats ?? shares[n++] ?? ZERO, 4, unit);
      out.push({ at, dur, name: one.name, from: one.from });
      at = add(at, dur);
    }
    before = bar;
  }
  return ok(out);
}

/** The same name going on is one step. */
function joined<Step extends { readonly at: Quarter; readonly dur: Quarter }>(
  steps: readonly Step[],
  same: (a: Step, b: Step) => boolean,
): Step[] {
  const out: Step[] = [];
  for (const step of steps) {
    const last = out.at(-1);
    if (last && same(last, step) && cmp(add(last.at, last.dur), step.at) === 0)
      out[out.length - 1] = { ...last, dur: add(last.dur, step.dur) };
    else out.push(step);
  }
  return out;
}

/** Reads a line of chords over bars of a section; the fault tells which characters and why. */
export function parseChordLine(text: string, meters: readonly MeterChange[], bars: number): Result<ChordLane> {
  const read = laid(text, meters, bars);
  if (!read.ok) return read;
  const out: ChordLane[number][] = [];
  for (const { at, dur, name, from } of read.value) {
    const none = /^(-|n\.?c\.?)$/i.test(name);
    const chord = none ? null : parseChord(name);
    if (chord && !chord.ok) return fail('unknown-chord', chord.error.words, { text: { from, to: from + name.length } });
    out.push({ at, dur, chord: none ? NO_CHORD : name.replaceAll('♯', '#').replaceAll('♭', 'b') });
  }
  return ok(joined(out as (ChordLane[number] & { at: Quarter; dur: Quarter })[], (a, b) => a.chord === b.chord));
}

/** Reads a line of bass notes the same way; `-` is silence. */
export function parseBassLine(text: string, meters: readonly MeterChange[], bars: number): Result<BassLane> {
  const read = laid(text, meters, bars);
  if (!read.ok) return read;
  const out: BassLane[number][] = [];
  for (const { at, dur, name, from } of read.value) {
    if (name === '-') continue;
    if (!parseName(name))
      return fail('unknown-note', `"${name}" is no note name. Write A, Bb or F#.`, {
        text: { from, to: from + name.length },
      });
    out.push({ at, dur, note: name });
  }
  return ok(joined(out as (BassLane[number] & { at: Quarter; dur: Quarter })[], (a, b) => a.note === b.note));
}

/** A lane as it would be typed, bar by bar: the inverse of reading it. */
function printed(
  steps: readonly { readonly at: string; readonly dur: string; readonly name: string }[],
  meters: readonly MeterChange[],
  bars: number,
): string {
  if (steps.length === 0) return '';
  const out: string[] = [];
  let last = -1;
  for (let bar = 0; bar < bars; bar++) {
    const start = barStart(meters, bar);
    const end = barStart(meters, bar + 1);
    const { beats, unit } = meterAt(meters, bar);
    const inside = steps.flatMap(({ at, dur, name }) => {
      const from = at as Quarter;
      const to = add(from, dur as Quarter);
      if (cmp(to, start) <= 0 || cmp(from, end) >= 0) return [];
      const here = sub(cmp(to, end) < 0 ? to : end, cmp(from, start) > 0 ? from : start);
      return [{ name, length: here }];
    });
    if (inside.length > 0) last = bar;
    const shares = sharesOf(quarter(beats), inside.length);
    const beatsOf = (length: Quarter): Quarter => mul(length, unit, 4);
    const even = inside.every(({ length }, i) => beatsOf(length) === shares[i]);
    out.push(inside.map(({ name, length }) => (even ? name : `${name} ${beatsOf(length)}`)).join(' '));
  }
  return `| ${out
    .slice(0, last + 1)
    .map((bar) => bar || '-')
    .join(' | ')} |`;
}

export const printChordLine = (lane: ChordLane, meters: readonly MeterChange[], bars: number): string =>
  printed(
    lane.map((step) => ({ ...step, name: step.chord === NO_CHORD ? '-' : step.chord })),
    meters,
    bars,
  );
export const printBassLine = (lane: BassLane, meters: readonly MeterChange[], bars: number): string =>
  printed(
    lane.map((step) => ({ ...step, name: step.note })),
    meters,
    bars,
  );

/** A chord of a lane in the instructor's naming; as written where it is none the program knows. */
export function laneChordName(chord: string, naming: Naming): string {
  const read = parseChord(chord);
  return read.ok ? chordName(read.value, naming) : chord;
}
export function laneNoteName(note: string, naming: Naming): string {
  const read = parseName(note);
  return read ? renderName(read, naming) : note;
}

import { fail, finding, ok, type Finding, type Midi, type Result } from '../../base';
import { noteName } from '../../pitch';
import type { Articulation } from '../../score';
import {
  add,
  barLength,
  cmp,
  maxQuarter,
  minQuarter,
  parseMeter,
  quarter,
  sub,
  ZERO,
  type MeterChange,
  type Quarter,
} from '../../time';
import {
  eventsOfNotes,
  foundNote,
  orderOf,
  type ChordMark,
  type FoundNote,
  type Mark,
  type Music,
  type Question,
  type ReadOptions,
  type Reading,
  type Repeat,
} from '../music';
import { barsOf, type TabBar } from './bars';
import { cellsOf, type Cell } from './cells';
import {
  headingOf,
  kindOf,
  labelsOf,
  mostCommon,
  sectionName,
  thickOnTop,
  tuningOf,
  usualOpen,
  usualTuning,
} from './heading';
import { TEXT_TAB_LIMITS } from './limits';
import { byCounts, byLetters, bySpacing } from './rhythm';
import { blocksOf, isChords, isCount, isLengths, isSpan, type System, type TextLine } from './systems';

/** A reading of a text, with every character that is in doubt. */
export interface TabReading extends Reading {
  /** Loci are stretches of the text. */
  readonly doubts: readonly Finding[];
}

/** Whether a text holds tab: two strings' lines under each other at least. */
export const looksLikeTab = (text: string): boolean =>
  blocksOf(text.slice(0, 60_000)).some((block) => block.kind === 'system' && block.system.strings.length >= 3);

/**
 * Reads tab as people type it: any number of strings, with the letters of a tuning or without; chords stacked; the
 * usual letters of techniques; bar lines, wrapped and ragged lines; lengths by letters, counts or by where things
 * stand; words between. What can't be sure is told as a doubt with its place in the text.
 */
export function readTextTab(given: string, { answers = {} }: ReadOptions = {}): Result<TabReading> {
  const text = given.replace(/^\ufeff/, '').replace(/\t/g, '    ');
  if (text.length > TEXT_TAB_LIMITS.characters)
    return fail('too-large', `The text has ${text.length} characters; ${TEXT_TAB_LIMITS.characters} at most.`, 'text');
  const blocks = blocksOf(text);
  const systems = blocks.flatMap((block) => (block.kind === 'system' ? [block.system] : []));
  if (systems.length === 0)
    return fail('no-tab', 'No tab was found: lines of dashes with frets, one under the other, a string each.', {
      text: { from: 0, to: Math.min(text.length, 80) },
    });
  const count = mostCommon(systems.map((system) => system.strings.length));
  const doubts: Finding[] = [];
  const doubt = (words: string, from: number, to: number): void =>
    void doubts.push(finding('doubt', 'question', words, { text: { from, to } }));
  const heading = headingOf(blocks);
  const labels = labelsOf(systems, count);
  const up = thickOnTop(labels);
  const questions: Question[] = [];
  if (up)
    questions.push({
      id: 'string-order',
      finding: finding(
        'string-order',
        'question',
        `The lines are named ${labels.join(' ')} from the first: the thickest string seems to be written first.`,
      ),
      answers: [
        { id: 'thick-first', words: 'The first line is the thickest string' },
        { id: 'thin-first', words: 'The first line is the thinnest string' },
      ],
      usual: 'thick-first',
    });
  const thickFirst = up && (answers['string-order'] ?? 'thick-first') === 'thick-first';
  const named = tuningOf(heading, thickFirst ? labels : [...labels].reverse(), count);
  const tuning = named ?? usualTuning(count, heading.words);
  const meter = heading.meter ?? { beats: 4, unit: 4 };
  const state: Reader = {
    ...{ notes: [], chords: [], marks: heading.marks, repeats: [], meter, meters: [{ bar: 0, ...meter }] },
    ...{ at: ZERO, bar: 0, open: null, thickFirst, count },
    ...{ tuning, capo: heading.capo, guessed: 0, doubt, frame: frameOf(systems), block: 0 },
  };
  for (const block of blocks) {
    if (block.kind === 'system') readSystem(block.system, state);
    else readWords(block.line, state);
    if (state.notes.length > TEXT_TAB_LIMITS.notes || state.bar > TEXT_TAB_LIMITS.bars)
      return fail(
        'too-many',
        `The text has over ${TEXT_TAB_LIMITS.notes} notes or ${TEXT_TAB_LIMITS.bars} bars.`,
        'text',
      );
  }
  const bars = Math.max(1, state.bar);
  const remarks: Finding[] = [];
  if (heading.moved !== 0 && named)
    remarks.push(
      finding(
        'moved',
        'warning',
        `The text says that it is tuned ${Math.abs(heading.moved)} ${Math.abs(heading.moved) === 1 ? 'semitone' : 'semitones'} ${heading.moved < 0 ? 'down' : 'up'}: the open strings are ${named.map((pitch) => noteName(pitch)).join(' ')}, thick to thin.`,
      ),
    );
  if (state.guessed > 0)
    remarks.push(
      finding(
        'spacing',
        'warning',
        `Of ${bars} bars ${state.guessed} are spaced unevenly: their times are a guess. Check them, or write the lengths over them (q e s).`,
      ),
    );
  const music: Music = {
    ...{ title: heading.title, credit: null, bars, pickup: ZERO, meters: state.meters },
    tempo: [{ at: ZERO, bpm: heading.bpm ?? 120 }],
    ...{ keys: [], feel: [], bass: [] },
    chords: spansOf(state.chords, state.at),
    marks: state.marks.filter((mark) => mark.bar < bars),
    ...{ repeats: state.repeats, order: orderOf(bars, state.repeats) },
    parts: [
      {
        ...{
          name: kindOf(count, heading.words) === 'bass' ? 'Bass' : 'Guitar',
          setup: null,
          tuning,
          capo: heading.capo,
        },
        ...{ kind: kindOf(count, heading.words), program: null, placed: true },
        events: eventsOfNotes(state.notes),
      },
    ],
  };
  if (music.parts[0]?.events.length === 0)
    return fail('no-notes', 'The tab holds no notes.', { text: { from: 0, to: 80 } });
  const leftOut =
    heading.leftOut > 0 ? [{ what: 'lines of words', count: heading.leftOut, where: 'between the systems' }] : [];
  return ok({ music, questions, leftOut, remarks, doubts });
}

interface Reader {
  readonly notes: FoundNote[];
  readonly chords: { at: Quarter; chord: string }[];
  readonly marks: Mark[];
  readonly repeats: Repeat[];
  meter: { readonly beats: number; readonly unit: number };
  readonly meters: MeterChange[];
  at: Quarter;
  bar: number;
  /** Where a repeat was opened. */
  open: number | null;
  readonly thickFirst: boolean;
  readonly count: number;
  readonly tuning: readonly Midi[] | null;
  readonly capo: number;
  guessed: number;
  readonly doubt: (words: string, from: number, to: number) => void;
  /** Dashes behind a bar line before its first beat, as this text is typed. */
  readonly frame: number;
  /** The first bar of the systems that stand together under the last words. */
  block: number;
}

/** The least dashes before a first note in any bar: nobody begins every bar late. */
function frameOf(systems: readonly System[]): number {
  const firsts = systems.flatMap((system) =>
    barsOf(system).bars.flatMap((bar) => {
      const columns = system.strings.map((line) => line.content.slice(bar.from, bar.to).search(/[^-\s|]/));
      const found = columns.filter((column) => column >= 0);
      return found.length > 0 ? [Math.min(...found)] : [];
    }),
  );
  return Math.min(3, ...firsts);
}

function readSystem(system: System, state: Reader): void {
  const { strings } = system;
  const [first] = strings;
  if (strings.length !== state.count && first)
    state.doubt(
      `This system has ${strings.length} lines, the others ${state.count}: its lines are counted from the thinnest string.`,
      first.offset,
      first.offset + first.content.length,
    );
  const { bars, ragged } = barsOf(system);
  for (const { line, missing } of ragged) {
    const one = strings[line];
    if (one && missing > 1)
      state.doubt(
        `This line is ${missing} characters shorter than the others.`,
        one.offset,
        one.offset + one.content.length,
      );
  }
  const firstBar = state.bar;
  for (const bar of bars) readBar(system, bar, state);
  if (first && bars.length > 0 && bars[0]?.opens) state.open ??= firstBar;
}

interface Placed {
  readonly cell: Cell;
  readonly string: number;
}

function readBar(system: System, bar: TabBar, state: Reader): void {
  const { strings } = system;
  if (bar.opens) state.open = state.bar;
  const placed: Placed[] = strings.flatMap((line, i) => {
    const { cells, doubts } = cellsOf(line.content.slice(bar.from, bar.to));
    for (const one of doubts) {
      const from = line.offset + bar.from + one.from;
      state.doubt(one.words, from, from + one.to - one.from);
    }
    const string = state.thickFirst ? strings.length - i : i + 1;
    return cells.map((cell) => ({ cell, string }));
  });
  const onsets = together(placed);
  const length = barLength(state.meter);
  const width = bar.to - bar.from;
  const timed = timesOf(
    system,
    bar,
    onsets.map((one) => one.column),
    width,
    length,
    state,
  );
  const column = strings[0]?.column ?? 0;
  const palm = spanned(system.above, /p\.?m\.?|palm mute/i, column);
  const ring = spanned(system.above, /let ring|lr/i, column);
  onsets.forEach((onset, i) => {
    const { at, dur } = timed[i] ?? { at: ZERO, dur: length };
    for (const { cell, string } of onset.cells) {
      const open = state.tuning?.[state.tuning.length - string];
      const event: Articulation = {
        ...(cell.ghost ? { accent: 'ghost' as const } : {}),
        ...(palm(bar.from + onset.column) ? { mute: 'palm' as const } : {}),
      };
      const fret = cell.fret ?? 0;
      state.notes.push(
        foundNote(add(state.at, at), dur, (open ?? usualOpen(state.count, string)) + state.capo + fret, {
          ...{ string, fret, technique: cell.technique, event, join: cell.join },
          ringing: ring(bar.from + onset.column) && cell.fret !== null,
        }),
      );
    }
  });
  for (const line of system.above)
    if (isChords(line.text))
      for (const match of line.text.matchAll(/[^\s|]+/g)) {
        const here = match.index - column - bar.from;
        if (here < -2 || here >= width - 1 || match[0] === '%') continue;
        const share = Math.max(0, here) / Math.max(1, width);
        const beat = Math.min(state.meter.beats - 1, Math.round(share * state.meter.beats));
        state.chords.push({ at: add(state.at, quarter(4 * beat, state.meter.unit)), chord: match[0] });
      }
  state.at = add(state.at, length);
  state.bar++;
  if (bar.closes !== null) {
    const from = state.open ?? Math.max(state.repeats.at(-1)?.to ?? 0, state.block);
    state.repeats.push({ from, to: state.bar, times: bar.closes, endings: [] });
    state.open = null;
  }
}

/** Cells of all strings by onset: those whose columns overlap are struck together. */
function together(placed: readonly Placed[]): { column: number; cells: Placed[] }[] {
  const out: { column: number; end: number; cells: Placed[] }[] = [];
  for (const one of [...placed].sort((a, b) => a.cell.from - b.cell.from)) {
    const last = out.at(-1);
    const clash = last?.cells.some((cell) => cell.string === one.string);
    if (last && one.cell.from < last.end && !clash) {
      last.cells.push(one);
      last.end = Math.max(last.end, one.cell.to);
    } else out.push({ column: one.cell.from, end: one.cell.to, cells: [one] });
  }
  return out;
}

function timesOf(
  system: System,
  bar: TabBar,
  columns: readonly number[],
  width: number,
  length: Quarter,
  state: Reader,
): { at: Quarter; dur: Quarter }[] {
  const column = (system.strings[0]?.column ?? 0) + bar.from;
  const cut = (line: TextLine): string => line.text.slice(Math.max(0, column - 1), column + width);
  const from = column > 0 ? 1 : 0;
  const letters = system.above.find((line) => isLengths(line.text));
  const told = letters ? byLetters(cut(letters), columns, from) : null;
  if (told)
    return told.map((one) => ({ ...one, dur: minQuarter(one.dur, maxQuarter(quarter(1, 8), sub(length, one.at))) }));
  const counts = system.below.find((line) => isCount(line.text));
  const counted = counts ? byCounts(cut(counts), columns, from, quarter(4, state.meter.unit)) : null;
  if (counted) return untilNext(counted, length);
  const spaced = bySpacing(columns, width, length, state.frame);
  if (spaced.error > 0.03) state.guessed++;
  return untilNext(
    columns.map((one) => spaced.times.get(one) ?? ZERO),
    length,
  );
}

/** Everything sounds until the next, the last to the bar line. */
const untilNext = (times: readonly Quarter[], length: Quarter): { at: Quarter; dur: Quarter }[] =>
  times.map((at, i) => {
    const dur = sub(times[i + 1] ?? length, at);
    return { at, dur: cmp(dur, ZERO) > 0 ? dur : quarter(1, 4) };
  });

/** Whether a column of the contents lies under "P.M.----" and the like. */
function spanned(above: readonly TextLine[], what: RegExp, column: number): (at: number) => boolean {
  const spans = above
    .filter((line) => isSpan(line.text))
    .flatMap((line) =>
      [...line.text.matchAll(new RegExp(`(?:${what.source})[\\s.]*[-–]*\\|?`, 'gi'))].map((match) => ({
        from: match.index - column,
        to: match.index - column + match[0].trimEnd().length,
      })),
    );
  return (at) => spans.some((span) => at >= span.from - 1 && at < span.to);
}

function readWords(line: TextLine, state: Reader): void {
  const words = line.text.trim();
  // What is repeated without a sign where it begins goes back to the words above it.
  state.block = state.bar;
  const meter = state.bar > 0 ? parseMeter(words) : null;
  if (meter) {
    state.meter = meter;
    state.meters.push({ bar: state.bar, ...meter });
    return;
  }
  const name = sectionName(words);
  if (name !== null && !state.marks.some((mark) => mark.bar === state.bar)) state.marks.push({ bar: state.bar, name });
}

function spansOf(chords: readonly { at: Quarter; chord: string }[], end: Quarter): ChordMark[] {
  const sorted = [...chords].sort((a, b) => cmp(a.at, b.at)).filter((one, i, all) => all[i + 1]?.at !== one.at);
  return sorted.map((one, i) => ({ ...one, to: sorted[i + 1]?.at ?? maxQuarter(end, add(one.at, quarter(1))) }));
}

import { differencesOf } from './differences';
import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import { makeRiff, type Piece, type Riff, type RiffEvent, type Section } from '../score';
import { add, barOf, barStart, cmp, lt, maxQuarter, meterAt, sub, ZERO, type MeterChange, type Quarter } from '../time';
import { playedWords, remarksOf } from './chart';
import { laneChordName, laneNoteName } from './chord-line';
import type { FormMap, PassSpan } from './map';
import { moveWords } from './move-use';
import { ordinal, playsWords } from './passes';
import { resolve, type Line } from './resolve';
import type { Span } from './spans';

/**
 * The piece on paper: what is printed where, before anything is drawn. Folded, each riff is printed once and named
 * where it returns; what a later pass plays otherwise is printed as an ending. Unfolded, every bar stands in its place.
 */

export interface SheetChord {
  readonly at: Quarter;
  readonly name: string;
}

/** Bars printed as music, from time 0 on. */
export interface SheetMusic {
  readonly kind: 'music';
  /** "Lamp", "Wing, 2nd ending". */
  readonly label: string;
  /** "2 times in all", "2nd time, instead of bar 10". */
  readonly words: string;
  readonly riff: Riff;
  /** The number of its first bar in the piece, from 1. */
  readonly bar: number;
  /** Whether it stands between repeat signs. */
  readonly repeated: boolean;
  /** An ending, under a bracket. */
  readonly ending: boolean;
  readonly chords: readonly SheetChord[];
}

/** A riff that was printed already: only named. */
export interface SheetAgain {
  readonly kind: 'again';
  readonly bar: number;
  readonly bars: number;
  readonly label: string;
  readonly words: string;
  readonly chords: readonly SheetChord[];
}

export interface SheetRest {
  readonly kind: 'rest';
  readonly bar: number;
  readonly words: string;
}

export type SheetBlock = SheetMusic | SheetAgain | SheetRest;

export interface SheetSection {
  readonly section: Section;
  readonly title: string;
  /** "bars 5 to 12, 3 times in all". */
  readonly words: string;
  readonly remarks: readonly string[];
  readonly tone: string | null;
  readonly blocks: readonly SheetBlock[];
}

export interface PieceSheet {
  readonly sections: readonly SheetSection[];
  /** Where each play of the line is printed: the block it is read from, by section and index, and its ending if any. */
  readonly covers: readonly Cover[];
}

export interface Cover {
  readonly span: number;
  readonly block: SheetMusic;
  readonly ending: SheetMusic | null;
}

export interface SheetOptions {
  readonly unfolded: boolean;
  /** Sections by id; all where absent. */
  readonly sections?: ReadonlySet<string>;
  readonly schools?: Schools;
}

/** The meters of some bars, counted from the first of them. */
function metersFrom(meters: readonly MeterChange[], bar: number, bars: number): MeterChange[] {
  const out: MeterChange[] = [];
  for (let i = 0; i < Math.max(1, bars); i++) {
    const { beats, unit } = meterAt(meters, bar + i);
    const last = out.at(-1);
    if (!last || last.beats !== beats || last.unit !== unit) out.push({ bar: i, beats, unit });
  }
  return out;
}

const atOf = (events: readonly RiffEvent[], from: Quarter): RiffEvent[] =>
  from === ZERO ? [...events] : events.map((event) => ({ ...event, at: sub(event.at, from) }));

/** Some bars of a line as a riff of their own. */
function cut(line: Line, name: string, from: Quarter, to: Quarter, events: readonly RiffEvent[]): Riff {
  const bar = Math.max(0, barOf(line.map.meters, from).bar);
  const bars = Math.max(1, barOf(line.map.meters, to).bar - bar + (barOf(line.map.meters, to).offset === ZERO ? 0 : 1));
  const own = atOf(events, from);
  const early = own.find((event) => !event.grace);
  const pickup = early && lt(early.at, ZERO) ? sub(ZERO, early.at) : ZERO;
  const { key, click } = line.riff;
  return makeRiff(`sheet-${line.part.id}`, name, {
    ...{ bars, pickup, meters: metersFrom(line.map.meters, bar, bars), events: own },
    ...(key ? { key } : {}),
    ...(click === undefined ? {} : { click }),
  });
}

function chordsIn(map: FormMap, from: Quarter, to: Quarter, schools: Schools): SheetChord[] {
  const names = new Map<Quarter, string>();
  for (const one of map.chords)
    if (cmp(one.to, from) > 0 && lt(one.at, to))
      names.set(maxQuarter(one.at, from), laneChordName(one.chord, schools.notes));
  for (const one of map.bass)
    if (cmp(one.to, from) > 0 && lt(one.at, to)) {
      const at = maxQuarter(one.at, from);
      names.set(at, `${names.get(at) ?? ''}/${laneNoteName(one.note, schools.notes)}`);
    }
  return [...names].map(([at, name]) => ({ at: sub(at, from), name })).sort((a, b) => cmp(a.at, b.at));
}

/** Plays of one use that sound alike, one after another. */
interface Run {
  readonly spans: readonly Span[];
  readonly events: readonly RiffEvent[];
  readonly label: string;
}

const alike = (a: readonly RiffEvent[], b: readonly RiffEvent[]): boolean =>
  a.length === b.length && differencesOf(a, b).length === 0;

/** What a play is called: the riff, its variant, how it is moved. */
function labelOf(line: Line, span: Span): string {
  const { riff, use } = span;
  if (!riff) return '';
  const variant = riff.variants?.find((one) => one.id === span.variant);
  const range = use.bars
    ? use.bars.count === 1
      ? `bar ${use.bars.from + 1}`
      : `bars ${use.bars.from + 1} to ${use.bars.from + use.bars.count}`
    : null;
  return [
    riff.name,
    ...(range ? [range] : []),
    ...(variant ? [variant.name] : []),
    ...(use.move ? [moveWords(use.move)] : []),
  ].join(', ');
}

/** Events of each play, from the play's beginning. */
function eventsOfSpans(line: Line): readonly (readonly RiffEvent[])[] {
  const out: RiffEvent[][] = line.spans.map(() => []);
  for (const event of line.riff.events) {
    const span = line.spans[line.origins.get(event.id)?.span ?? -1];
    if (span) out[span.index]?.push({ ...event, at: sub(event.at, span.from) });
  }
  return out;
}

const barsOf = (line: Line, span: Span): number =>
  Math.max(1, barOf(line.map.meters, span.to).bar - barOf(line.map.meters, span.from).bar);
const barOfSpan = (line: Line, span: Span): number => barOf(line.map.meters, span.from).bar + 1;

/** A part of the piece as it is printed. */
export function sheetOf(
  piece: Piece,
  partId: string,
  { unfolded, sections, schools = DEFAULT_SCHOOLS }: SheetOptions,
): PieceSheet {
  const line = resolve(piece, partId);
  if (!line) return { sections: [], covers: [] };
  const wanted = (section: Section): boolean => sections === undefined || sections.has(section.id);
  const covers: Cover[] = [];
  if (unfolded) {
    const out = line.map.passes
      .filter((pass) => wanted(pass.section))
      .map((pass) => wholePass(piece, line, pass, schools, covers));
    return { sections: out, covers };
  }
  const printed: SheetMusic[] = [];
  const byEvents = eventsOfSpans(line);
  const order = [...new Set(line.map.passes.map((pass) => pass.section))].filter(wanted);
  return {
    sections: order.map((section) => {
      const passes = line.map.passes.filter((pass) => pass.section === section);
      const [first] = passes;
      const last = (first?.firstBar ?? 0) + section.bars;
      const row = section.rows.find((one) => one.part === partId);
      return {
        section,
        title: section.name,
        words: `${section.bars === 1 ? `bar ${(first?.firstBar ?? 0) + 1}` : `bars ${(first?.firstBar ?? 0) + 1} to ${last}`}, ${playedWords(piece, section)}`,
        remarks: remarksOf(
          piece,
          section,
          schools,
          passes.filter((pass) => pass.pass === pass.passes),
        ),
        tone: row?.tone ?? line.part.tone ?? null,
        blocks: foldedBlocks(line, passes, byEvents, printed, covers, schools),
      };
    }),
    covers,
  };
}

function wholePass(piece: Piece, line: Line, pass: PassSpan, schools: Schools, covers: Cover[]): SheetSection {
  const spans = line.spans.filter((span) => span.pass.index === pass.index);
  const inside = new Set(spans.map((span) => span.index));
  const events = line.riff.events.filter((event) => inside.has(line.origins.get(event.id)?.span ?? -1));
  const music: SheetMusic = {
    ...{ kind: 'music', label: '', words: '', repeated: false, ending: false, bar: pass.firstBar + 1 },
    riff: cut(line, pass.section.name, pass.from, pass.to, events),
    chords: chordsIn(line.map, pass.from, pass.to, schools),
  };
  covers.push(...spans.filter((span) => span.riff).map((span) => ({ span: span.index, block: music, ending: null })));
  return {
    section: pass.section,
    title: pass.section.name,
    words: `${pass.bars === 1 ? `bar ${pass.firstBar + 1}` : `bars ${pass.firstBar + 1} to ${pass.firstBar + pass.bars}`}${pass.passes > 1 ? `, ${ordinal(pass.pass)} of ${pass.passes}` : ''}`,
    remarks: remarksOf(piece, pass.section, schools, [pass]),
    tone: pass.section.rows.find((one) => one.part === line.part.id)?.tone ?? line.part.tone ?? null,
    blocks: [music],
  };
}

const SPOTS = { rest: 'rest', free: 'as you like', unwritten: 'not yet written' } as const;

/** A section once: its first pass, then what later passes play otherwise. */
function foldedBlocks(
  line: Line,
  passes: readonly PassSpan[],
  byEvents: readonly (readonly RiffEvent[])[],
  printed: SheetMusic[],
  covers: Cover[],
  schools: Schools,
): SheetBlock[] {
  const out: SheetBlock[] = [];
  const [first] = passes;
  if (!first) return out;
  const spansOf = (pass: PassSpan): Span[] => line.spans.filter((span) => span.pass.index === pass.index);
  const own = spansOf(first);
  /** The block each play of the first pass is read from, by its place in the section. */
  const readFrom = new Map<string, SheetMusic>();
  const keyOf = (span: Span): string => `${span.use.id}.${span.play}`;

  const print = (run: Run): SheetMusic => {
    const [span] = run.spans as readonly [Span];
    const known = printed.find(
      (one) => !one.ending && alike(one.riff.events, run.events) && one.riff.bars === barsOf(line, span),
    );
    const bar = barOfSpan(line, span);
    const chords = chordsIn(line.map, span.from, (run.spans.at(-1) ?? span).to, schools);
    const times = run.spans.length;
    if (known) {
      const words = [...(times > 1 ? [playsWords(times)] : []), `as at bar ${known.bar}`].join(', ');
      out.push({ kind: 'again', bar, bars: barsOf(line, span) * times, label: run.label, words, chords });
      return known;
    }
    const music: SheetMusic = {
      ...{ kind: 'music', label: run.label, bar, repeated: times > 1, ending: false },
      words: times > 1 ? playsWords(times) : '',
      riff: cut(line, run.label, ZERO, sub(span.to, span.from), run.events),
      chords: chordsIn(line.map, span.from, span.to, schools),
    };
    const meters = metersFrom(line.map.meters, bar - 1, barsOf(line, span));
    const shown = { ...music, riff: { ...music.riff, bars: barsOf(line, span), meters } };
    printed.push(shown);
    out.push(shown);
    return shown;
  };

  const endings: SheetMusic[] = [];
  /** The bars a play differs in from what is printed, as an ending of their own. */
  const ending = (span: Span, base: SheetMusic, when: string): SheetMusic | null => {
    const events = byEvents[span.index] ?? [];
    const differences = differencesOf(base.riff.events, events);
    if (differences.length === 0) return null;
    const bars = differences.map((one) => Math.max(0, barOf(base.riff.meters, one.at).bar));
    const [from, to] = [Math.min(...bars), Math.max(...bars) + 1];
    const same = endings.find(
      (one) =>
        one.label === labelOf(line, span) &&
        one.bar === base.bar + from &&
        alike(one.riff.events, within(events, base.riff, from, to)),
    );
    if (same) return same;
    const count = to - from;
    const where = count === 1 ? `bar ${base.bar + from}` : `bars ${base.bar + from} to ${base.bar + to - 1}`;
    const made: SheetMusic = {
      ...{ kind: 'music', label: labelOf(line, span), bar: base.bar + from, repeated: false, ending: true },
      words: `${when}, instead of ${where}`,
      riff: makeRiff(`sheet-${line.part.id}`, labelOf(line, span), {
        ...{
          bars: count,
          meters: metersFrom(base.riff.meters, from, count),
          events: within(events, base.riff, from, to),
        },
        ...(base.riff.key ? { key: base.riff.key } : {}),
      }),
      chords: [],
    };
    endings.push(made);
    out.push(made);
    return made;
  };

  for (let i = 0; i < own.length;) {
    const span = own[i] as Span;
    if (!span.riff) {
      const until = own.slice(i).findIndex((one) => one.riff !== null);
      const rests = own.slice(i, until < 0 ? own.length : i + until);
      const bars = rests.reduce((sum, one) => sum + barsOf(line, one), 0);
      const kind = span.use.spot?.kind ?? 'rest';
      out.push({
        kind: 'rest',
        bar: barOfSpan(line, span),
        words: `${bars} ${bars === 1 ? 'bar' : 'bars'} ${SPOTS[kind]}${span.use.remark ? `: ${span.use.remark}` : ''}`,
      });
      i += rests.length;
      continue;
    }
    const events = byEvents[span.index] ?? [];
    const spans = [span];
    let k = i + 1;
    for (; k < own.length; k++) {
      const next = own[k] as Span;
      if (next.use.id !== span.use.id || !next.riff || !alike(events, byEvents[next.index] ?? [])) break;
      spans.push(next);
    }
    const before = own[i - 1];
    const base = before && before.use.id === span.use.id ? readFrom.get(keyOf(before)) : undefined;
    // A later play that only ends otherwise is an ending of the same riff.
    const small =
      base &&
      base.riff.bars === barsOf(line, span) &&
      differencesOf(base.riff.events, events).length <= Math.max(2, events.length / 2);
    const when =
      spans.length === 1
        ? `${ordinal(span.play)} time`
        : `${ordinal(span.play)} to ${ordinal(span.play + spans.length - 1)} time`;
    const told = small ? ending(span, base, when) : null;
    const block = small ? base : print({ spans, events, label: labelOf(line, span) });
    for (const one of spans) {
      readFrom.set(keyOf(one), block);
      covers.push({ span: one.index, block, ending: told });
    }
    i = k;
  }
  for (const pass of passes.slice(1))
    for (const span of spansOf(pass)) {
      const base = readFrom.get(keyOf(span));
      const at = passes.filter((one) => one.index <= pass.index).length;
      const when = `${ordinal(at)} time`;
      if (!span.riff) {
        if (base)
          out.push({
            kind: 'rest',
            bar: barOfSpan(line, span),
            words: `${when}: ${span.use.riff === undefined ? 'rest' : 'silent'} here`,
          });
        continue;
      }
      const early = covers.find(
        (one) => one.block === base && one.span === own.find((o) => keyOf(o) === keyOf(span))?.index,
      );
      const played = byEvents[span.index] ?? [];
      const cutShort = cmp(sub(span.to, span.from), base ? barStart(base.riff.meters, base.riff.bars) : ZERO) < 0;
      if (
        base &&
        early?.ending === null &&
        (alike(base.riff.events, played) || (cutShort && beginsLike(base.riff.events, played)))
      ) {
        covers.push({ span: span.index, block: base, ending: null });
        continue;
      }
      if (base && early?.ending && sameWithEnding(base, early.ending, played)) {
        covers.push({ span: span.index, block: base, ending: early.ending });
        continue;
      }
      if (base) covers.push({ span: span.index, block: base, ending: ending(span, base, when) });
      else
        covers.push({
          span: span.index,
          block: print({ spans: [span], events: played, label: `${when}: ${labelOf(line, span)}` }),
          ending: null,
        });
    }
  return out;
}

/** Whether a play that is cut short begins as what is printed. */
const beginsLike = (whole: readonly RiffEvent[], part: readonly RiffEvent[]): boolean =>
  alike(whole.slice(0, part.length), part);

const within = (events: readonly RiffEvent[], riff: Pick<Riff, 'meters'>, from: number, to: number): RiffEvent[] => {
  const [start, end] = [barStart(riff.meters, from), barStart(riff.meters, to)];
  return atOf(
    events.filter((event) => (from === 0 || cmp(event.at, start) >= 0) && lt(event.at, end)),
    start,
  );
};

/** What a block and its ending give when they are read together. */
export function readTogether(block: SheetMusic, ending: SheetMusic | null): readonly RiffEvent[] {
  if (!ending) return block.riff.events;
  const from = barStart(block.riff.meters, ending.bar - block.bar);
  const to = barStart(block.riff.meters, ending.bar - block.bar + ending.riff.bars);
  const kept = block.riff.events.filter(
    (event) => (lt(event.at, from) && ending.bar > block.bar) || cmp(event.at, to) >= 0,
  );
  const own = ending.riff.events.map((event) => ({ ...event, at: add(event.at, from) }));
  return [...kept, ...own].sort((a, b) => cmp(a.at, b.at));
}

const sameWithEnding = (block: SheetMusic, ending: SheetMusic, played: readonly RiffEvent[]): boolean =>
  alike(readTogether(block, ending), played);

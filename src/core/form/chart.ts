import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import type { Part, Piece, Row, Section, Use } from '../score';
import { add, barOf, barStart, cmp, minQuarter, sub, toNumber, ZERO, type MeterChange, type Quarter } from '../time';
import { laneChordName, laneNoteName } from './chord-line';
import { differCount, differencesOf, differenceWords, type EventDifference } from './differences';
import { mapOf, metersOf, sectionLength, type FormMap, type PassSpan } from './map';
import { moveWords } from './move-use';
import { passTimes } from './passes';
import { layRow, playedBy, resolve, rowOver, type Line, type Span } from './resolve';
import { stopWords } from './route-line';

/** The form as a chart on paper: sections with chords over their bars, and under them a row of slips for each part. */

/** Where something stands in a block: in bars from its beginning, with a fraction within the bar. */
export interface Slip {
  readonly use: Use;
  readonly play: number;
  readonly from: number;
  readonly to: number;
  /** What is played, in a name and what is done to it: "B", "up 5 frets", "ending". */
  readonly name: string;
  readonly how: string;
  readonly kind: 'riff' | 'varied' | 'silent' | 'rest' | 'free' | 'unwritten' | 'fault';
  /** Notes as dashes: begin and end in bars of the block, height 0 (low) to 1 within the part's range. */
  readonly contour: readonly {
    readonly from: number;
    readonly to: number;
    readonly height: number;
    readonly chord: boolean;
  }[];
  /** The span of the line it is; null where the section is not in the route. */
  readonly span: number | null;
  /** Open strings that became stopped ones by moving. */
  readonly lostOpen: number;
}

export interface ChartRow {
  readonly part: Part;
  readonly row: Row | null;
  readonly slips: readonly Slip[];
  /** By how many quarters the row is too short (below 0) or goes over. */
  readonly over: Quarter;
}

/** Something that holds for some passes only, under the bars it changes. */
export interface Ending {
  readonly from: number;
  readonly to: number;
  readonly words: string;
  readonly detail: readonly string[];
  readonly part: Part;
  readonly use: Use;
}

export interface ChartChord {
  readonly at: number;
  readonly name: string;
  /** A bass note of its own, where the lane has one. */
  readonly bass: string | null;
}

export interface ChartBlock {
  readonly key: string;
  readonly section: Section;
  /** The pass drawn; null where the section is not in the route. */
  readonly pass: PassSpan | null;
  /** The number of its first bar in the piece, from 1; null where it is not played. */
  readonly firstBar: number | null;
  readonly bars: number;
  readonly meters: readonly MeterChange[];
  readonly chords: readonly ChartChord[];
  readonly rows: readonly ChartRow[];
  readonly endings: readonly Ending[];
  /** "2 times in all, then once", "not played". */
  readonly plays: string;
  /** What is said beside: cue, key, tempo, meter, how it ends. */
  readonly remarks: readonly string[];
}

export interface ChartOptions {
  /** Every pass in the order of playing, instead of each section once. */
  readonly unfolded: boolean;
  readonly schools?: Schools;
}

/** A time of a section in bars with a fraction. */
export function inBars(meters: readonly MeterChange[], at: Quarter): number {
  const { bar, offset } = barOf(meters, at);
  if (bar < 0) return toNumber(offset) / toNumber(barStart(meters, 1));
  const length = toNumber(sub(barStart(meters, bar + 1), barStart(meters, bar)));
  return bar + toNumber(offset) / length;
}

interface Range {
  readonly low: number;
  readonly high: number;
}

/** The pitches a part has, as written and as its form moves them. */
function rangeOf(part: Part, line: Line | null): Range {
  const known = line && ranges.get(line.riff);
  if (known) return known;
  const range = measured(part, line);
  if (line) ranges.set(line.riff, range);
  return range;
}
const ranges = new WeakMap<Line['riff'], Range>();

function measured(part: Part, line: Line | null): Range {
  let [low, high] = [127, 0];
  for (const { events } of [...part.riffs, ...(line ? [line.riff] : [])])
    for (const event of events)
      for (const { pitch } of event.notes) {
        low = Math.min(low, pitch.midi);
        high = Math.max(high, pitch.midi);
      }
  return low > high ? { low: 40, high: 64 } : { low, high: Math.max(high, low + 5) };
}

/** How often a section is played, place by place: "2 times in all, then once". */
export function playedWords(piece: Piece, section: Section): string {
  if (piece.form.length === 0) return 'once';
  const counts = piece.form.filter((entry) => entry.section === section.id).map((entry) => entry.plays);
  if (counts.length === 0) return 'not in the order of playing';
  const [only] = counts;
  if (counts.length === 1) return only === 1 ? 'once' : `${only} times in all`;
  if (counts.every((count) => count === 1)) return `${counts.length} times in all`;
  const total = counts.reduce((sum, count) => sum + count, 0);
  return `${total} times in all: ${counts.join(', then ')}`;
}

/** What is said beside a section: its cue, and what of its context is its own. */
export function remarksOf(piece: Piece, section: Section, schools: Schools, passes: readonly PassSpan[]): string[] {
  const out: string[] = [];
  const { context, cue } = section;
  if (cue) out.push(cue);
  const [key] = context?.key ?? [];
  if (key) out.push(`${laneNoteName(key.tonic, schools.notes)} ${key.mode}`);
  const [tempo] = context?.tempo ?? [];
  if (tempo) out.push(`${Math.round(tempo.bpm * 10) / 10} quarters a minute`);
  const meters = context?.meters;
  if (meters?.[0]) out.push(`${meters[0].beats}/${meters[0].unit}`);
  const [feel] = context?.feel ?? [];
  if (feel) out.push(feel.swing === 50 ? 'straight' : 'swung');
  const stops = new Set(passes.flatMap((pass) => (pass.entry?.stop ? [stopWords(pass.entry.stop)] : [])));
  out.push(...[...stops].map((words) => (stops.size === 1 && passes.length === 1 ? words : `last: ${words}`)));
  return out;
}

/** The whole chart of a piece. */
export function chartOf(piece: Piece, { unfolded, schools = DEFAULT_SCHOOLS }: ChartOptions): ChartBlock[] {
  const map = mapOf(piece);
  const lines = new Map(piece.parts.map((part) => [part.id, resolve(piece, part.id)]));
  const heights = new Map(piece.parts.map((part) => [part.id, rangeOf(part, lines.get(part.id) ?? null)]));
  const make = (section: Section, pass: PassSpan | null, key: string): ChartBlock => {
    const meters = metersOf(piece, section);
    const bars = pass && unfolded ? pass.bars : section.bars;
    const all = map.passes.filter((one) => one.section === section);
    return {
      ...{ key, section, pass, bars, meters },
      firstBar: pass ? pass.firstBar + 1 : null,
      chords: chordsOf(piece, map, section, pass, meters, schools),
      rows: piece.parts.flatMap((part) => {
        const row = section.rows.find((one) => one.part === part.id) ?? null;
        const line = lines.get(part.id);
        const range = heights.get(part.id);
        if (!range) return [];
        return [
          {
            part,
            row,
            slips: row ? slipsOf(piece, part, section, row, pass, line ?? null, meters, range) : [],
            over: row ? rowOver(piece, section, row) : ZERO,
          },
        ];
      }),
      endings: unfolded ? [] : endingsOf(piece, section, all, meters, schools),
      plays:
        unfolded && pass && pass.passes > 1
          ? `${pass.pass} of ${pass.passes}`
          : unfolded
            ? ''
            : playedWords(piece, section),
      remarks: remarksOf(
        piece,
        section,
        schools,
        unfolded && pass ? [pass] : all.filter((one) => one.pass === one.passes),
      ),
    };
  };
  if (unfolded) return map.passes.map((pass) => make(pass.section, pass, `pass-${pass.index}`));
  return piece.sections.map((section) =>
    make(section, map.passes.find((one) => one.section === section) ?? null, section.id),
  );
}

function chordsOf(
  piece: Piece,
  map: FormMap,
  section: Section,
  pass: PassSpan | null,
  meters: readonly MeterChange[],
  schools: Schools,
): ChartChord[] {
  const from = pass?.from ?? ZERO;
  const own = section.context?.chords;
  const spans = pass
    ? map.chords.filter((one) => cmp(one.at, pass.from) >= 0 && cmp(one.at, pass.to) < 0)
    : (own ?? []).map((one) => ({
        at: one.at as Quarter,
        to: add(one.at as Quarter, one.dur as Quarter),
        chord: one.chord,
      }));
  const basses = pass
    ? map.bass.filter((one) => cmp(one.at, pass.from) >= 0 && cmp(one.at, pass.to) < 0)
    : (section.context?.bass ?? []).map((one) => ({
        at: one.at as Quarter,
        to: add(one.at as Quarter, one.dur as Quarter),
        note: one.note,
      }));
  const out = new Map<Quarter, ChartChord>();
  for (const one of spans) {
    const at = sub(one.at, from);
    out.set(at, { at: inBars(meters, at), name: laneChordName(one.chord, schools.notes), bass: null });
  }
  for (const one of basses) {
    const at = sub(one.at, from);
    const name = laneNoteName(one.note, schools.notes);
    out.set(at, { at: inBars(meters, at), name: out.get(at)?.name ?? '', bass: name });
  }
  return [...out.values()].sort((a, b) => a.at - b.at);
}

function slipsOf(
  piece: Piece,
  part: Part,
  section: Section,
  row: Row,
  pass: PassSpan | null,
  line: Line | null,
  meters: readonly MeterChange[],
  range: Range,
): readonly Slip[] {
  if (pass && line) {
    const drawn = slipsByPass.get(line.riff) ?? new Map<number, DrawnPass>();
    slipsByPass.set(line.riff, drawn);
    const known = drawn.get(pass.index);
    if (known && known.range.low === range.low && known.range.high === range.high) return known.slips;
    const events = eventsBySpan(line);
    const slips = line.spans
      .filter((span) => span.pass.index === pass.index)
      .map((span) =>
        slip(
          part,
          span.use,
          span.play,
          inBars(meters, sub(span.from, pass.from)),
          inBars(meters, sub(span.to, pass.from)),
          {
            ...{ span, range, meters },
            events: (events.get(span.index) ?? []).map((event) => ({ ...event, at: sub(event.at, pass.from) })),
          },
        ),
      );
    drawn.set(pass.index, { slips, range });
    return slips;
  }
  const length = sectionLength(piece, section);
  return layRow(piece, section, row).map(({ use, play, from, to }) => {
    const riff = part.riffs.find((one) => one.id === use.riff);
    const events = riff && !use.leaveOut ? playedBy(piece, part, riff, use, use.variant).events : [];
    return slip(part, use, play, inBars(meters, from), inBars(meters, minQuarter(to, length)), {
      ...{ span: null, range, meters },
      events: events.map((event) => ({ ...event, at: add(event.at, from) })),
    });
  });
}

interface DrawnPass {
  readonly slips: readonly Slip[];
  readonly range: Range;
}
/** What was worked out of a line that is still the same. */
const slipsByPass = new WeakMap<Line['riff'], Map<number, DrawnPass>>();

const bySpan = new WeakMap<Line['riff'], Map<number, Line['riff']['events'][number][]>>();
function eventsBySpan(line: Line): Map<number, Line['riff']['events'][number][]> {
  const known = bySpan.get(line.riff);
  if (known) return known;
  const out = new Map<number, Line['riff']['events'][number][]>();
  for (const event of line.riff.events) {
    const span = line.origins.get(event.id)?.span ?? -1;
    const list = out.get(span) ?? [];
    list.push(event);
    out.set(span, list);
  }
  bySpan.set(line.riff, out);
  return out;
}

interface Drawn {
  readonly span: Span | null;
  readonly events: readonly Line['riff']['events'][number][];
  readonly range: Range;
  readonly meters: readonly MeterChange[];
}

const SPOTS = { rest: 'rests', free: 'free', unwritten: 'not yet written' } as const;

function slip(
  part: Part,
  use: Use,
  play: number,
  from: number,
  to: number,
  { span, events, range, meters }: Drawn,
): Slip {
  const riff = part.riffs.find((one) => one.id === use.riff);
  const variantId = span ? span.variant : (use.variant ?? null);
  const variant = riff?.variants?.find((one) => one.id === variantId);
  const silent = span ? span.riff === null && use.riff !== undefined : use.leaveOut === true;
  const how = [
    ...(use.bars
      ? [
          use.bars.count === 1
            ? `bar ${use.bars.from + 1}`
            : `bars ${use.bars.from + 1} to ${use.bars.from + use.bars.count}`,
        ]
      : []),
    ...(variant ? [variant.name] : []),
    ...(use.move ? [moveWords(use.move)] : []),
    ...(silent ? ['silent'] : []),
  ].join(', ');
  const fault =
    !silent && riff !== undefined && riff.events.length > 0 && events.length === 0 && use.move !== undefined;
  const spread = range.high - range.low;
  return {
    ...{ use, play, from, to, how, lostOpen: span?.lostOpen ?? 0, span: span?.index ?? null },
    name: use.spot ? SPOTS[use.spot.kind] : (riff?.name ?? '?'),
    kind: use.spot
      ? use.spot.kind
      : fault
        ? 'fault'
        : silent
          ? 'silent'
          : variant || use.move || use.bars
            ? 'varied'
            : 'riff',
    contour: events.flatMap((event) =>
      event.notes.map((note) => ({
        from: inBars(meters, event.at),
        to: inBars(meters, add(event.at, event.dur)),
        height: (note.pitch.midi - range.low) / spread,
        chord: event.notes.length > 1,
      })),
    ),
  };
}

/** What some passes play otherwise, beside each other: endings of uses, and what places of the route say. */
function endingsOf(
  piece: Piece,
  section: Section,
  passes: readonly PassSpan[],
  meters: readonly MeterChange[],
  schools: Schools,
): Ending[] {
  const out: Ending[] = [];
  for (const row of section.rows) {
    const part = piece.parts.find((one) => one.id === row.part);
    if (!part) continue;
    const laid = layRow(piece, section, row);
    for (const use of row.uses) {
      const riff = part.riffs.find((one) => one.id === use.riff);
      if (!riff) continue;
      const plays = laid.filter((one) => one.use === use);
      const tell = (words: string, variantId: string | null, playIndex: number): void => {
        const variant = riff.variants?.find((one) => one.id === variantId);
        const list: EventDifference[] = variant
          ? differencesOf(
              playedBy(piece, part, riff, use, use.variant).events,
              playedBy(piece, part, riff, use, variant.id).events,
            )
          : [];
        const place = plays[Math.min(plays.length - 1, Math.max(0, playIndex))];
        if (!place) return;
        const first = list[0]?.at ?? ZERO;
        const last = list.at(-1)?.at ?? sub(place.to, place.from);
        const begins = Math.floor(inBars(meters, add(place.from, first)));
        const ends = Math.min(section.bars, Math.floor(inBars(meters, add(place.from, last))) + 1);
        const context = { meters: riff.meters, key: riff.key ?? null, schools };
        out.push({
          ...{ from: begins, to: Math.max(begins + 1, ends), part, use },
          words: variant ? `${words}: ${variant.name} (${differCount(list)})` : `${words}: ${riff.name} is silent`,
          detail: list.slice(0, 12).map((one) => differenceWords(one, context)),
        });
      };
      for (const ending of use.endings ?? []) {
        const [name] = ending.passes;
        const index =
          use.plays === 1
            ? 0
            : typeof name === 'number'
              ? name - 1
              : name === 'even'
                ? 1
                : name === 'odd'
                  ? 0
                  : use.plays - 1;
        tell(`${passTimes(ending.passes)}`, ending.variant, index);
      }
      const entries = new Map(passes.flatMap((pass) => (pass.entry ? [[pass.entry.id, pass] as const] : [])));
      for (const pass of entries.values()) {
        const where = entries.size > 1 ? `, at bar ${(firstPass(pass, passes)?.firstBar ?? 0) + 1}` : '';
        for (const one of pass.entry?.differences ?? [])
          if (one.use === use.id)
            tell(`${passTimes(one.passes)}${where}`, one.leaveOut ? null : (one.variant ?? null), 0);
        for (const joint of pass.entry?.joints ?? [])
          if (joint.use === use.id) tell(`into the repeat${where}`, joint.variant, use.plays - 1);
      }
    }
  }
  return out;
}

/** The first pass of the place a pass belongs to. */
const firstPass = (pass: PassSpan, passes: readonly PassSpan[]): PassSpan | undefined =>
  passes.find((one) => one.entryIndex === pass.entryIndex);

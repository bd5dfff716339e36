import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import type { Part, Piece, Row, Section, Use } from '../score';
import { add, cmp, sub, ZERO, type MeterChange, type Quarter } from '../time';
import { laneChordName, laneNoteName } from './chord-line';
import { differCount, differencesOf, differenceWords, type EventDifference } from './differences';
import { inBars, mapOf, metersOf, type FormMap, type PassSpan } from './map';
import { passTimes } from './passes';
import { playedBy } from './played';
import { rangeOf, slipsOf, type Slip } from './slips';
import { layRow, rowOver } from './spans';
import { stopWords } from './route-line';

/** The form as a chart on paper: sections with chords over their bars, and under them a row of slips for each part. */

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
  const heights = new Map(piece.parts.map((part) => [part.id, rangeOf(piece, part)]));
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
        const range = heights.get(part.id);
        if (!range) return [];
        return [
          {
            part,
            row,
            slips: row ? slipsOf(piece, part, section, row, pass, meters, range) : [],
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

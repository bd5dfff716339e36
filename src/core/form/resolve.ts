import equal from 'fast-deep-equal';
import { finding, type Finding } from '../base';
import type { Key } from '../pitch';
import { optionsFor, placeRiff } from '../place';
import type { Setup } from '../instrument';
import {
  findPart,
  keyOf,
  makeRiff,
  riffEnd,
  tempoOf,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
  type Row,
  type Section,
  type Use,
} from '../score';
import {
  add,
  barStart,
  cmp,
  lt,
  maxQuarter,
  minQuarter,
  mul,
  sub,
  ZERO,
  type MeterChange,
  type Quarter,
} from '../time';
import { barsFrom, mapOf, metersOf, sectionLength, type FormMap, type PassSpan } from './map';
import { moveUse } from './move-use';
import { variantOn } from './passes';
import { applyVariant } from './variant';

/**
 * Unfolding: from what is stored once to what is played, bar after bar. Playing, printing, speaking and checking all
 * work on the line that comes out here, and on nothing else.
 */

/** One play of a use, in form time. */
export interface Span {
  readonly index: number;
  readonly pass: PassSpan;
  readonly use: Use;
  /** Of the use within its section, from 1. */
  readonly play: number;
  readonly from: Quarter;
  readonly to: Quarter;
  /** What is played: null in a spot, and where the riff is left out. */
  readonly riff: Riff | null;
  readonly variant: string | null;
  /** Open strings that became stopped ones by moving. */
  readonly lostOpen: number;
}

/** Where an event of the line comes from. */
export interface Origin {
  /** The event in its riff, or in the variant. */
  readonly event: string;
  readonly span: number;
}

/** A part as it is played from the first bar to the last. */
export interface Line {
  readonly part: Part;
  readonly map: FormMap;
  /** As if it were one long riff: whatever works on a riff works on it. Ids are the sources' with "~" and the span. */
  readonly riff: Riff;
  readonly spans: readonly Span[];
  readonly origins: ReadonlyMap<string, Origin>;
  readonly findings: readonly Finding[];
}

/** A use in its section: from when to when each play goes, in section time. */
export interface Laid {
  readonly use: Use;
  readonly play: number;
  readonly from: Quarter;
  readonly to: Quarter;
}

/** How long one play of a use is where it begins. */
export function useLength(part: Part, use: Use, meters: readonly MeterChange[], at: Quarter): Quarter {
  if (use.spot) return barsFrom(meters, at, use.spot.bars);
  const riff = part.riffs.find((one) => one.id === use.riff);
  if (!riff) return barsFrom(meters, at, 1);
  const end = riffEnd(riff);
  if (!use.bars) return end;
  const from = barStart(riff.meters, use.bars.from);
  const to = minQuarter(
    barStart(riff.meters, use.bars.from + use.bars.count),
    maxQuarter(end, barStart(riff.meters, use.bars.from + 1)),
  );
  return sub(to, from);
}

/** The uses of a row laid end to end, each play for itself. What would begin after the section's end is left out. */
export function layRow(piece: Pick<Piece, 'parts' | 'context'>, section: Section, row: Row): Laid[] {
  const part = piece.parts.find((one) => one.id === row.part);
  if (!part) return [];
  const meters = metersOf(piece, section);
  const length = sectionLength(piece, section);
  const out: Laid[] = [];
  let at = ZERO;
  for (const use of row.uses)
    for (let play = 1; play <= use.plays && lt(at, length); play++) {
      const to = add(at, useLength(part, use, meters, at));
      out.push({ use, play, from: at, to });
      at = to;
    }
  return out;
}

/** Whether the uses of a row fill their section; by how many quarters they fall short (below 0) or go over. */
export function rowOver(piece: Pick<Piece, 'parts' | 'context'>, section: Section, row: Row): Quarter {
  const part = piece.parts.find((one) => one.id === row.part);
  const meters = metersOf(piece, section);
  let at = ZERO;
  for (const use of part ? row.uses : []) {
    // Bars of rest may be of several lengths; a riff is as long every time.
    if (part && use.spot) for (let play = 1; play <= use.plays; play++) at = add(at, useLength(part, use, meters, at));
    else if (part) at = add(at, mul(useLength(part, use, meters, at), use.plays));
  }
  return sub(at, sectionLength(piece, section));
}

interface Played {
  readonly events: readonly RiffEvent[];
  readonly lostOpen: number;
  readonly findings: readonly Finding[];
}

/** Versions of a riff that were worked out already, by what makes them. */
const versions = new WeakMap<Riff, Map<string, Played & { readonly setup: Setup; readonly placedBy: unknown }>>();

/** The events of a use before they are laid anywhere: varied, cut to its bars, moved, placed where moving unplaced. */
export function playedBy(piece: Piece, part: Part, riff: Riff, use: Use, variant: string | undefined): Played {
  const key: Key | null = keyOf(piece, riff);
  const { costs } = piece;
  const made = JSON.stringify([variant, use.move, use.bars, key?.tonic]);
  const known = versions.get(riff)?.get(made);
  if (known && known.setup === part.setup && known.placedBy === costs) return known;
  const varied = riff.variants?.find((one) => one.id === variant);
  const { events, findings } = varied ? applyVariant(riff, varied) : { events: riff.events, findings: [] };
  const found: Finding[] = [...findings];
  let { lostOpen, played } = { lostOpen: 0, played: within(riff, events, use) };
  if (use.move) {
    const moved = moveUse(part.setup, played, use.move, key);
    if (moved.ok) {
      lostOpen = moved.value.lostOpen;
      const unplaced = moved.value.events.some((event) => event.notes.some((note) => !note.place));
      played = unplaced
        ? placeRiff({ ...riff, events: moved.value.events }, part.setup, tempoOf(piece, riff), optionsFor(piece, part))
            .riff.events
        : moved.value.events;
    } else {
      found.push(
        finding('not-moved', 'error', `"${riff.name}" can't be moved so: ${moved.error.words}`, {
          part: part.id,
          riff: riff.id,
        }),
      );
      played = [];
    }
  }
  const value = { events: played, lostOpen, findings: found, setup: part.setup, placedBy: costs };
  const kept = versions.get(riff) ?? new Map<string, typeof value>();
  kept.set(made, value);
  versions.set(riff, kept);
  return value;
}

/** The bars of a riff a use plays, from time 0. A pickup goes along where it begins at the beginning. */
function within(riff: Riff, events: readonly RiffEvent[], use: Use): readonly RiffEvent[] {
  const end = riffEnd(riff);
  if (!use.bars)
    return events.some((event) => cmp(event.at, end) >= 0) ? events.filter((event) => lt(event.at, end)) : events;
  const from = barStart(riff.meters, use.bars.from);
  const to = barStart(riff.meters, use.bars.from + use.bars.count);
  return events
    .filter((event) => (use.bars?.from === 0 || cmp(event.at, from) >= 0) && lt(event.at, to))
    .map((event) => (from === ZERO ? event : { ...event, at: sub(event.at, from) }));
}

interface Kept {
  readonly sections: Piece['sections'];
  readonly costs: Piece['costs'];
  readonly line: Line;
}
const lines = new WeakMap<Part, Kept>();

/** A part of a piece unfolded; null where the piece has no such part. Unchanged parts keep their line. */
export function resolve(piece: Piece, partId: string): Line | null {
  const part = findPart(piece, partId);
  if (!part) return null;
  const map = mapOf(piece);
  const known = lines.get(part);
  const { sections, costs } = piece;
  if (known && known.costs === costs) {
    const { line } = known;
    if (line.map === map && known.sections === sections) return line;
    if (sameFrame(line.map, map) && sameRows(known.sections, sections, partId)) {
      // Something else of the form changed: what this part plays when is the same.
      const spans = line.spans.map((span) => ({ ...span, pass: map.passes[span.pass.index] ?? span.pass }));
      const moved = { ...line, map, spans };
      lines.set(part, { sections, costs, line: moved });
      return moved;
    }
  }
  const line = unfold(piece, part, map);
  lines.set(part, { sections, costs, line });
  return line;
}

/** Whether two maps lay the same sections at the same times, in the same tempo and key. */
const sameFrame = (a: FormMap, b: FormMap): boolean =>
  a === b ||
  (a.passes.length === b.passes.length &&
    a.click === b.click &&
    a.passes.every((pass, i) => {
      const other = b.passes[i];
      return (
        other !== undefined &&
        pass.from === other.from &&
        pass.to === other.to &&
        pass.section.id === other.section.id &&
        pass.entry === other.entry &&
        pass.pass === other.pass
      );
    }) &&
    equal([a.meters, a.tempo, a.feel, a.keys], [b.meters, b.tempo, b.feel, b.keys]));

/** Whether a part's rows are the same in all sections. */
const sameRows = (a: Piece['sections'], b: Piece['sections'], part: string): boolean =>
  a.length === b.length &&
  a.every((section, i) => {
    const other = b[i];
    const row = (one: Section | undefined): Row | undefined => one?.rows.find((each) => each.part === part);
    return other?.id === section.id && other.name === section.name && row(section)?.uses === row(other)?.uses;
  });

/** Every part that has something in the form, unfolded. */
export const resolveAll = (piece: Piece): Line[] =>
  piece.parts.flatMap((part) => {
    const line = resolve(piece, part.id);
    return line ? [line] : [];
  });

function unfold(piece: Piece, part: Part, map: FormMap): Line {
  const spans: Span[] = [];
  const origins = new Map<string, Origin>();
  const findings = new Map<string, Finding>();
  const out: RiffEvent[] = [];
  const tell = (one: Finding): void => void findings.set(`${one.rule} ${one.words}`, one);
  const rows = new Map<Section, { readonly laid: readonly Laid[] }>();
  let pickup = ZERO;
  for (const pass of map.passes) {
    const row = pass.section.rows.find((one) => one.part === part.id);
    if (!row) continue;
    const known = rows.get(pass.section) ?? { laid: layRow(piece, pass.section, row) };
    if (!rows.has(pass.section)) {
      rows.set(pass.section, known);
      const over = rowOver(piece, pass.section, row);
      if (cmp(over, ZERO) > 0)
        tell(
          finding(
            'row-over',
            'question',
            `${part.name} has more than "${pass.section.name}" has bars for: what goes over is cut.`,
            { part: part.id, path: ['sections', pass.section.id] },
          ),
        );
    }
    for (const { use, play, from, to } of known.laid) {
      const start = add(pass.from, from);
      if (cmp(start, pass.to) >= 0) break;
      const riff = part.riffs.find((one) => one.id === use.riff) ?? null;
      const chosen = riff
        ? variantOn(use, pass.entry, { play, plays: use.plays, pass: pass.pass, passes: pass.passes })
        : null;
      const played = riff && chosen !== null ? playedBy(piece, part, riff, use, chosen) : null;
      const index = spans.length;
      spans.push({
        ...{ index, pass, use, play, from: start, to: minQuarter(add(pass.from, to), pass.to) },
        ...{ riff: played ? riff : null, variant: chosen ?? null, lostOpen: played?.lostOpen ?? 0 },
      });
      if (!played) continue;
      played.findings.forEach(tell);
      const [first] = played.events;
      // A pickup is played instead of what the bars before it end with.
      if (first)
        for (let last = out.at(-1); last && cmp(last.at, add(start, first.at)) >= 0; last = out.at(-1))
          origins.delete(out.pop()?.id ?? '');
      // Where the last of it lies within the pass all of it does.
      const last = played.events.at(-1);
      const whole = last !== undefined && lt(add(start, last.at), pass.to);
      const mark = `~${index}`;
      for (const event of played.events) {
        const at = add(start, event.at);
        if (!whole && cmp(at, pass.to) >= 0) break;
        const id = event.id + mark;
        out.push({ ...event, id, at, notes: event.notes.map((note) => ({ ...note, id: note.id + mark })) });
        origins.set(id, { event: event.id, span: index });
        if (start === ZERO && at.startsWith('-')) pickup = maxQuarter(pickup, sub(ZERO, at));
      }
    }
  }
  const riff = makeRiff(`line-${part.id}`, piece.title, {
    ...{ bars: Math.max(1, map.bars), pickup, meters: [...map.meters], events: out, tempo: [...map.tempo], plays: 1 },
    ...(map.feel.length > 0 ? { feel: [...map.feel] } : {}),
    ...(map.click === undefined ? {} : { click: map.click }),
    ...(map.keys[0] ? { key: { tonic: map.keys[0].tonic, mode: map.keys[0].mode } } : {}),
  });
  return { part, map, riff, spans, origins, findings: [...findings.values()] };
}

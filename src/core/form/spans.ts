import equal from 'fast-deep-equal';
import { finding, type Finding } from '../base';
import { riffEnd, type Part, type Piece, type Riff, type Row, type Section, type Use } from '../score';
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
import { variantOn } from './passes';
import { playedBy, type Played } from './played';

/** Which use plays when: the form laid out for a part, before any note is written down. */

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
  /** Its notes, in time of its own; null where nothing of the part is played. */
  readonly played: Played | null;
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

/** What a part plays from the first bar to the last, and what is to be asked about it. */
export interface Laying {
  readonly spans: readonly Span[];
  readonly findings: readonly Finding[];
  /** The same object as long as the same is played at the same times, whatever else of the piece changes. */
  readonly since: { readonly part: Part };
}

interface Kept {
  readonly sections: Piece['sections'];
  readonly costs: Piece['costs'];
  readonly map: FormMap;
  readonly laying: Laying;
}
const layings = new WeakMap<Part, Kept>();

/** The plays of a part in the order of playing. Unchanged parts keep them. */
export function spansOf(piece: Piece, part: Part): Laying {
  const map = mapOf(piece);
  const known = layings.get(part);
  const { sections, costs } = piece;
  if (known && known.costs === costs) {
    if (known.map === map && known.sections === sections) return known.laying;
    if (sameFrame(known.map, map) && sameRows(known.sections, sections, part.id)) {
      // Something else of the form changed: what this part plays when is the same.
      const spans = known.laying.spans.map((span) => ({ ...span, pass: map.passes[span.pass.index] ?? span.pass }));
      const laying = { ...known.laying, spans };
      layings.set(part, { sections, costs, map, laying });
      return laying;
    }
  }
  const laying = lay(piece, part, map);
  layings.set(part, { sections, costs, map, laying });
  return laying;
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

function lay(piece: Piece, part: Part, map: FormMap): Laying {
  const spans: Span[] = [];
  const findings = new Map<string, Finding>();
  const tell = (one: Finding): void => void findings.set(`${one.rule} ${one.words}`, one);
  const rows = new Map<Section, readonly Laid[]>();
  for (const pass of map.passes) {
    const row = pass.section.rows.find((one) => one.part === part.id);
    if (!row) continue;
    const laid = rows.get(pass.section) ?? layRow(piece, pass.section, row);
    if (!rows.has(pass.section)) {
      rows.set(pass.section, laid);
      if (cmp(rowOver(piece, pass.section, row), ZERO) > 0)
        tell(
          finding(
            'row-over',
            'question',
            `${part.name} has more than "${pass.section.name}" has bars for: what goes over is cut.`,
            { part: part.id, path: ['sections', pass.section.id] },
          ),
        );
    }
    for (const { use, play, from, to } of laid) {
      const start = add(pass.from, from);
      if (cmp(start, pass.to) >= 0) break;
      const riff = part.riffs.find((one) => one.id === use.riff) ?? null;
      const chosen = riff
        ? variantOn(use, pass.entry, { play, plays: use.plays, pass: pass.pass, passes: pass.passes })
        : null;
      const played = riff && chosen !== null ? playedBy(piece, part, riff, use, chosen) : null;
      played?.findings.forEach(tell);
      spans.push({
        ...{ index: spans.length, pass, use, play, from: start, to: minQuarter(add(pass.from, to), pass.to) },
        ...{ riff: played ? riff : null, variant: chosen ?? null, lostOpen: played?.lostOpen ?? 0, played },
      });
    }
  }
  return { spans, findings: [...findings.values()], since: { part } };
}

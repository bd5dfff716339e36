import equal from 'fast-deep-equal';
import type { Key } from '../pitch';
import {
  barCount,
  keyOf,
  type Context,
  type FormEntry,
  type Part,
  type Piece,
  type Riff,
  type Section,
} from '../score';
import {
  add,
  barOf,
  barStart,
  bpmAt,
  cmp,
  maxQuarter,
  meterAt,
  mul,
  quarter,
  sub,
  toNumber,
  ZERO,
  type FeelStep,
  type MeterChange,
  type Quarter,
  type TempoStep,
} from '../time';

/** The form laid out in time: which section stands where on which pass, and the lanes that hold for everybody. */

/** One pass of a section, in form time: quarters from the first bar line of the piece. */
export interface PassSpan {
  readonly index: number;
  /** The place in the route; null where nobody has said an order and the sections follow one another. */
  readonly entry: FormEntry | null;
  readonly entryIndex: number;
  readonly section: Section;
  /** Counted from 1, of so many. */
  readonly pass: number;
  readonly passes: number;
  readonly from: Quarter;
  readonly to: Quarter;
  /** Bars of the piece count from 0 through all passes. */
  readonly firstBar: number;
  readonly bars: number;
}

export interface ChordSpan {
  readonly at: Quarter;
  readonly to: Quarter;
  readonly chord: string;
}
export interface BassSpan {
  readonly at: Quarter;
  readonly to: Quarter;
  readonly note: string;
}

export interface FormMap {
  readonly passes: readonly PassSpan[];
  readonly bars: number;
  readonly end: Quarter;
  readonly meters: readonly MeterChange[];
  readonly tempo: readonly TempoStep[];
  readonly feel: readonly FeelStep[];
  readonly click: number | undefined;
  readonly keys: readonly (Key & { readonly at: Quarter })[];
  readonly chords: readonly ChordSpan[];
  readonly bass: readonly BassSpan[];
}

/** How slow a held last beat goes, in percent of the tempo. */
const HELD = 40;
const SLOWED = 60;
/** The last of a slowing lies a hair before what follows in tempo. */
const HAIR = quarter(1, 96);

const FOUR: readonly MeterChange[] = [{ bar: 0, beats: 4, unit: 4 }];

/** The order of playing: the route, or the sections as they stand where no route is said. */
export function routeOf(
  piece: Pick<Piece, 'form' | 'sections'>,
): { readonly entry: FormEntry | null; readonly section: Section }[] {
  if (piece.form.length === 0) return piece.sections.map((section) => ({ entry: null, section }));
  return piece.form.flatMap((entry) => {
    const section = piece.sections.find((one) => one.id === entry.section);
    return section ? [{ entry, section }] : [];
  });
}

/** The riff whose meter, tempo and feel a section takes where it says none of its own: the first of its first row. */
export function leadOf(
  piece: Pick<Piece, 'parts'>,
  section: Section,
): { readonly part: Part; readonly riff: Riff } | null {
  for (const row of section.rows)
    for (const use of row.uses) {
      const part = piece.parts.find((one) => one.id === row.part);
      const riff = part?.riffs.find((one) => one.id === use.riff);
      if (part && riff) return { part, riff };
    }
  return null;
}

/** What a section nobody plays in is counted in: what the piece's first riff begins in, else four quarters. */
function usualMeters({ parts }: Pick<Piece, 'parts'>): readonly MeterChange[] {
  const first = parts.flatMap((part) => part.riffs)[0]?.meters[0];
  return first ? [{ ...first, bar: 0 }] : FOUR;
}

/** The meters of a section, by its own bars: those it says, its leading riff's, the piece's, or its first riff's. */
export function metersOf(piece: Pick<Piece, 'parts' | 'context'>, section: Section): readonly MeterChange[] {
  if (section.context?.meters) return section.context.meters;
  const lead = leadOf(piece, section);
  if (!lead) return piece.context.meters ?? usualMeters(piece);
  if (lead.riff.meters.length === 1) return lead.riff.meters;
  // A riff that changes meter does so again each time it comes round.
  const out: MeterChange[] = [];
  const length = barCount(lead.riff);
  for (let bar = 0; bar < section.bars; bar++) {
    const { beats, unit } = meterAt(lead.riff.meters, bar % length);
    const last = out.at(-1);
    if (!last || last.beats !== beats || last.unit !== unit) out.push({ bar, beats, unit });
  }
  return out;
}

export const sectionLength = (piece: Pick<Piece, 'parts' | 'context'>, section: Section): Quarter =>
  barStart(metersOf(piece, section), section.bars);

/** Steps of a lane that hold between two times, the first of them moved to the beginning. */
function sliced<Step extends { readonly at: Quarter }>(lane: readonly Step[], from: Quarter, to: Quarter): Step[] {
  const inside = lane.filter((step) => cmp(step.at, from) > 0 && cmp(step.at, to) < 0);
  const before = lane.findLast((step) => cmp(step.at, from) <= 0) ?? lane[0];
  return before ? [{ ...before, at: from }, ...inside] : inside;
}

const shifted = <Step extends { readonly at: Quarter }>(lane: readonly Step[], by: Quarter): Step[] =>
  lane.map((step) => ({ ...step, at: add(step.at, by) }));

/** A lane of one pass: the section's from its beginning, or what holds in the piece there. */
function laneOn<Step extends { readonly at: Quarter }>(
  own: readonly Step[] | undefined,
  lead: readonly Step[] | undefined,
  piece: readonly Step[] | undefined,
  from: Quarter,
  to: Quarter,
): Step[] {
  const lane = own ?? lead;
  if (lane) return sliced(shifted(lane, from), from, to);
  return sliced(piece ?? [], from, to);
}

function tempoOn(lane: readonly TempoStep[], from: Quarter, to: Quarter): TempoStep[] {
  const [first, ...rest] = sliced(lane, from, to);
  return first ? [{ ...first, bpm: bpmAt(lane, from) }, ...rest] : [];
}

/** How the last pass of a place ends: slowing over its last bars, or its last beat held. */
function ended(tempo: readonly TempoStep[], span: PassSpan, meters: readonly MeterChange[]): readonly TempoStep[] {
  const stop = span.pass === span.passes ? span.entry?.stop : undefined;
  if (stop?.kind === 'slowing') {
    const at = maxQuarter(span.from, barStart(meters, span.firstBar + Math.max(0, span.bars - Math.max(1, stop.bars))));
    const bpm = bpmAt(tempo, at);
    const kept = tempo.filter((step) => cmp(step.at, at) < 0);
    return [...kept, { at, bpm, ramp: true }, { at: sub(span.to, HAIR), bpm: (bpm * (stop.to ?? SLOWED)) / 100 }];
  }
  if (stop?.kind === 'held') {
    const { unit } = meterAt(meters, span.firstBar + span.bars - 1);
    const at = maxQuarter(span.from, sub(span.to, quarter(4, unit)));
    return [...tempo.filter((step) => cmp(step.at, at) < 0), { at, bpm: (bpmAt(tempo, at) * HELD) / 100 }];
  }
  return tempo;
}

/** The spans a lane of chords or of bass notes lays over a pass, cut at its end. */
function spansOn<Step extends { readonly at: string; readonly dur: string }>(
  own: readonly Step[] | undefined,
  piece: readonly Step[] | undefined,
  from: Quarter,
  to: Quarter,
): (Step & { readonly at: Quarter; readonly to: Quarter })[] {
  const by = own ? from : ZERO;
  return (own ?? piece ?? []).flatMap((step) => {
    const at = add(step.at as Quarter, by);
    const end = add(at, step.dur as Quarter);
    if (cmp(end, from) <= 0 || cmp(at, to) >= 0) return [];
    return [{ ...step, at: maxQuarter(at, from), to: cmp(end, to) > 0 ? to : end }];
  });
}

const kept = new WeakMap<Piece['sections'], FormMap>();
const byPiece = new WeakMap<Piece, FormMap>();

/** The map of a piece's form. While nothing of it changes it stays the same object. */
export function mapOf(piece: Piece): FormMap {
  const known = byPiece.get(piece);
  if (known) return known;
  const made = layOut(piece);
  const before = kept.get(piece.sections);
  const map = before && equal(before, made) ? before : made;
  kept.set(piece.sections, map);
  byPiece.set(piece, map);
  return map;
}

/** Steps that say what the step before says are left out. */
function plain<Step extends { readonly at: Quarter }>(steps: readonly Step[]): Step[] {
  const out: Step[] = [];
  for (const step of steps) {
    const last = out.at(-1);
    if (last && cmp(last.at, step.at) === 0) out.pop();
    const before = out.at(-1);
    if (!before || 'ramp' in before || 'ramp' in step || !equal({ ...before, at: 0 }, { ...step, at: 0 }))
      out.push(step);
  }
  return out;
}

function layOut(piece: Piece): FormMap {
  const passes: PassSpan[] = [];
  const meters: MeterChange[] = [];
  const tempo: TempoStep[] = [];
  const feel: FeelStep[] = [];
  const keys: (Key & { at: Quarter })[] = [];
  const chords: ChordSpan[] = [];
  const bass: BassSpan[] = [];
  let at = ZERO;
  let bar = 0;
  routeOf(piece).forEach(({ entry, section }, entryIndex) => {
    const count = entry?.plays ?? 1;
    const own = metersOf(piece, section);
    const lead = leadOf(piece, section)?.riff ?? null;
    const context: Context = section.context ?? {};
    for (let pass = 1; pass <= count; pass++) {
      const early = pass === count && entry?.stop?.kind === 'early' ? entry.stop.bars : 0;
      const bars = Math.max(1, section.bars - early);
      const to = add(at, barStart(own, bars));
      const span: PassSpan = {
        ...{ index: passes.length, entry, entryIndex, section, pass, passes: count },
        ...{ from: at, to, firstBar: bar, bars },
      };
      passes.push(span);
      for (const meter of own) if (meter.bar < bars) meters.push({ ...meter, bar: meter.bar + bar });
      const lane = context.tempo ?? lead?.tempo;
      const steps = tempoOn(
        lane ? shifted(lane as TempoStep[], at) : (piece.context.tempo as readonly TempoStep[]),
        at,
        to,
      );
      tempo.push(...ended(steps, span, meters));
      feel.push(
        ...laneOn(context.feel as FeelStep[], lead?.feel as FeelStep[], piece.context.feel as FeelStep[], at, to),
      );
      if (feel.length > 0 && !context.feel && !lead?.feel && !piece.context.feel) feel.push({ at, ...STRAIGHT });
      const home = lead ? keyOf({ context: { ...piece.context, key: [] } }, lead) : null;
      keys.push(
        ...laneOn(
          context.key as FormMap['keys'],
          home && piece.context.key.length === 0 ? [{ ...home, at: ZERO }] : undefined,
          piece.context.key as FormMap['keys'],
          ...([at, to] as const),
        ),
      );
      chords.push(...spansOn(context.chords, piece.context.chords, at, to));
      bass.push(...spansOn(context.bass, piece.context.bass, at, to));
      at = to;
      bar += bars;
    }
  });
  const lanes = {
    meters: meters.length > 0 ? sameLeftOut(meters) : FOUR,
    tempo: plain(tempo),
    feel: swungLane(feel),
    keys: plain(keys),
  };
  return {
    ...{ passes, bars: bar, end: at, ...lanes, chords, bass },
    tempo: lanes.tempo.length > 0 ? lanes.tempo : (piece.context.tempo as readonly TempoStep[]),
    click: piece.context.click ?? leadClick(piece),
  };
}

const STRAIGHT: Pick<FeelStep, 'swing' | 'unit'> = { swing: 50, unit: '1/2' };

/** A lane of feel from the beginning on; none where all of it is straight. */
function swungLane(feel: readonly FeelStep[]): FeelStep[] {
  if (feel.every((step) => step.swing === STRAIGHT.swing)) return [];
  return plain(feel[0]?.at === ZERO ? feel : [{ at: ZERO, ...STRAIGHT }, ...feel]);
}

const leadClick = (piece: Piece): number | undefined => {
  const [first] = piece.sections;
  return first ? (first.context?.click ?? leadOf(piece, first)?.riff.click) : undefined;
};

const sameLeftOut = (meters: readonly MeterChange[]): MeterChange[] =>
  meters.filter((meter, i) => {
    const before = meters[i - 1];
    return before?.beats !== meter.beats || before.unit !== meter.unit;
  });

/** The pass a time of the form falls into; the first or last beyond the ends, null in an empty form. */
export function passAt(map: FormMap, at: Quarter): PassSpan | null {
  return map.passes.findLast((span) => cmp(span.from, at) <= 0) ?? map.passes[0] ?? null;
}

const holding = <Step extends { readonly at: Quarter }>(lane: readonly Step[], at: Quarter): Step | null =>
  lane.findLast((step) => cmp(step.at, at) <= 0) ?? null;

/** What a moment of the form stands in. */
export interface Moment {
  readonly key: Key | null;
  readonly chord: ChordSpan | null;
  readonly bass: BassSpan | null;
  readonly bpm: number;
  readonly feel: FeelStep | null;
  readonly bar: number;
}

export function momentAt(map: FormMap, at: Quarter): Moment {
  const chord = holding(map.chords, at);
  const bass = holding(map.bass, at);
  return {
    key: holding(map.keys, at),
    chord: chord && cmp(at, chord.to) < 0 ? chord : null,
    bass: bass && cmp(at, bass.to) < 0 ? bass : null,
    bpm: bpmAt(map.tempo, maxQuarter(at, ZERO)),
    feel: holding(map.feel, at),
    bar: barOf(map.meters, at).bar,
  };
}

/** How long one bar of a section is where a use begins there: for rests that are counted in bars. */
export const barsFrom = (meters: readonly MeterChange[], at: Quarter, bars: number): Quarter => {
  const { bar, offset } = barOf(meters, at);
  return sub(add(barStart(meters, bar + bars), offset), at);
};

export const times = (length: Quarter, n: number): Quarter => mul(length, n);

/** A time of a section in bars with a fraction. */
export function inBars(meters: readonly MeterChange[], at: Quarter): number {
  const { bar, offset } = barOf(meters, at);
  if (bar < 0) return toNumber(offset) / toNumber(barStart(meters, 1));
  const length = toNumber(sub(barStart(meters, bar + 1), barStart(meters, bar)));
  return bar + toNumber(offset) / length;
}

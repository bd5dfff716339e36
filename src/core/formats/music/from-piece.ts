import { withSomeForm } from '../../command';
import { mapOf, resolve, type FormMap, type PassSpan } from '../../form';
import { modelOf, type Part, type Piece, type RiffEvent } from '../../score';
import { add, barOf, barStart, cmp, meterAt, sub, ZERO, type MeterChange, type Quarter } from '../../time';
import { joinedSpans, moved, movedSpans, plainSteps, spansIn, stepsIn, tempoIn } from './lanes';
import { orderOf } from './order';
import type { Mark, Music, MusicPart, Repeat } from './types';

export interface WriteChoice {
  /** Ids of the parts to be written; absent, all that are played together. */
  readonly parts?: readonly string[];
  /** Every pass written out, as formats without repeats need it. */
  readonly unfolded?: boolean;
}

/** Bars of the played piece that are written one after the other, as they stand in the form's time. */
interface Stretch {
  readonly bar: number;
  readonly bars: number;
  readonly mark: Mark['name'] | null;
  readonly cue: string | null;
}

/**
 * A piece as music for writers: its form laid out in bars (its riffs one after the other where nobody laid it out),
 * passes that are alike told once as a repeat, those that differ only in their last bars as endings.
 */
export function musicOf(source: Piece, choice: WriteChoice = {}): Music {
  const piece = withSomeForm(source);
  const map = mapOf(piece);
  const parts = piece.parts.filter((part) =>
    choice.parts ? choice.parts.includes(part.id) : !modelOf(piece, part) || piece.parts.length === 1,
  );
  const lines = parts.map((part) => {
    const line = resolve(piece, part.id);
    return { part, events: anchored(line?.riff.events ?? []) };
  });
  const pickup = lines.reduce<Quarter>((most, { events }) => {
    const before = sub(ZERO, events[0]?.main ?? ZERO);
    return cmp(before, most) > 0 ? before : most;
  }, ZERO);
  const { stretches, repeats } = choice.unfolded ? unfoldedOf(map) : foldedOf(map, lines);
  const meters: MeterChange[] = [];
  const marks: Mark[] = [];
  const lanes = { tempo: [], keys: [], feel: [], chords: [], bass: [] } as Lanes;
  const events = lines.map((): RiffEvent[] => []);
  let bar = 0;
  let at = ZERO;
  for (const one of stretches) {
    const [from, to] = [barStart(map.meters, one.bar), barStart(map.meters, one.bar + one.bars)];
    if (one.mark !== null) marks.push({ bar, name: one.mark, ...(one.cue === null ? {} : { cue: one.cue }) });
    for (let i = 0; i < one.bars; i++) {
      const { beats, unit } = meterAt(map.meters, one.bar + i);
      const last = meters.at(-1);
      if (last?.beats !== beats || last.unit !== unit) meters.push({ bar: bar + i, beats, unit });
    }
    lanes.tempo.push(...moved(tempoIn(map.tempo, from, to), at));
    lanes.keys.push(...moved(stepsIn(map.keys, from, to), at));
    lanes.feel.push(...moved(stepsIn(map.feel, from, to), at));
    lanes.chords.push(...movedSpans(spansIn(map.chords, from, to), at));
    lanes.bass.push(...movedSpans(spansIn(map.bass, from, to), at));
    const shift = sub(at, from);
    lines.forEach((line, i) => {
      for (const { event, main } of line.events) {
        if (cmp(main, to) >= 0) break;
        if (cmp(main, from) < 0 && !(bar === 0 && one.bar === 0)) continue;
        events[i]?.push({ ...event, at: add(event.at, shift) });
      }
    });
    bar += one.bars;
    at = add(at, sub(to, from));
  }
  const bars = Math.max(1, bar);
  return {
    ...{ title: piece.title, credit: piece.credit ?? null, bars, pickup },
    meters: meters.length > 0 ? meters : [{ bar: 0, beats: 4, unit: 4 }],
    tempo: plainSteps(lanes.tempo.length > 0 ? lanes.tempo : map.tempo),
    ...{ keys: plainSteps(lanes.keys), feel: plainSteps(lanes.feel) },
    chords: joinedSpans(lanes.chords.map(({ at: from, to, chord }) => ({ at: from, to, chord }))),
    bass: joinedSpans(lanes.bass.map(({ at: from, to, note }) => ({ at: from, to, note }))),
    ...{ marks, repeats, order: orderOf(bars, repeats) },
    parts: parts.map((part, i) => partOf(part, inOrder(events[i] ?? []))),
  };
}

interface Lanes {
  tempo: FormMap['tempo'][number][];
  keys: FormMap['keys'][number][];
  feel: FormMap['feel'][number][];
  chords: FormMap['chords'][number][];
  bass: FormMap['bass'][number][];
}

const partOf = (part: Part, events: readonly RiffEvent[]): MusicPart => ({
  ...{ name: part.name, setup: part.setup, tuning: part.setup.open, capo: 0, program: null, events },
  kind: part.setup.instrument.kind === 'bass' ? 'bass' : 'guitar',
  placed: events.some((event) => event.notes.some((note) => note.place)),
});

/** A grace note that leads over a joint may land on what ends there: of two at once the later written stays. */
function inOrder(events: readonly RiffEvent[]): RiffEvent[] {
  const out: RiffEvent[] = [];
  for (const event of events) {
    for (let last = out.at(-1); last && cmp(last.at, event.at) >= 0; last = out.at(-1)) out.pop();
    out.push(event);
  }
  return out;
}

const unfoldedOf = (map: FormMap): { stretches: Stretch[]; repeats: Repeat[] } => ({
  stretches: map.passes.map((pass) => stretchOf(pass, 0, pass.bars, pass.pass === 1 || pass.passes > 1)),
  repeats: [],
});

const stretchOf = (pass: PassSpan, from: number, to: number, named: boolean): Stretch => ({
  ...{ bar: pass.firstBar + from, bars: to - from },
  mark: named ? pass.section.name : null,
  cue: named ? (pass.section.cue ?? null) : null,
});

/** An event with the time it belongs to: for a grace note that of the note it leads to. */
interface Anchored {
  readonly event: RiffEvent;
  readonly main: Quarter;
}

/** A grace note without a note it could lead to is left out. */
function anchored(events: readonly RiffEvent[]): Anchored[] {
  const out: Anchored[] = [];
  let main: Quarter | null = null;
  for (let i = events.length - 1; i >= 0; i--) {
    const event = events[i];
    if (event && !event.grace) main = event.at;
    if (event && main !== null) out.push({ event, main });
  }
  return out.reverse();
}

type Lines = readonly { readonly events: readonly Anchored[] }[];

function foldedOf(map: FormMap, lines: Lines): { stretches: Stretch[]; repeats: Repeat[] } {
  const keys = barKeys(map, lines);
  const stretches: Stretch[] = [];
  const repeats: Repeat[] = [];
  let bar = 0;
  const write = (stretch: Stretch): void => {
    stretches.push(stretch);
    bar += stretch.bars;
  };
  for (let i = 0; i < map.passes.length;) {
    const first = map.passes[i] as PassSpan;
    const group = map.passes.slice(i, i + first.passes - first.pass + 1);
    const told = group.length > 1 ? toldOnce(group, keys) : null;
    if (!told) {
      for (const pass of group) write(stretchOf(pass, 0, pass.bars, true));
    } else {
      const from = bar;
      write(stretchOf(first, 0, told.body, true));
      const endings = told.endings.map(({ pass, passes }) => {
        const start = bar;
        write(stretchOf(group[pass] as PassSpan, told.body, first.bars, false));
        return { from: start, to: bar, passes };
      });
      // The body alone without bars is no repeat: told.body is 1 at least.
      repeats.push({ from, to: bar, times: group.length, endings });
    }
    i += group.length;
  }
  return { stretches, repeats };
}

/** How passes of a section are told once: the bars alike in all of them, and the endings; null where they differ. */
function toldOnce(
  group: readonly PassSpan[],
  keys: readonly string[],
): { body: number; endings: { pass: number; passes: number[] }[] } | null {
  const [first] = group;
  if (!first || group.some((pass) => pass.bars !== first.bars)) return null;
  const keyOf = (pass: PassSpan, bar: number): string => keys[pass.firstBar + bar] ?? '';
  let body = 0;
  while (body < first.bars && group.every((pass) => keyOf(pass, body) === keyOf(first, body))) body++;
  if (body === first.bars) return { body, endings: [] };
  if (body === 0 || first.bars - body > Math.max(2, Math.floor(first.bars / 2))) return null;
  const endings: { key: string; pass: number; passes: number[] }[] = [];
  group.forEach((pass, i) => {
    const key = Array.from({ length: first.bars - body }, (_, k) => keyOf(pass, body + k)).join('|');
    const known = endings.find((one) => one.key === key);
    if (known) known.passes.push(i + 1);
    else endings.push({ key, pass: i, passes: [i + 1] });
  });
  return { body, endings };
}

/** What sounds and holds in each bar of the form, as one text, ids and places in time left out. */
function barKeys(map: FormMap, lines: Lines): string[] {
  const keys = Array.from({ length: map.bars }, (_, bar): unknown[] => {
    const [from, to] = [barStart(map.meters, bar), barStart(map.meters, bar + 1)];
    const { beats, unit } = meterAt(map.meters, bar);
    return [
      ...[beats, unit, tempoIn(map.tempo, from, to), stepsIn(map.keys, from, to), stepsIn(map.feel, from, to)],
      ...[spansIn(map.chords, from, to), spansIn(map.bass, from, to)],
    ];
  });
  lines.forEach((line, part) => {
    for (const { event, main } of line.events) {
      const { bar } = barOf(map.meters, main);
      keys[Math.max(0, bar)]?.push([part, sub(event.at, barStart(map.meters, Math.max(0, bar))), contentOf(event)]);
    }
  });
  return keys.map((key) => JSON.stringify(key));
}

/** An event without its ids and its time, in one order of fields. */
export const contentOf = ({ id: _, at: __, notes, ...event }: RiffEvent): unknown => [
  Object.entries(event).sort(([a], [b]) => (a < b ? -1 : 1)),
  notes.map(({ id: ___, ...note }) => Object.entries(note).sort(([a], [b]) => (a < b ? -1 : 1))),
];

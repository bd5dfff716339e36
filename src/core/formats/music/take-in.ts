import { fail, freshIds, ok, type Result, type Semitones } from '../../base';
import { alikeIds, changeBetween } from '../../form';
import type { Setup } from '../../instrument';
import {
  checkRiff,
  FORM_LIMITS,
  LIMITS,
  makePart,
  makePiece,
  makeRiff,
  type Context,
  type FormEntry,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
  type Row,
  type Section,
  type Variant,
} from '../../score';
import { add, barOf, barStart, cmp, meterAt, sub, ZERO, type MeterChange, type Quarter } from '../../time';
import { fitEvents, type Fitted, type Trust } from './fit';
import { foldBars } from './fold-bars';
import { contentOf } from './from-piece';
import { plainSteps, spansIn, stepsIn, tempoIn } from './lanes';
import { kindOfSection, routeOfBlocks, type Block } from './route';
import type { Music } from './types';

/** What was decided about one part of a file. */
export interface PartChoice {
  /** Its place in the music. */
  readonly index: number;
  readonly name: string;
  readonly setup: Setup;
  readonly shift: Semitones;
  readonly trust: Trust;
}

export interface TakenIn {
  /** A piece of its own, with ids above `lastId`. */
  readonly piece: Piece;
  readonly lost: readonly (Omit<Fitted, 'events'> & { readonly part: string })[];
}

/**
 * Music as a piece: sections from marks, repeats and jumps (or found by what comes again), a riff for what each part
 * plays in each, what is alike told once, endings as variants. A short file of one part stays one riff without a form.
 */
export function takeIn(music: Music, choices: readonly PartChoice[], lastId = 0, id = 'piece'): Result<TakenIn> {
  if (choices.length === 0) return fail('no-part', 'Choose at least one part.', 'parts');
  if (choices.length > LIMITS.parts)
    return fail('many-parts', `${choices.length} parts; ${LIMITS.parts} at most.`, 'parts');
  const next = freshIds(lastId);
  let given = 0;
  const fresh = (prefix: string): string => {
    given++;
    return next(prefix);
  };
  const fitted = choices.map((choice) => {
    const part = music.parts[choice.index];
    return fitEvents(part?.events ?? [], choice.setup, choice.shift, choice.trust);
  });
  const lost = fitted.map(({ events: _, ...counts }, i) => ({ ...counts, part: choices[i]?.name ?? '' }));
  const lines = fitted.map((one) => one.events);
  if (lines.every((events) => events.length === 0))
    return fail('no-notes', 'No note is left of these parts: choose another octave or other parts.', 'parts');
  const { blocks, route } = routeOfBlocks(music, barKeys(music, lines), foldBars);
  if (blocks.length > FORM_LIMITS.sections)
    return fail('many-sections', `The file has ${blocks.length} sections; ${FORM_LIMITS.sections} at most.`, 'file');
  const parts = choices.map((choice) =>
    makePart(fresh('p'), choice.name.slice(0, 120) || 'Part', choice.setup, { role: 'imported' }),
  );
  const makers = lines.map((events) => new RiffMaker(music, events, fresh));
  const base = baseContext(music);
  const sections = blocks.map((block): Section => {
    const rows = parts.map((part, i): Row => {
      const made = (makers[i] as RiffMaker).riffFor(block);
      const use = made
        ? { id: fresh('u'), riff: made.id, plays: 1 }
        : { id: fresh('u'), spot: { kind: 'rest' as const, bars: block.to - block.from }, plays: 1 };
      return { part: part.id, uses: [use] };
    });
    const context = contextOf(
      music,
      block,
      base,
      rows.every((row) => row.uses[0]?.spot !== undefined),
    );
    return {
      ...{ id: fresh('s'), name: block.name, kind: kindOfSection(block.name), bars: block.to - block.from },
      ...(context ? { context } : {}),
      ...(block.cue === null ? {} : { cue: block.cue.slice(0, 200) }),
      rows,
    };
  });
  const form = route.map((step): FormEntry => {
    const section = sections[step.block];
    const block = blocks[step.block] as Block;
    const differences = step.endings.flatMap(({ passes, from, to }) =>
      parts.flatMap((part, i) => {
        const use = section?.rows[i]?.uses[0];
        const variant = use?.riff ? (makers[i] as RiffMaker).variantFor(block, { from, to }, passes) : null;
        return use && variant ? [{ passes: [...passes], use: use.id, variant }] : [];
      }),
    );
    return {
      ...{ id: fresh('f'), section: section?.id ?? '', plays: step.plays },
      ...(differences.length > 0 ? { differences } : {}),
    };
  });
  const written = parts.map((part, i): Part => ({ ...part, riffs: (makers[i] as RiffMaker).riffs() }));
  for (const part of written)
    for (const riff of part.riffs) {
      const checked = checkRiff(riff, part.setup);
      if (!checked.ok)
        return fail(checked.error.rule, `${part.name}, ${riff.name}: ${checked.error.words}`, checked.error.locus);
    }
  const plain =
    sections.length === 1 &&
    form.length === 1 &&
    form[0]?.plays === 1 &&
    parts.length === 1 &&
    music.marks.length === 0;
  const only = sections[0]?.context;
  const piece = makePiece(id, music.title.slice(0, 160) || 'Imported', {
    ...{ lastId: lastId + given, parts: written },
    context: plain ? { ...base, ...only } : base,
    ...(plain ? {} : { sections, form }),
    ...(music.credit ? { credit: music.credit.slice(0, 300) } : {}),
  });
  return ok({ piece, lost });
}

/** What holds in the whole piece: tempo, key and feel as they begin. */
function baseContext(music: Music): Piece['context'] {
  const [tempo, key, feel] = [music.tempo[0], music.keys[0], music.feel[0]];
  return {
    tempo: [{ at: ZERO, bpm: tempo?.bpm ?? 120 }],
    key: key ? [{ at: ZERO, tonic: key.tonic, mode: key.mode }] : [],
    ...(feel && feel.swing > 50 ? { feel: [{ ...feel, at: ZERO }] } : {}),
  };
}

/** What a section says of its own beside the piece; null where it says nothing. */
function contextOf(music: Music, { from, to }: Block, base: Piece['context'], silent: boolean): Context | null {
  const [start, end] = [barStart(music.meters, from), barStart(music.meters, to)];
  const tempo = plainSteps(tempoIn(music.tempo, start, end)).slice(0, LIMITS.tempos);
  const key = plainSteps(stepsIn(music.keys, start, end)).map(({ at, tonic, mode }) => ({ at, tonic, mode }));
  const feel = plainSteps(stepsIn(music.feel, start, end));
  const chords = spansIn(music.chords, start, end).map(({ at, to: until, chord }) => ({
    at,
    dur: sub(until, at),
    chord,
  }));
  const bass = spansIn(music.bass, start, end).map(({ at, to: until, note }) => ({ at, dur: sub(until, at), note }));
  const own = {
    ...(tempo.length > 1 || (tempo[0] && tempo[0].bpm !== base.tempo[0]?.bpm) ? { tempo } : {}),
    ...(key.length > 1 || (key[0] && (key[0].tonic !== base.key[0]?.tonic || key[0].mode !== base.key[0].mode))
      ? { key }
      : {}),
    ...(feel.length > 1 || (feel[0] && feel[0].swing !== (base.feel?.[0]?.swing ?? 50)) ? { feel } : {}),
    ...(silent ? { meters: metersOf(music.meters, from, to) } : {}),
    ...(chords.length > 0 ? { chords } : {}),
    ...(bass.length > 0 ? { bass } : {}),
  };
  return Object.keys(own).length > 0 ? own : null;
}

/** The meters of some bars, from their first on. */
export function metersOf(meters: readonly MeterChange[], from: number, to: number): MeterChange[] {
  const out: MeterChange[] = [];
  for (let bar = from; bar < to; bar++) {
    const { beats, unit } = meterAt(meters, bar);
    const last = out.at(-1);
    if (last?.beats !== beats || last.unit !== unit) out.push({ bar: bar - from, beats, unit });
  }
  return out;
}

/** What each written bar holds, as a text: its notes in all parts, its meter, tempo, key and chords. */
function barKeys(music: Music, lines: readonly (readonly RiffEvent[])[]): string[] {
  const keys = Array.from({ length: music.bars }, (_, bar): unknown[] => {
    const [from, to] = [barStart(music.meters, bar), barStart(music.meters, bar + 1)];
    const { beats, unit } = meterAt(music.meters, bar);
    return [
      ...[beats, unit, tempoIn(music.tempo, from, to), stepsIn(music.keys, from, to), stepsIn(music.feel, from, to)],
      ...[spansIn(music.chords, from, to), spansIn(music.bass, from, to)],
    ];
  });
  lines.forEach((events, part) => {
    events.forEach((event, i) => {
      // A grace note belongs to the bar of the note it leads to, over the bar line too.
      const found = barOf(music.meters, event.grace ? leadsTo(events, i).at : event.at).bar;
      const bar = Math.max(0, Math.min(found, music.bars - 1));
      keys[bar]?.push([part, sub(event.at, barStart(music.meters, bar)), contentOf(event)]);
    });
  });
  return keys.map((key) => JSON.stringify(key));
}

/** The note a grace note leads to; itself where there is none. */
function leadsTo(events: readonly RiffEvent[], index: number): RiffEvent {
  const main = events.slice(index, index + 12).find((event) => !event.grace);
  return main ?? (events[index] as RiffEvent);
}

/** Makes the riffs of one part: what is alike in two sections is one riff. */
class RiffMaker {
  private readonly made: { riff: Riff; key: string; variants: Variant[] }[] = [];

  constructor(
    private readonly music: Music,
    private readonly events: readonly RiffEvent[],
    private readonly fresh: (prefix: string) => string,
  ) {}

  riffFor(block: Block): Riff | null {
    const known = this.find(block);
    if (known) return known.riff;
    const events = this.within(block.from, block.to);
    if (events.length === 0) return null;
    const first = events[0]?.grace ? events.find((event) => !event.grace) : events[0];
    const pickup = first && cmp(first.at, ZERO) < 0 ? sub(ZERO, first.at) : ZERO;
    const riff = makeRiff(this.fresh('r'), block.name, {
      ...{ bars: block.to - block.from, pickup, meters: metersOf(this.music.meters, block.from, block.to) },
      events: events.map((event) => this.renewed(event)),
    });
    this.made.push({ riff, key: this.keyOf(block), variants: [] });
    return riff;
  }

  /** A variant of a block's riff whose last bars are others; null where they are alike. */
  variantFor(block: Block, ending: { from: number; to: number }, passes: readonly number[]): string | null {
    const known = this.find(block);
    if (!known) return null;
    const body = block.to - block.from - (ending.to - ending.from);
    const shift = barStart(metersOf(this.music.meters, block.from, block.to), body);
    const kept = known.riff.events.filter((event) => cmp(event.at, shift) < 0);
    const own = this.within(ending.from, ending.to).map((event) =>
      this.renewed({ ...event, at: add(event.at, shift) }),
    );
    const change = changeBetween(known.riff, alikeIds(known.riff, [...kept, ...own]));
    if (change.replaced.length + change.removed.length + change.inserted.length === 0) return null;
    const variant = {
      id: this.fresh('x'),
      name: passes.length === 1 ? `${ordinal(passes[0] ?? 1)} ending` : `ending ${passes.join(', ')}`,
      change,
    };
    known.variants.push(variant);
    return variant.id;
  }

  riffs(): Riff[] {
    return this.made.map(({ riff, variants }) => (variants.length > 0 ? { ...riff, variants } : riff));
  }

  private find(block: Block): { riff: Riff; key: string; variants: Variant[] } | undefined {
    const key = this.keyOf(block);
    return this.made.find((one) => one.key === key);
  }

  private keyOf({ from, to }: Block): string {
    return JSON.stringify([
      metersOf(this.music.meters, from, to),
      to - from,
      this.within(from, to).map((event) => [event.at, contentOf(event)]),
    ]);
  }

  /** Events that begin in some bars, from their first bar line; those of a pickup with the first bar. */
  private within(from: number, to: number): RiffEvent[] {
    const [start, end] = [barStart(this.music.meters, from), barStart(this.music.meters, to)];
    const out: RiffEvent[] = [];
    this.events.forEach((event, i) => {
      if (cmp(event.at, end) >= 0 && !(event.grace && this.leadsInto(i, start, end))) return;
      // A grace note stands before the bar line of the note it leads to.
      const inside = event.grace ? this.leadsInto(i, start, end) : from === 0 || cmp(event.at, start) >= 0;
      if (inside) out.push({ ...event, at: sub(event.at, start) });
    });
    return out;
  }

  private leadsInto(index: number, start: Quarter, end: Quarter): boolean {
    const main = leadsTo(this.events, index);
    return cmp(main.at, end) < 0 && (cmp(main.at, start) >= 0 || (start === ZERO && cmp(main.at, ZERO) < 0));
  }

  private renewed(event: RiffEvent): RiffEvent {
    return {
      ...event,
      id: this.fresh('e'),
      notes: event.notes.map((note) => ({ ...note, id: this.fresh('n') })),
    };
  }
}

const ordinal = (n: number): string =>
  `${n}${n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`;

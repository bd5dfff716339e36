import equal from 'fast-deep-equal';
import { z } from 'zod';
import { fail, ok, type Result, pathOf, within, type DeepReadonly } from '../base';
import { asciiPitch, parsePitch } from '../pitch';
import { checkInstrument, type Question } from './check';
import { instrumentSchema, tuningFamilySchema } from './schema';
import type { Instrument, Tuning } from './types';

/** What a studio keeps on its rack: instruments with how they should sound, and tunings of its own. */

const words = (max: number) => z.string().trim().max(max);

/** One knob or switch: a number on its scale, which is also a place on a clock face. */
export const knobSchema = z.object({
  device: words(60).min(1),
  knob: words(60).min(1),
  value: z.number().min(0).max(10),
});

export const toneSchema = z.object({ name: words(80).min(1), goal: words(400), knobs: z.array(knobSchema).max(40) });

export const rackInstrumentSchema = z.object({
  instrument: instrumentSchema,
  description: words(1000),
  tones: z.array(toneSchema).max(20),
});

export type Knob = Readonly<z.infer<typeof knobSchema>>;
export type Tone = DeepReadonly<z.infer<typeof toneSchema>>;
export interface RackInstrument {
  readonly instrument: Instrument;
  readonly description: string;
  readonly tones: readonly Tone[];
}

export const ownTuningSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,60}$/i, 'an id of letters, digits and hyphens'),
  name: words(80).min(1),
  family: tuningFamilySchema,
  spelling: words(80).refine(
    (text) =>
      text.split(' ').length >= 3 &&
      text.split(' ').length <= 12 &&
      text.split(' ').every((name) => parsePitch(name) !== null),
    '3 to 12 note names with octaves, thick to thin, such as D2 A2 D3 G3 A3 D4',
  ),
  instruments: z.array(words(60)).max(40),
  source: words(400),
});

/** A knob turns from 7 o'clock (0) over 12 (5) to 5 o'clock (10): 300 degrees. */
const SWEEP_HOURS = 10;
const FIRST_HOUR = 7;

/** A knob's value (0-10) as the place its mark points to on a clock face, to the quarter hour: 5 is "12:00". */
export function clockOf(value: number): string {
  const quarters = Math.round((FIRST_HOUR + (value / 10) * SWEEP_HOURS) * 4);
  const hour = Math.floor(quarters / 4) % 12 || 12;
  return `${hour}:${String((quarters % 4) * 15).padStart(2, '0')}`;
}

/** Reads a knob as typed: a number from 0 to 10, or a clock place ("1:30", "2 o'clock"). */
export function readKnob(text: string): Result<number> {
  const typed = text.trim();
  const clock = /^(\d{1,2})(?::(\d{2}))?\s*(o'?\s?clock|h)?$/i.exec(typed);
  if (clock && (clock[2] !== undefined || clock[3] !== undefined)) {
    const hour = Number(clock[1]) + Number(clock[2] ?? 0) / 60;
    const since = (((hour - FIRST_HOUR) % 12) + 12) % 12;
    if (hour >= 13 || Number(clock[2] ?? 0) > 59 || since > SWEEP_HOURS)
      return fail(
        'bad-knob',
        `"${typed}" lies where a knob does not turn: it goes from 7:00 over 12:00 to 5:00.`,
        'knob',
      );
    return ok(Math.round((since / SWEEP_HOURS) * 1000) / 100);
  }
  const value = Number(typed.replace(',', '.'));
  return typed !== '' && value >= 0 && value <= 10
    ? ok(value)
    : fail('bad-knob', `"${typed}": give a number from 0 to 10, or a clock place such as 1:30.`, 'knob');
}

const FIELD_WORDS: Readonly<Partial<Record<keyof Instrument, string>>> = {
  name: 'name',
  kind: 'kind',
  scaleMm: 'scale',
  frets: 'frets',
  easyFrets: 'body joint',
  nutSpacingMm: 'nut spacing',
  bridgeSpacingMm: 'bridge spacing',
  handed: 'handedness',
};

/** What changed on an instrument, a line a thing, for its history. */
export function describeRackChange(before: RackInstrument | null, after: RackInstrument): string[] {
  if (!before) return [`put on the rack as ${after.instrument.name}`];
  const lines: string[] = [];
  const a = before.instrument;
  const b = after.instrument;
  for (const [field, word] of Object.entries(FIELD_WORDS) as [keyof Instrument, string][]) {
    if (a[field] !== b[field]) lines.push(`${word} from ${String(a[field])} to ${String(b[field])}`);
  }
  if (a.strings.length !== b.strings.length) lines.push(`from ${a.strings.length} to ${b.strings.length} strings`);
  else {
    b.strings.forEach((one, i) => {
      const was = a.strings[i];
      if (!was || equal(was, one)) return;
      const string = b.strings.length - i;
      if (was.gaugeMm !== one.gaugeMm || was.kind !== one.kind)
        lines.push(`string ${string} from ${was.gaugeMm} mm ${was.kind} to ${one.gaugeMm} mm ${one.kind}`);
      if (was.pitch !== one.pitch)
        lines.push(`string ${string} made for ${asciiPitch(one.pitch)} instead of ${asciiPitch(was.pitch)}`);
      if (
        JSON.stringify([was.course, was.scaleMm, was.unitWeight]) !==
        JSON.stringify([one.course, one.scaleMm, one.unitWeight])
      )
        lines.push(`string ${string}: course, length or weight changed`);
    });
  }
  if (before.description !== after.description) lines.push('description changed');
  if (!equal(before.tones, after.tones)) lines.push('tone notes changed');
  return lines;
}

export interface RackFile {
  readonly instruments: readonly RackInstrument[];
  readonly tunings: readonly Tuning[];
}

export const RACK_FORMAT = 'intonazione-rack';
export const RACK_VERSION = 1;

/** The rack as JSON text, for keeping and handing on. */
export const writeRack = ({ instruments, tunings }: RackFile): string =>
  `${JSON.stringify({ format: RACK_FORMAT, version: RACK_VERSION, instruments, tunings }, null, 2)}\n`;

const rackFileSchema = z.object({
  format: z.literal(RACK_FORMAT),
  version: z.number().int().min(1),
  instruments: z.array(rackInstrumentSchema).max(500).default([]),
  tunings: z.array(ownTuningSchema).max(500).default([]),
});

/** Reads a rack file: all of it or a fault that names the place; with what looks like slips of units. */
export function readRack(text: string): Result<RackFile & { readonly questions: readonly Question[] }> {
  if (text.length > 4_000_000) return fail('too-large', 'The file is over 4 MB: no rack is that large.', {});
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return fail('not-json', 'The file is no JSON.', {});
  }
  const parsed = rackFileSchema.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return fail('schema', `At ${issue?.path.join('.') || 'the start'}: ${issue?.message ?? 'malformed'}.`, {
      path: pathOf(issue?.path),
    });
  }
  if (parsed.data.version > RACK_VERSION)
    return fail('newer-version', 'This rack was written by a newer program.', 'version');
  const questions: Question[] = [];
  for (const [i, { instrument }] of parsed.data.instruments.entries()) {
    const checked = checkInstrument(instrument);
    if (!checked.ok)
      return fail(
        checked.error.rule,
        `${instrument.name}: ${checked.error.words}`,
        within(checked.error.locus, 'instruments', i),
      );
    questions.push(
      ...checked.value.map((question) => ({ ...question, message: `${instrument.name}: ${question.message}` })),
    );
  }
  return ok({ instruments: parsed.data.instruments, tunings: parsed.data.tunings, questions });
}

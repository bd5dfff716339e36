import { z } from 'zod';
import { makeSetup, type Setup } from '@/core/instrument';
import { linkSchema, quarterSchema, riffSchema } from '@/core/score';

/** What each command takes, published as JSON Schema by `cli schema COMMAND`. */

export const setupRequest = z.strictObject({
  instrument: z.string().describe('catalogue id, such as guitar-6, guitar-7, baritone-27, bass-4, bass-5'),
  tuning: z.string().optional().describe('catalogue id, or a spelling thick to thin: "D A D G B E", "D2 A2 D3 G3 B3 E4", x for a string taken off'),
  capo: z.number().nullable().optional().describe('fret of a full capo, 0 or null for none'),
  frets: z.number().optional(),
  scaleMm: z.number().optional(),
});

const midi = z.number().int().min(0).max(127);

export const positionsInput = z.strictObject({ setup: setupRequest, pitches: z.array(midi).max(10_000) });

export const placeInput = z.strictObject({
  setup: setupRequest,
  tempo: z.number().min(10).max(500).default(100).describe('quarter notes a minute'),
  meter: z.string().optional().describe('such as "4/4"; rings end with the bar'),
  events: z
    .array(
      z.strictObject({
        id: z.string().min(1).max(60),
        at: quarterSchema.describe('onset in quarter notes, as "3/2"'),
        dur: quarterSchema.describe('length in quarter notes'),
        notes: z
          .array(
            z.strictObject({
              pitch: midi.optional(),
              string: z.number().int().optional(),
              fret: z.number().int().optional(),
              finger: z.number().int().min(0).max(4).optional(),
              lock: z.boolean().optional().describe('with string and fret: never moved'),
              dur: quarterSchema.optional(),
            }),
          )
          .min(1)
          .max(12),
        link: linkSchema.nullable().optional().describe('how it is joined to the next event'),
        ring: z.boolean().optional(),
      }),
    )
    .max(20_000),
  k: z.number().int().min(1).max(50).default(1).describe('how many ways'),
  openLiking: z.number().min(-1).max(1).optional(),
  hand: z.number().int().min(1).max(30).optional().describe('wished hand position, as a fret from the capo'),
});

export const callsParseInput = z.strictObject({ setup: setupRequest, calls: z.string(), meter: z.string().optional() });
export const callsPrintInput = z.strictObject({ riff: riffSchema });
export const importOptions = z.strictObject({
  part: z.coerce.number().int().min(0).optional(),
  grid: z.enum(['auto', 'eighths', 'sixteenths', 'thirty-seconds', 'triplet-eighths', 'triplet-sixteenths']).default('auto'),
  octaves: z.coerce.number().int().min(-4).max(4).optional(),
  setup: z.string().optional(),
});

export const SCHEMAS = {
  positions: positionsInput,
  place: placeInput,
  import: importOptions,
  'calls parse': callsParseInput,
  'calls print': callsPrintInput,
} as const;

/** A fault on its way to standard error. */
export class CliFault extends Error {
  constructor(readonly code: string, message: string, readonly at?: string) {
    super(message);
  }
}

export function parsed<T>(schema: z.ZodType<T>, value: unknown): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0];
  throw new CliFault('bad-input', issue?.message ?? 'malformed input', issue?.path.join('.') || '$');
}

export function setupOf(request: z.infer<typeof setupRequest>): { setup: Setup; assumed: string | null } {
  const made = makeSetup(request);
  if (!made.ok) throw new CliFault(made.error.code, made.error.message, `setup.${made.error.at ?? ''}`);
  return made.value;
}

import { locusWords } from '@/core/base';
import { z } from 'zod';
import { costTableSchema, profileSchema } from '@/core/hand';
import { instrumentSchema, makeSetup, type Setup } from '@/core/instrument';
import { MAX_A4, MIN_A4 } from '@/core/pitch';
import { joinSchema, quarterSchema, riffSchema } from '@/core/score';

/** What each command takes, published as JSON Schema by `cli schema COMMAND`. */

export const setupRequest = z.strictObject({
  instrument: z
    .union([z.string(), instrumentSchema])
    .describe(
      'catalogue id, such as guitar-6, guitar-7, baritone-27, bass-4, bass-5; or an instrument of one’s own as in a rack file',
    ),
  tuning: z
    .string()
    .optional()
    .describe(
      'catalogue id, or a spelling thick to thin: "D A D G B E", "D2 A2 D3 G3 B3 E4", x for a string taken off',
    ),
  capo: z
    .union([
      z.number(),
      z.array(z.strictObject({ fret: z.number(), strings: z.array(z.number().int()).nullable().optional() })).max(4),
    ])
    .nullable()
    .optional()
    .describe('fret of a full capo, 0 or null for none; or up to two of {"fret","strings"}, strings null for all'),
  frets: z.number().optional(),
  scaleMm: z.number().optional(),
});

const midi = z.number().int().min(0).max(127);
const countingSchema = z.enum(['capo', 'nut']).default('capo').describe('where frets are counted from, in and out');

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
              finger: z.number().int().min(0).max(5).optional().describe('1 to 4, 5 the thumb'),
              lock: z.boolean().optional().describe('with string and fret: never moved'),
              dur: quarterSchema.optional(),
              bend: z.number().int().min(10).max(700).optional().describe('cents it is bent up by'),
              trill: z.number().int().min(1).max(12).optional().describe('semitones up to the other note'),
              dead: z.boolean().optional(),
              tapped: z.boolean().optional().describe('stopped by the picking hand'),
              harmonic: z.boolean().optional().describe('natural harmonic; pitch is what sounds'),
              link: joinSchema.nullable().optional().describe('how this note leads to one of the next event'),
              keep: quarterSchema.optional().describe('how long the finger stays down'),
              cents: z.number().int().min(-99).max(99).optional().describe('beside the pitch, with a slide bar'),
            }),
          )
          .min(1)
          .max(12),
        link: joinSchema.nullable().optional().describe('how all its notes lead to the next event'),
        ring: z.boolean().optional(),
        bar: z.boolean().optional().describe('with a slide bar'),
        wish: z
          .strictObject({
            hand: z.number().int().min(1).max(30).nullable().optional(),
            liking: z.number().min(-1).max(1).nullable().optional(),
            avoid: z.array(z.number().int()).max(12).optional(),
            prefer: z.array(z.number().int()).max(12).optional(),
            thumb: z.enum(['over', 'behind']).optional(),
          })
          .optional()
          .describe('hand position, liking of open strings, strings to keep free or to use'),
      }),
    )
    .max(20_000),
  k: z.number().int().min(1).max(50).default(1).describe('how many ways'),
  profile: profileSchema.optional().describe('whose hand; an adult’s when not said'),
  costs: costTableSchema.partial().optional().describe('weights that differ from the program’s own'),
  openLiking: z.number().min(-1).max(1).optional(),
  hand: z.number().int().min(1).max(30).optional().describe('wished hand position, as a fret from the capo'),
  frets: countingSchema,
});

const eventsAndTempo = {
  tempo: placeInput.shape.tempo,
  meter: placeInput.shape.meter,
  events: placeInput.shape.events,
  frets: placeInput.shape.frets,
};
const eventId = z.string().min(1).max(60);
const noteIndex = z.number().int().min(0).max(11).optional().describe('index in the event; absent: all of its notes');
const some = z.array(eventId).min(2).max(64);

export const findSetupInput = z.strictObject({
  ...eventsAndTempo,
  instruments: z
    .array(z.union([z.string(), instrumentSchema]))
    .min(1)
    .max(8)
    .default(['guitar-6'])
    .describe('what the player may have used'),
  families: z
    .array(z.enum(['standard', 'dropped', 'detuned', 'open', 'modal', 'baritone', 'extended', 'altered']))
    .max(8)
    .optional(),
  capo: z.boolean().optional().describe('false: no capo'),
  clues: z
    .array(
      z.union([
        z.strictObject({ event: eventId, note: noteIndex, open: z.boolean().describe('sounds open; false: stopped') }),
        z.strictObject({ event: eventId, note: noteIndex, stopped: z.literal(true).describe('bends or shakes') }),
        z.strictObject({
          event: eventId,
          note: noteIndex,
          string: z.number().int().min(1).max(12),
          fret: z.number().int().min(0).max(36).optional().describe('from the capo'),
        }),
        z.strictObject({ ring: some.describe('ring into each other') }),
        z.strictObject({ hammeredFromOpen: eventId }),
        z.strictObject({ slack: eventId, note: noteIndex }),
        z.strictObject({ drone: eventId, note: noteIndex }),
        z.strictObject({ shape: some.describe('one shape moves through these') }),
      ]),
    )
    .max(64)
    .default([]),
});

export const carryInput = z.strictObject({
  from: setupRequest,
  to: z.array(setupRequest).min(1).max(24),
  keep: z.enum(['sound', 'shape']).default('sound'),
  octaves: z.number().int().min(-3).max(3).optional().describe('absent: those that lose least'),
  substitute: z.boolean().optional().describe('notes out of reach go to another octave of their own'),
  key: z.string().max(20).optional().describe('as it sounds: "F# minor"'),
  ...eventsAndTempo,
});

const opensSchema = z
  .enum(['close', 'keep'])
  .optional()
  .describe('what open strings do: stopped with the rest, or kept');
export const moveInput = z.strictObject({
  setup: setupRequest,
  root: z.string().max(8).optional().describe('note that degrees are counted from'),
  move: z.discriminatedUnion('by', [
    z.strictObject({ by: z.literal('frets'), steps: z.number().int().min(-36).max(36), opens: opensSchema }),
    z.strictObject({
      by: z.enum(['strings', 'semitones', 'octaves']),
      steps: z.number().int().min(-36).max(36),
    }),
    z.strictObject({ by: z.literal('chord'), from: z.string().max(40), to: z.string().max(40), opens: opensSchema }),
    z.strictObject({ by: z.literal('key'), from: z.string().max(20), to: z.string().max(20) }),
    z.strictObject({ by: z.literal('hand'), fret: z.number().int().min(1).max(30) }),
  ]),
  ...eventsAndTempo,
});

export const callsParseInput = z.strictObject({
  setup: setupRequest,
  calls: z.string(),
  meter: z.string().optional(),
  frets: countingSchema,
});
export const callsPrintInput = z.strictObject({
  riff: riffSchema,
  setup: setupRequest.optional().describe('needed to count frets from the nut'),
  frets: countingSchema,
  frame: z.boolean().default(false).describe('say meters, tempo and feel too'),
});
export const importOptions = z.strictObject({
  part: z.coerce.number().int().min(0).optional(),
  grid: z
    .enum(['auto', 'eighths', 'sixteenths', 'thirty-seconds', 'triplet-eighths', 'triplet-sixteenths'])
    .default('auto'),
  octaves: z.coerce.number().int().min(-4).max(4).optional(),
  setup: z.string().optional(),
});

export const convertOptions = z.strictObject({
  part: z.string().optional().describe('one part alone: its name, its id, or its number from 0'),
  setup: z.string().optional().describe('the set-up it is to be played on, as JSON; absent, what the file says'),
  staves: z.enum(['tab', 'staff', 'both']).optional(),
  channels: z.enum(['strings', 'one']).optional(),
  width: z.coerce.number().int().min(24).max(400).optional(),
  grid: z.enum(['auto', 'eighths', 'sixteenths', 'thirty-seconds', 'triplet-eighths', 'triplet-sixteenths']).optional(),
  answers: z.string().optional().describe('answers to questions by their ids, as JSON'),
});
export const answersSchema = z.record(z.string().max(60), z.string().max(60));

export const setupInput = z.strictObject({
  setup: setupRequest,
  from: z.string().optional().describe('the tuning it is in now, for the retuning plan'),
});
const a4 = z.coerce.number().min(MIN_A4).max(MAX_A4).default(440);
export const tensionInput = z.strictObject({
  setup: setupRequest,
  strings: z
    .array(
      z.strictObject({
        string: z.number().int().min(1).max(12),
        diameterMm: z
          .number()
          .positive('a diameter above 0, in millimetres')
          .max(5, 'millimetres, at most 5: 10 thousandths of an inch are 0.254 mm'),
        kind: z.enum(['plain', 'wound', 'nylon', 'nylon-wound']),
        unitWeightKgPerM: z.number().positive().max(0.2).optional(),
      }),
    )
    .max(12)
    .default([])
    .describe('strings put on instead of the instrument’s own'),
  a4,
});
export const capoPlanInput = z.strictObject({
  setup: setupRequest,
  key: z.string().optional().describe('as it sounds: "Bb", "F# minor"'),
  chords: z
    .array(z.string().max(20))
    .max(64)
    .default([])
    .describe('as they sound; those of the key when none are given'),
  maxCapo: z.number().int().min(0).max(12).default(9),
});
export const listenOptions = z.object({
  setup: z.string().optional(),
  from: z.coerce.number().min(0).optional(),
  to: z.coerce.number().min(0).optional(),
});
export const renderOptions = z.object({
  part: z.string().optional(),
  riff: z.string().optional(),
  speed: z.coerce.number().min(0.25).max(1.5).default(1),
});
export const tuneOptions = z.object({
  instrument: z.string().default('guitar-6'),
  tuning: z.string().optional(),
  capo: z.coerce.number().optional(),
  a4,
});

const stretch = z.strictObject({
  riff: z.string(),
  variant: z.string().optional().describe('id or name of a variant of the riff'),
  from: z.number().int().min(1).optional().describe('bars of the riff, from 1'),
  to: z.number().int().min(1).optional(),
});
export const formParseInput = z.strictObject({
  piece: z.unknown().describe('a piece as JSON'),
  text: z.string().max(200_000).describe('its form as "form print" writes it'),
});
export const differencesInput = z.strictObject({ piece: z.unknown(), a: stretch, b: stretch });
export const unfoldOptions = z.object({ part: z.string().optional() });
export const foldOptions = z.object({
  riff: z.string().optional().describe('the longest where absent'),
  without: z.string().optional().describe('stretches refused, by their place from 0, joined by commas'),
});

export const secondVoiceInput = z
  .strictObject({
    piece: z.unknown(),
    part: z.string(),
    riff: z.string().optional().describe('all of the part where absent'),
    interval: z.union([
      z.strictObject({ steps: z.number().int().min(-21).max(21) }),
      z.strictObject({ semitones: z.number().int().min(-36).max(36) }),
    ]),
    against: z.string().optional().describe('a part to be compared with it instead of a new one'),
  })
  .describe('steps are counted in the key of the piece: 2 is a third above');
export const reduceInput = z.strictObject({
  piece: z.unknown(),
  players: z.number().int().min(1).max(8),
  parts: z.array(z.string()).min(1).max(8).optional().describe('the parts looked at; all that play where absent'),
});
export const searchInput = z.strictObject({
  pieces: z.array(z.unknown()).min(1).max(2000),
  words: z.string().max(200).optional(),
  calls: z.string().max(2000).optional(),
  setup: z
    .strictObject({ instrument: z.string(), tuning: z.string().optional(), capo: z.number().int().min(0).optional() })
    .optional()
    .describe('the set-up the calls are for; a guitar in standard tuning where absent'),
});

const keyInput = z
  .union([z.string().max(20), z.strictObject({ tonic: z.string().max(4), mode: z.enum(['major', 'minor']) })])
  .optional()
  .describe('as it sounds: "A minor", "Bb"');
export const nameInput = z.strictObject({
  setup: setupRequest.optional().describe('needed where notes are given by string and fret, and for names of shapes'),
  notes: z
    .array(z.strictObject({ string: z.number().int().min(1).max(12), fret: z.number().int().min(0).max(36) }))
    .max(12)
    .optional(),
  pitches: z.array(midi).max(24).optional(),
  bass: z
    .union([midi, z.string().max(4)])
    .optional()
    .describe('what another player has under it: a pitch or a letter'),
  key: keyInput,
});
export const scaleInput = z.strictObject({
  pitches: z.array(midi).max(20_000),
  claim: z.string().max(80).optional().describe('"A minor pentatonic", "Dorian"'),
  tonic: z.union([midi, z.string().max(4)]).optional(),
  key: keyInput,
});
export const checkOptions = z.object({
  all: z.string().optional().describe('also what is probably meant, and what was answered'),
});

export const SCHEMAS = {
  positions: positionsInput,
  place: placeInput,
  import: importOptions,
  convert: convertOptions,
  'calls parse': callsParseInput,
  'calls print': callsPrintInput,
  setup: setupInput,
  tension: tensionInput,
  'capo-plan': capoPlanInput,
  tune: tuneOptions,
  listen: listenOptions,
  render: renderOptions,
  'form parse': formParseInput,
  unfold: unfoldOptions,
  fold: foldOptions,
  differences: differencesInput,
  'second-voice': secondVoiceInput,
  reduce: reduceInput,
  search: searchInput,
  check: checkOptions,
  name: nameInput,
  scale: scaleInput,
  'find-setup': findSetupInput,
  carry: carryInput,
  move: moveInput,
} as const;

/** A fault on its way to standard error. */
export class CliFault extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly at?: string,
  ) {
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
  if (!made.ok) throw new CliFault(made.error.rule, made.error.words, `setup.${locusWords(made.error.locus)}`);
  return made.value;
}

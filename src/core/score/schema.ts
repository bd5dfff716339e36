import { z } from 'zod';
import type { DeepReadonly } from '../base';
import { setupSchema } from '../instrument';
import { costTableSchema, profileSchema } from '../hand';
import { parseName } from '../pitch';
import { pickingSchema } from '../schools';
import { fingerSchema, idSchema, positiveQuarter, quarterSchema, stringSchema, text } from './parts-of-schema';
import { linkSchema, mannerShape, techSchema } from './technique';

/** The document's Zod schema. Every bound here is a promise the rest of the program relies on. */

export const SCHEMA_VERSION = 4;

/** Bounds that keep one piece workable and a hostile file harmless. */
export const LIMITS = { parts: 32, riffs: 400, bars: 2000, events: 40_000, notes: 12, text: 2000 } as const;

/** Who decided: the instructor, the placement solver, an imported file, or the listening bench. */
export const deciderSchema = z.enum(['instructor', 'solver', 'import', 'heard']);
export const certaintySchema = z.enum(['sure', 'likely', 'guess']);

const midi = z.number().int().min(0).max(127);

export const placeSchema = z.object({
  string: z.number().int().min(1).max(12),
  /** Counted from the capo. */
  fret: z.number().int().min(0).max(36),
  finger: fingerSchema.nullable(),
  /** Another finger that would do as well ("1 or 2"). */
  or: fingerSchema.optional(),
  by: deciderSchema,
  fingerBy: deciderSchema,
  /** A locked place is never moved by the solver. */
  locked: z.boolean(),
  /** The instructor's own reason for this place. */
  reason: text(300).nullable(),
});

/** What a note rests on. */
export const basisSchema = z.enum(['attack', 'ring', 'seen', 'isolated', 'told', 'pattern']);

/** The evidence for a note: what it rests on, where in the clip (seconds), and in words. */
export const evidenceSchema = z.object({
  on: basisSchema.nullable(),
  at: z.number().min(0).max(36_000).nullable(),
  say: text(300),
});

export const noteSchema = z.object({
  id: idSchema,
  pitch: z.object({ midi, cents: z.number().min(-100).max(100), by: deciderSchema }),
  place: placeSchema.nullable(),
  /** Own length where it differs from the event's (a bass note held under a melody). */
  dur: positiveQuarter.nullable(),
  certainty: certaintySchema,
  evidence: evidenceSchema.nullable(),
  tech: techSchema.optional(),
});

export const eventSchema = z.object({
  id: idSchema,
  at: quarterSchema,
  dur: positiveQuarter,
  /** None where the event is a hole, a hit or a scrape. */
  notes: z.array(noteSchema).max(LIMITS.notes),
  /** How this event is joined to the next one. */
  link: linkSchema.nullable(),
  /** Kept ringing to the end of the run of ringing events, or of the bar. */
  ring: z.boolean(),
  /** Played with a slide bar (bottleneck): pitches may lie between the frets. */
  bar: z.literal(true).optional(),
  ...mannerShape,
});

/** What the instructor wishes for a stretch of a riff, for the program to keep to where it places. */
export const wishSchema = z.object({
  id: idSchema,
  from: quarterSchema,
  to: quarterSchema,
  /** Hand position, a fret from the capo. */
  hand: z.number().int().min(1).max(36).nullable(),
  /** -1 avoid open strings, 1 seek them; null as the piece does. */
  liking: z.number().min(-1).max(1).nullable(),
  /** Strings that may not be used, and strings to use where it can be. */
  avoid: z.array(stringSchema).max(12),
  prefer: z.array(stringSchema).max(12),
  /** The thumb over the neck, or kept behind it, whatever the player's habit. */
  thumb: z.enum(['over', 'behind']).optional(),
});

export const meterSchema = z.object({
  bar: z.number().int().min(0).max(LIMITS.bars),
  beats: z.number().int().min(1).max(32),
  unit: z.number().refine((n) => [1, 2, 4, 8, 16, 32].includes(n), 'a note value: 1, 2, 4, 8, 16 or 32'),
});

/** From `at` on so many quarters a minute; `ramp`: evenly changing to the next step. */
export const tempoStepSchema = z.object({
  at: quarterSchema,
  bpm: z.number().min(10).max(500),
  ramp: z.literal(true).optional(),
});
export const tempoLaneSchema = z.array(tempoStepSchema).min(1).max(2000);

/** From `at` on the first of two `unit` notes takes so many percent of the pair. 50 is straight. */
export const feelStepSchema = z.object({
  at: quarterSchema,
  swing: z.number().min(50).max(80),
  unit: z.enum(['1/2', '1/4']),
});

/** Clicks to a felt beat. */
export const CLICKS = [0.5, 1, 2, 3, 4] as const;

/** Another reading of a stretch, kept beside the one that is written. */
export const readingSchema = z.object({
  id: idSchema,
  name: text(80).min(1),
  say: text(300),
  from: quarterSchema,
  to: quarterSchema,
  events: z.array(eventSchema).max(400),
});

export const riffSchema = z.object({
  id: idSchema,
  name: text(120).min(1),
  /** Bars at least; more where events go further. */
  bars: z.number().int().min(1).max(LIMITS.bars),
  pickup: quarterSchema.refine((q) => !q.startsWith('-'), 'a length of 0 or more'),
  meters: z.array(meterSchema).min(1).max(200),
  events: z.array(eventSchema).max(LIMITS.events),
  wishes: z.array(wishSchema).max(100).optional(),
  /** The riff's own tempo, in its time; absent, the piece's. */
  tempo: tempoLaneSchema.optional(),
  /** Straight where absent. */
  feel: z.array(feelStepSchema).min(1).max(200).optional(),
  click: z
    .number()
    .refine((n) => (CLICKS as readonly number[]).includes(n), `clicks to a beat: ${CLICKS.join(', ')}`)
    .optional(),
  /** How often it is played in all; absent, nobody said. */
  plays: z.number().int().min(1).max(999).optional(),
  /** Which way the strokes go, where it is not the instructor's usual one. */
  picking: pickingSchema.optional(),
  readings: z.array(readingSchema).max(100).optional(),
});

const pitchName = z.string().refine((s) => parseName(s) !== null, 'a note name such as D or F#');

/** Whose hand a part is placed for: a copy of the studio's profile as it was when chosen. */
export const playerSchema = z.object({ id: idSchema.nullable(), name: text(80).min(1), profile: profileSchema });

/** The weights a piece is placed by: a copy, so that old results can be made again. */
export const pieceCostsSchema = z.object({
  name: text(80).min(1),
  version: z.number().int().min(1),
  weights: costTableSchema,
});

export const partSchema = z.object({
  id: idSchema,
  name: text(120).min(1),
  role: text(120),
  setup: setupSchema,
  /** Absent: an adult hand. */
  player: playerSchema.optional(),
  riffs: z.array(riffSchema).max(LIMITS.riffs),
  /** What was taken for granted and never said. */
  unsaid: z
    .array(z.enum(['tuning']))
    .max(1)
    .optional(),
});

export const pieceSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  id: idSchema,
  title: text(160).min(1),
  /** Shared by all parts, in piece time. Each lane is sorted and starts at 0. */
  lanes: z.object({
    tempo: tempoLaneSchema,
    key: z.array(z.object({ at: quarterSchema, tonic: pitchName, mode: z.enum(['major', 'minor']) })).max(500),
  }),
  parts: z.array(partSchema).max(LIMITS.parts),
  /** Absent: the program's own weights. */
  costs: pieceCostsSchema.optional(),
  unsaid: z
    .array(z.enum(['tempo']))
    .max(1)
    .optional(),
});

export type Decider = z.infer<typeof deciderSchema>;
export type Certainty = z.infer<typeof certaintySchema>;
export type Place = DeepReadonly<z.infer<typeof placeSchema>>;
export type Note = DeepReadonly<z.infer<typeof noteSchema>>;
export type RiffEvent = DeepReadonly<z.infer<typeof eventSchema>>;
export type Riff = DeepReadonly<z.infer<typeof riffSchema>>;
export type Part = DeepReadonly<z.infer<typeof partSchema>>;
export type Piece = DeepReadonly<z.infer<typeof pieceSchema>>;
export type Basis = z.infer<typeof basisSchema>;
export type Evidence = DeepReadonly<z.infer<typeof evidenceSchema>>;
export type FeelStep = DeepReadonly<z.infer<typeof feelStepSchema>>;
export type Reading = DeepReadonly<z.infer<typeof readingSchema>>;
export type RiffWish = DeepReadonly<z.infer<typeof wishSchema>>;
export type Player = DeepReadonly<z.infer<typeof playerSchema>>;
export type PieceCosts = DeepReadonly<z.infer<typeof pieceCostsSchema>>;
export type Lanes = Piece['lanes'];

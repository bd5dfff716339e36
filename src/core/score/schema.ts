import { z } from 'zod';
import type { DeepReadonly } from '../base';
import { setupSchema } from '../instrument';
import { costTableSchema, profileSchema } from '../hand';
import { parseName } from '../pitch';
import { parseQuarter, type Quarter } from '../time';

/** The document's Zod schema. Every bound here is a promise the rest of the program relies on. */

export const SCHEMA_VERSION = 3;

/** Bounds that keep one piece workable and a hostile file harmless. */
export const LIMITS = { parts: 32, riffs: 400, bars: 2000, events: 40_000, notes: 12, text: 2000, quarters: 100_000 } as const;

const id = z.string().regex(/^[a-z0-9-]{1,40}$/i, 'an id of letters, digits and hyphens, 1 to 40');
const text = (max: number) => z.string().trim().max(max);

export const quarterSchema = z.string().transform((value, ctx): Quarter => {
  const q = parseQuarter(value);
  if (q !== null && Math.abs(Number(q.split('/')[0])) / Number(q.split('/')[1] ?? 1) <= LIMITS.quarters) return q;
  ctx.addIssue({ code: 'custom', message: 'a musical time: quarter notes as "3" or "3/2"' });
  return z.NEVER;
});
const positiveQuarter = quarterSchema.refine((q) => !q.startsWith('-') && q !== '0', 'a length above 0');

/** Who decided: the instructor, the placement solver, an imported file, or the listening bench. */
export const deciderSchema = z.enum(['instructor', 'solver', 'import', 'heard']);
export const certaintySchema = z.enum(['sure', 'likely', 'guess']);
export const linkSchema = z.enum(['hammer', 'pull', 'slide']);

const midi = z.number().int().min(0).max(127);
/** 0 open, 1 to 4 index to little finger, 5 the thumb over the neck. */
const fingerSchema = z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal(5)]);

export const placeSchema = z.object({
  string: z.number().int().min(1).max(12),
  /** Counted from the capo. */
  fret: z.number().int().min(0).max(36),
  finger: fingerSchema.nullable(),
  by: deciderSchema,
  fingerBy: deciderSchema,
  /** A locked place is never moved by the solver. */
  locked: z.boolean(),
  /** The instructor's own reason for this place. */
  reason: text(300).nullable(),
});

/** What is done to a note beyond striking it. Absent where nothing is. */
export const techSchema = z.object({
  /** The farthest it is bent, in cents above the written pitch. */
  bend: z.number().int().min(10, 'a bend of 10 cents at least').max(700, 'a bend of 700 cents at most').optional(),
  /** Trilled with the note so many semitones above it on the same string. */
  trill: z.number().int().min(1).max(12).optional(),
  /** Struck on a damped string: a click without pitch. The pitch written is that of its place. */
  dead: z.literal(true).optional(),
  /** A natural harmonic; the place says over which fret it is touched. */
  harmonic: z.literal(true).optional(),
  /** How long from its onset the finger stays down, where that is longer than it sounds. */
  keep: positiveQuarter.optional(),
});

export const noteSchema = z.object({
  id,
  pitch: z.object({ midi, cents: z.number().min(-100).max(100), by: deciderSchema }),
  place: placeSchema.nullable(),
  /** Own length where it differs from the event's (a bass note held under a melody). */
  dur: positiveQuarter.nullable(),
  certainty: certaintySchema,
  evidence: text(300).nullable(),
  tech: techSchema.optional(),
});

export const eventSchema = z.object({
  id,
  at: quarterSchema,
  dur: positiveQuarter,
  notes: z.array(noteSchema).min(1).max(LIMITS.notes),
  /** How this event is joined to the next one. */
  link: linkSchema.nullable(),
  /** Kept ringing to the end of the run of ringing events, or of the bar. */
  ring: z.boolean(),
  /** Played with a slide bar (bottleneck): pitches may lie between the frets. */
  bar: z.literal(true).optional(),
});

const stringSchema = z.number().int().min(1).max(12);

/** What the instructor wishes for a stretch of a riff, for the program to keep to where it places. */
export const wishSchema = z.object({
  id,
  from: quarterSchema,
  to: quarterSchema,
  /** Hand position, a fret from the capo. */
  hand: z.number().int().min(1).max(36).nullable(),
  /** -1 avoid open strings, 1 seek them; null as the piece does. */
  liking: z.number().min(-1).max(1).nullable(),
  /** Strings that may not be used, and strings to use where it can be. */
  avoid: z.array(stringSchema).max(12),
  prefer: z.array(stringSchema).max(12),
});

export const meterSchema = z.object({
  bar: z.number().int().min(0).max(LIMITS.bars),
  beats: z.number().int().min(1).max(32),
  unit: z.number().refine((n) => [1, 2, 4, 8, 16, 32].includes(n), 'a note value: 1, 2, 4, 8, 16 or 32'),
});

export const riffSchema = z.object({
  id,
  name: text(120).min(1),
  /** Bars at least; more where events go further. */
  bars: z.number().int().min(1).max(LIMITS.bars),
  pickup: quarterSchema.refine((q) => !q.startsWith('-'), 'a length of 0 or more'),
  meters: z.array(meterSchema).min(1).max(200),
  events: z.array(eventSchema).max(LIMITS.events),
  wishes: z.array(wishSchema).max(100).optional(),
});

const pitchName = z.string().refine((s) => parseName(s) !== null, 'a note name such as D or F#');

/** Whose hand a part is placed for: a copy of the studio's profile as it was when chosen. */
export const playerSchema = z.object({ id: id.nullable(), name: text(80).min(1), profile: profileSchema });

/** The weights a piece is placed by: a copy, so that old results can be made again. */
export const pieceCostsSchema = z.object({ name: text(80).min(1), version: z.number().int().min(1), weights: costTableSchema });

export const partSchema = z.object({
  id,
  name: text(120).min(1),
  role: text(120),
  setup: setupSchema,
  /** Absent: an adult hand. */
  player: playerSchema.optional(),
  riffs: z.array(riffSchema).max(LIMITS.riffs),
});

export const pieceSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  id,
  title: text(160).min(1),
  /** Shared by all parts, in piece time. Each lane is sorted and starts at 0. */
  lanes: z.object({
    tempo: z.array(z.object({ at: quarterSchema, bpm: z.number().min(10).max(500) })).min(1).max(2000),
    key: z.array(z.object({ at: quarterSchema, tonic: pitchName, mode: z.enum(['major', 'minor']) })).max(500),
  }),
  parts: z.array(partSchema).max(LIMITS.parts),
  /** Absent: the program's own weights. */
  costs: pieceCostsSchema.optional(),
});

export type Decider = z.infer<typeof deciderSchema>;
export type Certainty = z.infer<typeof certaintySchema>;
export type Link = z.infer<typeof linkSchema>;
export type Place = DeepReadonly<z.infer<typeof placeSchema>>;
export type Note = DeepReadonly<z.infer<typeof noteSchema>>;
export type RiffEvent = DeepReadonly<z.infer<typeof eventSchema>>;
export type Riff = DeepReadonly<z.infer<typeof riffSchema>>;
export type Part = DeepReadonly<z.infer<typeof partSchema>>;
export type Piece = DeepReadonly<z.infer<typeof pieceSchema>>;
export type Tech = DeepReadonly<z.infer<typeof techSchema>>;
export type RiffWish = DeepReadonly<z.infer<typeof wishSchema>>;
export type Player = DeepReadonly<z.infer<typeof playerSchema>>;
export type PieceCosts = DeepReadonly<z.infer<typeof pieceCostsSchema>>;
export type Lanes = Piece['lanes'];

import { z } from 'zod';
import type { DeepReadonly } from '../base';
import { setupSchema, toneSchema } from '../instrument';
import { costTableSchema, profileSchema } from '../hand';
import { pickingSchema } from '../schools';
import {
  clickSchema,
  type contextSchema,
  feelLaneSchema,
  type feelStepSchema,
  keySchema,
  meterLaneSchema,
  MOST_BARS,
  MOST_TEMPOS,
  pieceContextSchema,
  tempoLaneSchema,
} from './context-schema';
import {
  formEntrySchema,
  FORM_LIMITS,
  type passSchema,
  type rowSchema,
  sectionSchema,
  type spotSchema,
  type stopSchema,
  type useMoveSchema,
  type useSchema,
} from './form-schema';
import { answerSchema, claimSchema, hearingSchema, SAID_LIMITS } from './said-schema';
import { fingerSchema, idSchema, positiveQuarter, quarterSchema, stringSchema, text } from './parts-of-schema';
import { joinSchema, articulationShape, techniqueSchema } from './technique';

/** The document's Zod schema. Every bound here is a promise the rest of the program relies on. */

export const SCHEMA_VERSION = 5;

/** Bounds that keep one piece workable and a hostile file harmless. */
export const LIMITS = {
  parts: 32,
  riffs: 400,
  bars: MOST_BARS,
  tempos: MOST_TEMPOS,
  events: 40_000,
  allEvents: 60_000,
  notes: 12,
  text: 2000,
} as const;

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
  otherFinger: fingerSchema.optional(),
  by: deciderSchema,
  fingerBy: deciderSchema,
  /** A locked place is never moved by the solver. */
  locked: z.boolean(),
  /** Another place that would do as well, and why; only while it sounds the same (`otherPlaceOf`). */
  otherPlace: z
    .object({ string: stringSchema, fret: z.number().int().min(0).max(36), reason: text(300).nullable() })
    .optional(),
  /** The instructor's own reason for this place. */
  reason: text(300).nullable(),
});

/** What a note rests on. */
export const basisSchema = z.enum(['attack', 'ring', 'seen', 'isolated', 'told', 'pattern']);

/** The evidence for a note: what it rests on, where in the clip (seconds), and in words. */
export const evidenceSchema = z.object({
  basis: basisSchema.nullable(),
  at: z.number().min(0).max(36_000).nullable(),
  remark: text(300),
});

export const noteSchema = z.object({
  id: idSchema,
  pitch: z.object({ midi, cents: z.number().min(-100).max(100), by: deciderSchema }),
  place: placeSchema.nullable(),
  /** Own length where it differs from the event's (a bass note held under a melody). */
  dur: positiveQuarter.nullable(),
  certainty: certaintySchema,
  evidence: evidenceSchema.nullable(),
  /** How it is joined to the note that follows it on its string: the note it leads to is paired by `joinPairs`. */
  join: joinSchema.optional(),
  technique: techniqueSchema.optional(),
});

export const eventSchema = z.object({
  id: idSchema,
  at: quarterSchema,
  dur: positiveQuarter,
  /** None where the event is a hole, a hit or a scrape. */
  notes: z.array(noteSchema).max(LIMITS.notes),
  /** Kept ringing to the end of the run of ringing events, or of the bar. */
  letRing: z.boolean(),
  /** Played with a slide bar (bottleneck): pitches may lie between the frets. */
  slideBar: z.literal(true).optional(),
  ...articulationShape,
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

/** Another version of a stretch, kept beside the one that is written. */
export const alternativeSchema = z.object({
  id: idSchema,
  name: text(80).min(1),
  remark: text(300),
  from: quarterSchema,
  to: quarterSchema,
  events: z.array(eventSchema).max(400),
});

/**
 * A riff with a few changes, told as changes, so that correcting the riff corrects its variants. An event that is
 * replaced keeps its id; what is inserted has ids of its own.
 */
export const variantSchema = z.object({
  id: idSchema,
  name: text(80).min(1),
  change: z.object({
    replaced: z.array(eventSchema).max(2000),
    removed: z.array(idSchema).max(2000),
    inserted: z.array(eventSchema).max(2000),
    /**
     * What the changes were made against: events of the riff by id, where they stood, and a mark of what they held.
     * It lets a change follow an event that is moved, and tell of one that was corrected or deleted since.
     */
    base: z
      .array(z.object({ event: idSchema, at: quarterSchema, mark: text(16) }))
      .max(4000)
      .optional(),
    /** Behind which event of the riff each insertion stands. */
    anchors: z
      .array(z.object({ inserted: idSchema, event: idSchema }))
      .max(2000)
      .optional(),
  }),
});

export const riffSchema = z.object({
  id: idSchema,
  name: text(120).min(1),
  /** Bars at least; more where events go further. */
  bars: z.number().int().min(1).max(LIMITS.bars),
  pickup: quarterSchema.refine((length) => !length.startsWith('-'), 'a length of 0 or more'),
  meters: meterLaneSchema,
  events: z.array(eventSchema).max(LIMITS.events),
  wishes: z.array(wishSchema).max(100).optional(),
  /** The key it is thought in; absent, the piece's first. */
  key: keySchema.optional(),
  /** The riff's own tempo, in its time; absent, the piece's. */
  tempo: tempoLaneSchema.optional(),
  /** Straight where absent. */
  feel: feelLaneSchema.optional(),
  click: clickSchema.optional(),
  /** How often it is played in all; absent, nobody said. */
  plays: z.number().int().min(1).max(999).optional(),
  /** Which way the strokes go, where it is not the instructor's usual one. */
  picking: pickingSchema.optional(),
  alternatives: z.array(alternativeSchema).max(100).optional(),
  variants: z.array(variantSchema).max(100).optional(),
});

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
  /** Which edition it is of what was heard; absent, as recorded. */
  level: z.enum(['recorded', 'live', 'teaching', 'starter']).optional(),
  tone: text(300).min(1).optional(),
  /** Settings for it by name; a section's row names the one it is played with. */
  tones: z.array(toneSchema).max(20).optional(),
  /** The part it is another edition of: a level of it, or the same for another instrument. */
  editionOf: idSchema.optional(),
  /** How it was carried over from a part on another set-up, with a mark of what each riff of that held then. */
  carried: z
    .object({
      of: idSchema,
      keep: z.enum(['sound', 'shape']),
      octaves: z.number().int().min(-4).max(4),
      substitute: z.literal(true).optional(),
      marks: z.array(text(16)).max(LIMITS.riffs),
    })
    .optional(),
  riffs: z.array(riffSchema).max(LIMITS.riffs),
  /** What was taken for granted and never said. */
  unspecified: z
    .array(z.enum(['tuning']))
    .max(1)
    .optional(),
});

/** Which performance a piece was worked out from, and what that rests on. Other versions are pieces of their own. */
export const sourceSchema = z.object({
  version: z.enum(['record', 'live', 'cover', 'simplified']),
  /** Which one it is: "the evening of the storm, second act". */
  name: text(200),
  evidence: z.array(z.object({ what: text(200).min(1), certainty: certaintySchema })).max(40),
  /** What is not known about who played or wrote it. */
  authorship: text(600),
});

export const pieceSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  id: idSchema,
  title: text(160).min(1),
  /** The highest number given to an id so far: ids are never used twice in a piece's life (`freshIds`). */
  lastId: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
  /** What holds for all sections that say nothing else, in piece time. Each lane is sorted and starts at 0. */
  context: pieceContextSchema,
  parts: z.array(partSchema).max(LIMITS.parts),
  sections: z.array(sectionSchema).max(FORM_LIMITS.sections),
  /** The order in which sections are played. */
  form: z.array(formEntrySchema).max(FORM_LIMITS.form),
  /** Who wrote it, who worked it out: stands under every sheet. */
  credit: text(300).min(1).optional(),
  source: sourceSchema.optional(),
  /** What was said about stretches of it, to be checked. */
  claims: z.array(claimSchema).max(SAID_LIMITS.claims).optional(),
  /** What was answered to the questions of the check. */
  answers: z.array(answerSchema).max(SAID_LIMITS.answers).optional(),
  /** What was heard, riff by riff, to be compared with what is written. */
  hearings: z.array(hearingSchema).max(SAID_LIMITS.hearings).optional(),
  /** Absent: the program's own weights. */
  costs: pieceCostsSchema.optional(),
  unspecified: z
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
export type Alternative = DeepReadonly<z.infer<typeof alternativeSchema>>;
export type RiffWish = DeepReadonly<z.infer<typeof wishSchema>>;
export type Player = DeepReadonly<z.infer<typeof playerSchema>>;
export type Claim = DeepReadonly<z.infer<typeof claimSchema>>;
export type Answer = DeepReadonly<z.infer<typeof answerSchema>>;
export type Hearing = DeepReadonly<z.infer<typeof hearingSchema>>;
export type Source = DeepReadonly<z.infer<typeof sourceSchema>>;
export type PieceCosts = DeepReadonly<z.infer<typeof pieceCostsSchema>>;
export type Variant = DeepReadonly<z.infer<typeof variantSchema>>;
export type Context = DeepReadonly<z.infer<typeof contextSchema>>;
export type PieceContext = Piece['context'];
export type Section = DeepReadonly<z.infer<typeof sectionSchema>>;
export type Row = DeepReadonly<z.infer<typeof rowSchema>>;
export type Use = DeepReadonly<z.infer<typeof useSchema>>;
export type UseMove = DeepReadonly<z.infer<typeof useMoveSchema>>;
export type Spot = DeepReadonly<z.infer<typeof spotSchema>>;
export type PassName = z.infer<typeof passSchema>;
export type Stop = DeepReadonly<z.infer<typeof stopSchema>>;
export type FormEntry = DeepReadonly<z.infer<typeof formEntrySchema>>;

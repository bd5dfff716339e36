import { z } from 'zod';
import type { DeepReadonly } from '../base';
import { setupSchema } from '../instrument';
import {
  eventSchema,
  partSchema,
  pieceCostsSchema,
  pieceSchema,
  placeSchema,
  playerSchema,
  readingSchema,
  riffSchema,
  wishSchema,
} from '../score';

/**
 * Edits as values: small, serialisable, each with apply, invert and a line in words. Everything
 * that changes a piece is one of these, whether it comes from a key press, a file or the solver.
 */

const where = { part: z.string(), riff: z.string() };
const noteRef = { ...where, event: z.string(), note: z.string() };

const simple = [
  z.object({ type: z.literal('setTitle'), title: pieceSchema.shape.title }),
  z.object({ type: z.literal('setTempo'), tempo: pieceSchema.shape.lanes.shape.tempo }),
  z.object({ type: z.literal('setKey'), key: pieceSchema.shape.lanes.shape.key }),
  z.object({ type: z.literal('addPart'), part: partSchema, at: z.number().int().min(0) }),
  z.object({ type: z.literal('removePart'), part: z.string() }),
  z.object({
    type: z.literal('renamePart'),
    part: z.string(),
    name: partSchema.shape.name,
    role: partSchema.shape.role,
  }),
  /** A new set-up; places that no longer fit must be given in the same batch, before it is checked. */
  z.object({ type: z.literal('setSetup'), part: z.string(), setup: setupSchema, riffs: z.array(riffSchema) }),
  /** Whose hand a part is placed for; null for an adult hand. */
  z.object({ type: z.literal('setPlayer'), part: z.string(), player: playerSchema.nullable() }),
  /** The weights the piece is placed by; null for the program's own. */
  z.object({ type: z.literal('setCosts'), costs: pieceCostsSchema.nullable() }),
  z.object({ type: z.literal('setWishes'), ...where, wishes: z.array(wishSchema).max(100) }),
  z.object({ type: z.literal('addRiff'), part: z.string(), riff: riffSchema, at: z.number().int().min(0) }),
  z.object({ type: z.literal('removeRiff'), part: z.string(), riff: z.string() }),
  z.object({
    type: z.literal('setRiff'),
    ...where,
    name: riffSchema.shape.name,
    bars: riffSchema.shape.bars,
    pickup: riffSchema.shape.pickup,
    meters: riffSchema.shape.meters,
    /** Absent: as the piece, straight, one click a beat, nobody said, the instructor's usual. */
    tempo: riffSchema.shape.tempo,
    feel: riffSchema.shape.feel,
    click: riffSchema.shape.click,
    plays: riffSchema.shape.plays,
    picking: riffSchema.shape.picking,
  }),
  /** Other readings kept beside what is written. */
  z.object({ type: z.literal('setReadings'), ...where, readings: z.array(readingSchema).max(100) }),
  /** What was taken for granted: of a part where one is named, else of the piece. */
  z.object({
    type: z.literal('setUnsaid'),
    part: z.string().nullable(),
    unsaid: z.array(z.enum(['tempo', 'tuning'])).max(2),
  }),
  /** Puts events (new or replacing those of the same id) and removes others, in one go. */
  z.object({ type: z.literal('putEvents'), ...where, put: z.array(eventSchema), remove: z.array(z.string()) }),
  /** Decides where one note lies; null gives the choice back to the solver. */
  z.object({ type: z.literal('placeNote'), ...noteRef, place: placeSchema.nullable() }),
  /** The solver's proposals for many notes. Locked places are refused. */
  z.object({
    type: z.literal('proposePlaces'),
    ...where,
    places: z.array(z.object({ note: z.string(), place: placeSchema.nullable() })),
  }),
] as const;

export const simpleEditSchema = z.discriminatedUnion('type', [...simple]);
export const editSchema = z.discriminatedUnion('type', [
  ...simple,
  z.object({ type: z.literal('batch'), what: z.string().max(200), edits: z.array(simpleEditSchema).max(5000) }),
]);

export type SimpleEdit = DeepReadonly<z.infer<typeof simpleEditSchema>>;
export type Edit = DeepReadonly<z.infer<typeof editSchema>>;

/** A step of the log as it travels to the server. */
export const stepSchema = z.object({
  kind: z.enum(['do', 'follow', 'undo', 'redo']),
  edit: editSchema,
  inverse: editSchema,
  what: z.string().max(300),
});

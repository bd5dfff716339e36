import { z } from 'zod';
import { contextSchema, MOST_BARS } from './context-schema';
import { idSchema, text } from './parts-of-schema';

/** Where riffs stand in the whole: sections with their uses of riffs, and the order the sections are played in. */

export const FORM_LIMITS = {
  ...{ sections: 200, rows: 32, uses: 400, form: 400, endings: 40 },
  /** Unfolded: bars of the whole, and events of one part. */
  ...{ bars: 10_000, played: 200_000 },
} as const;

/** A pass by its number from 1, or all of a kind. */
export const passSchema = z.union([z.number().int().min(1).max(999), z.enum(['last', 'odd', 'even'])]);
const passes = z.array(passSchema).min(1).max(40);

/** How a riff is moved where it is used: in shape along the neck or over strings, in sound, or to a chord. */
export const useMoveSchema = z.discriminatedUnion('by', [
  z.object({ by: z.enum(['frets', 'strings', 'semitones']), steps: z.number().int().min(-48).max(48) }),
  z.object({ by: z.literal('chord'), chord: text(40).min(1) }),
]);

/** On these passes the riff is played as another variant of it. */
export const endingSchema = z.object({ passes, variant: idSchema });

/** Bars without a riff: a rest on purpose, free to be filled by the player, or not yet written. */
export const spotSchema = z.object({
  kind: z.enum(['rest', 'free', 'unwritten']),
  bars: z.number().int().min(1).max(MOST_BARS),
});

/** Some bars of a riff only: from which, counted from 0, and how many. */
export const barRangeSchema = z.object({
  from: z.number().int().min(0).max(MOST_BARS),
  count: z.number().int().min(1).max(MOST_BARS),
});

/** One place where a riff is played, or a spot without one. `plays` is how often in all, never how often again. */
export const useSchema = z.object({
  id: idSchema,
  /** Either a riff of the part or a spot. */
  riff: idSchema.optional(),
  spot: spotSchema.optional(),
  variant: idSchema.optional(),
  move: useMoveSchema.optional(),
  bars: barRangeSchema.optional(),
  plays: z.number().int().min(1).max(999),
  endings: z.array(endingSchema).max(FORM_LIMITS.endings).optional(),
  /** The riff is silent here, on purpose. */
  leaveOut: z.literal(true).optional(),
  remark: text(300).min(1).optional(),
});

/** The uses of one part, laid end to end from the section's beginning. */
export const rowSchema = z.object({
  part: idSchema,
  uses: z.array(useSchema).max(FORM_LIMITS.uses),
  /** 0 to 100 beside the other parts. */
  level: z.number().int().min(0).max(100).optional(),
  tone: text(300).min(1).optional(),
});

export const SECTION_KINDS = ['intro', 'verse', 'refrain', 'bridge', 'solo', 'interlude', 'ending', 'other'] as const;

export const sectionSchema = z.object({
  id: idSchema,
  name: text(80).min(1),
  kind: z.enum(SECTION_KINDS),
  bars: z.number().int().min(1).max(MOST_BARS),
  context: contextSchema.optional(),
  /** What is heard or seen just before it, so that nobody misses it. */
  cue: text(200).min(1).optional(),
  rows: z.array(rowSchema).max(FORM_LIMITS.rows),
});

/** How a stretch of the form ends where it doesn't simply go on. */
export const stopSchema = z.object({
  kind: z.enum(['early', 'slowing', 'held', 'fade']),
  /** Bars before the end from which it holds. */
  bars: z.number().int().min(0).max(64),
  /** What it slows to, in percent of the tempo; absent, to 60. */
  to: z.number().int().min(20).max(99).optional(),
  remark: text(200).min(1).optional(),
});

/** A section in the order of playing: how often in all, what differs on which pass, and how it is left. */
export const formEntrySchema = z.object({
  id: idSchema,
  section: idSchema,
  plays: z.number().int().min(1).max(999),
  differences: z
    .array(z.object({ passes, use: idSchema, variant: idSchema.optional(), leaveOut: z.literal(true).optional() }))
    .max(FORM_LIMITS.endings)
    .optional(),
  /** The variant that leads from the last note back into the first, by use. */
  joints: z
    .array(z.object({ use: idSchema, variant: idSchema }))
    .max(FORM_LIMITS.rows)
    .optional(),
  stop: stopSchema.optional(),
});

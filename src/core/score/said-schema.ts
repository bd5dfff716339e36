import { z } from 'zod';
import { idSchema, quarterSchema, text } from './parts-of-schema';

/** What is said about a piece beside its notes, and what was decided about questions the program asks. */

export const SAID_LIMITS = { claims: 400, answers: 3000, hearings: 40, notes: 1200 } as const;

/** Something said about a stretch, in the instructor's words, to be checked against the notes: "all A minor". */
export const claimSchema = z.object({
  id: idSchema,
  words: text(300).min(1),
  /** What it is said of: a part, a riff of it and a stretch of that, a section; none of them, the piece. */
  part: idSchema.optional(),
  riff: idSchema.optional(),
  section: idSchema.optional(),
  from: quarterSchema.optional(),
  to: quarterSchema.optional(),
});

/** What was answered to a finding. It holds while the finding rests on the same ground. */
export const answerSchema = z.object({
  /** Which finding: its rule and what it is about, as the check names it. */
  finding: z.string().regex(/^[a-z0-9.-]{1,80}$/),
  /** A mark of what it rested on. */
  ground: z.string().regex(/^[a-z0-9]{1,16}$/),
  answer: z.enum(['meant', 'later']),
  reason: text(300),
});

/** Notes heard in a recording where a riff is played, laid on its bars; to be compared with what is written. */
export const hearingSchema = z.object({
  riff: idSchema,
  /** The recording, by its name. */
  source: text(120).min(1),
  /** The stretch that was listened to, in the riff's time. */
  from: quarterSchema,
  to: quarterSchema,
  /** Measured, so numbers: quarters from the riff's first bar line, and the nearest pitch. */
  notes: z
    .array(z.object({ at: z.number().min(-64).max(100_000), midi: z.number().int().min(0).max(127) }))
    .max(SAID_LIMITS.notes),
});

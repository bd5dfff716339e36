import { z } from 'zod';
import { parseName } from '../pitch';
import { positiveQuarter, quarterSchema, text } from './parts-of-schema';

/** What music stands in: tempo, key, meter, feel, click, chords and bass, each a lane of steps in order of time. */

export const MOST_BARS = 2000;
/** Steps of one tempo lane. */
export const MOST_TEMPOS = 2000;

const pitchName = z.string().refine((name) => parseName(name) !== null, 'a note name such as D or F#');

export const keySchema = z.object({ tonic: pitchName, mode: z.enum(['major', 'minor']) });

export const meterSchema = z.object({
  bar: z.number().int().min(0).max(MOST_BARS),
  beats: z.number().int().min(1).max(32),
  unit: z.number().refine((value) => [1, 2, 4, 8, 16, 32].includes(value), 'a note value: 1, 2, 4, 8, 16 or 32'),
});
export const meterLaneSchema = z.array(meterSchema).min(1).max(200);

/** From `at` on so many quarters a minute; `ramp`: evenly changing to the next step. */
export const tempoStepSchema = z.object({
  at: quarterSchema,
  bpm: z.number().min(10).max(500),
  ramp: z.literal(true).optional(),
});
export const tempoLaneSchema = z.array(tempoStepSchema).min(1).max(MOST_TEMPOS);

export const keyLaneSchema = z.array(keySchema.extend({ at: quarterSchema })).max(500);

/** From `at` on the first of two `unit` notes takes so many percent of the pair. 50 is straight. */
export const feelStepSchema = z.object({
  at: quarterSchema,
  swing: z.number().min(50).max(80),
  unit: z.enum(['1/2', '1/4']),
});
export const feelLaneSchema = z.array(feelStepSchema).min(1).max(200);

/** Clicks to a felt beat. */
export const CLICKS = [0.5, 1, 2, 3, 4] as const;
export const clickSchema = z
  .number()
  .refine((clicks) => (CLICKS as readonly number[]).includes(clicks), `clicks to a beat: ${CLICKS.join(', ')}`);

/** A chord as it sounds, by its name; "N.C." for none. */
export const chordLaneSchema = z
  .array(z.object({ at: quarterSchema, dur: positiveQuarter, chord: text(40).min(1) }))
  .max(2000);
export const bassLaneSchema = z.array(z.object({ at: quarterSchema, dur: positiveQuarter, note: pitchName })).max(2000);

/** A context of which only some is said: what is absent is taken from further out. */
export const contextSchema = z.object({
  tempo: tempoLaneSchema.optional(),
  key: keyLaneSchema.optional(),
  meters: meterLaneSchema.optional(),
  feel: feelLaneSchema.optional(),
  click: clickSchema.optional(),
  chords: chordLaneSchema.optional(),
  bass: bassLaneSchema.optional(),
});

/** The piece's own context, the default of all its sections: tempo and key are always there. */
export const pieceContextSchema = contextSchema.extend({ tempo: tempoLaneSchema, key: keyLaneSchema });

import { z } from 'zod';
import type { DeepReadonly } from '../base';
import { positiveQuarter, stringSchema } from './parts-of-schema';

/**
 * What is done to a note or an event beyond striking it, as the document keeps it, and what no
 * hand can do. Everything is absent where nothing is done.
 */

/** How two events are joined: `slide` carries the sound on, `shift` slides and strikes again. */
export const joinSchema = z.enum(['hammer', 'pull', 'slide', 'shift']);

/** The shapes of a bend that have a name, beside plainly up. */
export const BEND_SHAPES = ['released', 'again', 'prebend', 'prebend-released'] as const;
export type BendShape = (typeof BEND_SHAPES)[number];

export const BEND_LIMITS = { least: 10, most: 700 } as const;
const bendCents = z
  .number()
  .int()
  .min(BEND_LIMITS.least, 'a bend of 10 cents at least')
  .max(BEND_LIMITS.most, 'a bend of 700 cents at most');

/** A point of a bend: percent of the note's length, and cents above the written pitch there. */
export const bendPointSchema = z.object({
  at: z.number().int().min(0).max(100),
  cents: z.number().int().min(0).max(BEND_LIMITS.most),
});

/** Partials a pinched note may speak at, in semitones above it. */
export const PINCHED = [12, 19, 24, 28, 31] as const;

export const techniqueSchema = z.object({
  /** The farthest it is bent, in cents above the written pitch. */
  bend: bendCents.optional(),
  /**
   * The way of the bend over the note, where it is not simply up: points in order of time, the highest as far as
   * `bend`.
   */
  bendCurve: z.array(bendPointSchema).min(2).max(12).optional(),
  /** The shape of a bend of which nobody said how far it goes. */
  bendShape: z.enum(BEND_SHAPES).optional(),
  /** The finger pushes the string towards the thick strings, or pulls it towards the thin ones. */
  bendDirection: z.enum(['thick', 'thin']).optional(),
  /** Shaken by so many cents to either side. */
  vibrato: z.number().int().min(5).max(200).optional(),
  /** Trilled with the note so many semitones above it on the same string. */
  trill: z.number().int().min(1).max(12).optional(),
  /** It is bent or trilled, and how far was never said. */
  unspecified: z
    .array(z.enum(['bend', 'trill']))
    .min(1)
    .max(2)
    .optional(),
  /** Struck on a damped string: a click without pitch. The pitch written is that of its place. */
  dead: z.literal(true).optional(),
  /** A natural harmonic; the place says over which fret it is touched. */
  harmonic: z.literal(true).optional(),
  /** Pinched by the picking thumb, so that a partial speaks, so many semitones above. */
  pinched: z
    .number()
    .refine((n) => (PINCHED as readonly number[]).includes(n), `a partial: ${PINCHED.join(', ')} semitones above`)
    .optional(),
  /** Stopped by a finger of the picking hand. */
  tapped: z.literal(true).optional(),
  /** Hammered onto a string that did not sound: no note leads to it, and it is not struck. */
  hammered: z.literal(true).optional(),
  /** The finger pulls off sideways at its end, and no note follows on its string. */
  pulledOff: z.literal(true).optional(),
  /** Rings on under what follows, to the end of the bar or until its string is struck again. */
  letRing: z.literal(true).optional(),
  /** Slid into from nowhere: from lower or higher frets. */
  slideIn: z.enum(['lower', 'higher']).optional(),
  /** Over so many frets, where that was said. */
  slideInBy: z.number().int().min(1).max(24).optional(),
  /** Slid off at its end, to lower or higher frets. */
  slideOut: z.enum(['lower', 'higher']).optional(),
  slideOutBy: z.number().int().min(1).max(24).optional(),
  /** Its finger is what the hand turns on: it stays where it is into the next grip. */
  anchor: z.literal(true).optional(),
  /** How long from its onset the finger stays down, where that is longer than it sounds. */
  hold: positiveQuarter.optional(),
});

/** What an event is when it is no notes. */
export const eventKindSchema = z.enum(['hole', 'hit', 'scrape']);
/** How the picking hand strikes. `same`: the stroke before carries on over the strings. */
export const strokeSchema = z.enum([
  'down',
  'up',
  'same',
  'thumb',
  'index',
  'middle',
  'third',
  'slap',
  'pop',
  'brush-down',
  'brush-up',
]);
export const muteSchema = z.enum(['palm', 'choked']);
export const dynamicSchema = z.enum(['pp', 'p', 'mp', 'mf', 'f', 'ff']);
export const accentSchema = z.enum(['accent', 'heavy', 'ghost']);
export const freeSchema = z.object({
  kind: z.enum(['either', 'fill', 'leave-out']),
  remark: z.string().trim().max(200),
});

/** Which strings a pick is scraped along, from which fret, and which way. */
export const scrapedSchema = z.object({
  thick: stringSchema,
  thin: stringSchema,
  fret: z.number().int().min(1).max(36).nullable(),
  to: z.enum(['lower', 'higher']),
});

/** How an event is played as a whole. */
export const articulationShape = {
  kind: eventKindSchema.optional(),
  stroke: strokeSchema.optional(),
  /** Damped by the picking hand at the bridge, or choked by the fretting hand. */
  mute: muteSchema.optional(),
  /** Sounds for so many percent of its written length. 50 is staccato. */
  gate: z.number().int().min(5).max(95).optional(),
  /** A grace note: it takes its short time from what is before, and counts for nothing in the bar. */
  grace: z.literal(true).optional(),
  /** Belongs to the beat that follows and is played before it. */
  anticipated: z.literal(true).optional(),
  accent: accentSchema.optional(),
  dynamic: dynamicSchema.optional(),
  /** The strings one after the other, from the thick or the thin side. */
  roll: z.enum(['thick-first', 'thin-first']).optional(),
  /** Dragged over damped strings into the note. */
  rake: z.literal(true).optional(),
  /** The pick comes down flat on the strings as it strikes: a slap with the note. */
  pickSlap: z.literal(true).optional(),
  /** Struck again and again, each stroke so long. */
  tremolo: positiveQuarter.optional(),
  /** Of a scrape: along which strings, and which way. */
  scraped: scrapedSchema.optional(),
  /** The slide that leads here is fast. */
  quickSlide: z.literal(true).optional(),
  /** Degrees the slide bar is tilted: above 0, each thinner string sounds higher. */
  tilt: z
    .number()
    .int()
    .min(-30)
    .max(30)
    .refine((n) => n !== 0, 'a tilt that is not 0')
    .optional(),
  /** May be played otherwise: either of two, a fill, or nothing. */
  free: freeSchema.optional(),
  /** Why it is played here, in the instructor's words. */
  remark: z.string().trim().min(1).max(300).optional(),
} as const;

export type Join = z.infer<typeof joinSchema>;
export type Technique = DeepReadonly<z.infer<typeof techniqueSchema>>;
export type BendPoint = DeepReadonly<z.infer<typeof bendPointSchema>>;
export type Stroke = z.infer<typeof strokeSchema>;
export type Mute = z.infer<typeof muteSchema>;
export type Articulation = DeepReadonly<z.infer<z.ZodObject<typeof articulationShape>>>;

/** What is kept of how an event is played, without the rest of it. */
export function articulationOf(event: Articulation): Articulation {
  const out: Record<string, unknown> = {};
  for (const key of ARTICULATIONS) if (event[key] !== undefined) out[key] = event[key];
  return out;
}

export const ARTICULATIONS = Object.keys(articulationShape) as (keyof Articulation)[];

/** The shapes of a bend that have a name, for a bend of so many cents. */
export function bendShapes(cents: number): Readonly<Record<BendShape, readonly BendPoint[]>> {
  return {
    released: [
      { at: 0, cents: 0 },
      { at: 30, cents },
      { at: 55, cents },
      { at: 80, cents: 0 },
    ],
    again: [
      { at: 0, cents: 0 },
      { at: 20, cents },
      { at: 40, cents },
      { at: 55, cents: 0 },
      { at: 75, cents },
    ],
    prebend: [
      { at: 0, cents },
      { at: 100, cents },
    ],
    'prebend-released': [
      { at: 0, cents },
      { at: 35, cents },
      { at: 70, cents: 0 },
    ],
  };
}

/** The name of a bend's shape: `up` for the plain one, null for a curve of its own. */
export function bendShapeOf(technique: Technique): BendShape | 'up' | null {
  const { bend, bendCurve: curve } = technique;
  if (!curve) return 'up';
  const same = (a: readonly BendPoint[]): boolean =>
    a.length === curve.length && a.every((one, i) => one.at === curve[i]?.at && one.cents === curve[i]?.cents);
  return (
    (Object.entries(bendShapes(bend ?? 0)) as [BendShape, readonly BendPoint[]][]).find(([, points]) =>
      same(points),
    )?.[0] ?? null
  );
}

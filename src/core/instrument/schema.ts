import { z } from 'zod';
import type { Setup } from './types';

/** What instruments and set-ups look like in documents, files and the database. */

const midi = z.number().int().min(0).max(127);
const stringNumber = z.number().int().min(1).max(12);

export const stringKindSchema = z.enum(['plain', 'wound', 'nylon', 'nylon-wound']);

const makeSchema = {
  gaugeMm: z.number().positive().max(5),
  kind: stringKindSchema,
  unitWeight: z.number().positive().max(0.2).optional(),
};

export const instrumentStringSchema = z.object({
  pitch: midi,
  ...makeSchema,
  course: z.object({ ...makeSchema, semitones: z.number().int().min(-12).max(12) }).optional(),
  scaleMm: z.number().min(300).max(1200).optional(),
});

export const instrumentSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/i, 'an id of letters, digits and hyphens, 1 to 40'),
  name: z.string().trim().min(1).max(120),
  kind: z.enum(['electric', 'acoustic', 'classical', 'bass', 'baritone', 'tenor']),
  strings: z.array(instrumentStringSchema).min(1).max(12),
  scaleMm: z.number().min(300).max(1200),
  frets: z.number().int().min(1).max(36),
  easyFrets: z.number().int().min(1).max(36),
  nutSpacingMm: z.number().positive().max(150),
  bridgeSpacingMm: z.number().positive().max(200),
  handed: z.enum(['right', 'left']),
});

export const tuningFamilySchema = z.enum([
  'standard',
  'dropped',
  'detuned',
  'open',
  'modal',
  'baritone',
  'extended',
  'altered',
]);

export const capoSchema = z.object({
  fret: z.number().int().min(1).max(12),
  strings: z.array(stringNumber).min(1).max(12).nullable(),
});

export const setupSchema = z.object({
  instrument: instrumentSchema,
  tuningId: z.string().max(60).nullable(),
  open: z.array(midi).min(1).max(12),
  absent: z.array(stringNumber),
  capos: z.array(capoSchema).max(2),
  signs: z.enum(['flats', 'sharps']).optional(),
});

interface OldString {
  readonly pitch: number;
  readonly gaugeMm: number;
  readonly wound: boolean;
  readonly course?: number;
}

/**
 * Lifts a set-up of document version 1 (one full capo as a number, strings plain or wound, courses
 * as a distance) to the present form; anything else is given back as it is. What version 1 did not
 * say is taken as usual: steel except on classical guitars, an octave course at half the gauge.
 */
export function migrateSetup(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || !('capo' in value) || !('instrument' in value)) return value;
  const { capo, instrument, ...rest } = value as {
    capo: number;
    instrument: Record<string, unknown> & { kind: string; strings: OldString[] };
  };
  const nylon = instrument.kind === 'classical';
  const strings = instrument.strings.map(({ wound, course, ...s }) => {
    const kind = nylon ? (wound ? 'nylon-wound' : 'nylon') : wound ? 'wound' : 'plain';
    const octave = course === 12;
    return {
      ...s,
      kind,
      ...(course === undefined
        ? {}
        : {
            course: {
              semitones: course,
              gaugeMm: octave ? Math.round(s.gaugeMm * 500) / 1000 : s.gaugeMm,
              kind: octave && s.gaugeMm < 0.8 ? 'plain' : kind,
            },
          }),
    };
  });
  const lifted: Setup = {
    ...(rest as Pick<Setup, 'open' | 'absent' | 'tuningId'>),
    instrument: { ...instrument, strings, handed: 'right' } as unknown as Setup['instrument'],
    capos: capo > 0 ? [{ fret: capo, strings: null }] : [],
  };
  return lifted;
}

import { z } from 'zod';
import { parseQuarter, type Quarter } from '../time';

/** Small pieces that several schemas of the document share. */

/** The longest time a document knows, in quarters. */
export const MOST_QUARTERS = 100_000;

export const quarterSchema = z.string().transform((value, ctx): Quarter => {
  const at = parseQuarter(value);
  if (at !== null && Math.abs(Number(at.split('/')[0])) / Number(at.split('/')[1] ?? 1) <= MOST_QUARTERS) return at;
  ctx.addIssue({ code: 'custom', message: 'a musical time: quarter notes as "3" or "3/2"' });
  return z.NEVER;
});

export const positiveQuarter = quarterSchema.refine((at) => !at.startsWith('-') && at !== '0', 'a length above 0');

export const idSchema = z.string().regex(/^[a-z0-9-]{1,40}$/i, 'an id of letters, digits and hyphens, 1 to 40');

export const text = (max: number) => z.string().trim().max(max);

export const stringSchema = z.number().int().min(1).max(12);

/** 0 open, 1 to 4 index to little finger, 5 the thumb over the neck. */
export const fingerSchema = z.union([
  z.literal(0),
  z.literal(1),
  z.literal(2),
  z.literal(3),
  z.literal(4),
  z.literal(5),
]);

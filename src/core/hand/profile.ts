import { z } from 'zod';
import type { Profile, SpanTable } from './types';

const mm = z.number().min(5, 'at least 5 mm').max(260, 'at most 260 mm');
const spanSchema = z.object({ '12': mm, '23': mm, '34': mm, '13': mm, '24': mm, '14': mm });
const strings = z.number().int().min(1).max(12);

/** A player's hand as it is kept in documents and in the studio. */
export const profileSchema = z
  .object({
    comfortable: spanSchema,
    maximal: spanSchema,
    barre: z.tuple([strings, strings, strings, strings]),
    fingers: z
      .array(z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]))
      .min(1, 'at least one finger')
      .max(4)
      .refine((list) => list.every((x, i) => i === 0 || x > (list[i - 1] ?? 0)), 'fingers in order, each once'),
    thumb: z.boolean(),
    barFinger: z.union([z.literal(2), z.literal(3), z.literal(4)]),
    school: z.enum(['free', 'finger-per-fret', 'one-two-four']),
    level: z.enum(['beginner', 'player', 'advanced']),
  })
  .refine(
    (one) =>
      (['12', '23', '34', '13', '24', '14'] as const).every((pair) => one.comfortable[pair] <= one.maximal[pair]),
    'a comfortable span can’t be wider than the maximal one',
  );

/** An adult hand, mm between press points. Source: the project's engine plan, section 5. */
export const ADULT_HAND: Profile = {
  comfortable: { '12': 40, '23': 33, '34': 36, '13': 70, '24': 66, '14': 100 },
  maximal: { '12': 65, '23': 50, '34': 55, '13': 100, '24': 95, '14': 135 },
  barre: [12, 2, 3, 2],
  fingers: [1, 2, 3, 4],
  thumb: false,
  barFinger: 4,
  school: 'free',
  level: 'player',
};

const scaled = (table: SpanTable, by: number): SpanTable =>
  Object.fromEntries(
    Object.entries(table).map(([pair, one]) => [pair, Math.round(one * by * 10) / 10]),
  ) as unknown as SpanTable;

/** A hand with all spans scaled: 0.88 for a small hand, 1.1 for a large one. */
export const sizedHand = (by: number, from: Profile = ADULT_HAND): Profile => ({
  ...from,
  comfortable: scaled(from.comfortable, by),
  maximal: scaled(from.maximal, by),
});

import { describe, expect, it } from 'vitest';
import { ADULT_HAND, costTableSchema, DEFAULT_COSTS, profileSchema, sizedHand, type Profile } from './index';

const fault = (profile: unknown): string => {
  const read = profileSchema.safeParse(profile);
  return read.success ? 'ok' : (read.error.issues[0]?.message ?? '');
};

describe('a hand', () => {
  it('of an adult, a small and a large one are hands', () => {
    for (const hand of [ADULT_HAND, sizedHand(0.88), sizedHand(1.1)]) expect(fault(hand)).toBe('ok');
    expect(sizedHand(0.88).comfortable['14']).toBe(88);
    expect(sizedHand(1.1).maximal['12']).toBe(71.5);
  });
  it('is refused with the reason: comfort beyond the utmost, no finger, fingers out of order, spans of nobody', () => {
    expect(fault({ ...ADULT_HAND, comfortable: { ...ADULT_HAND.comfortable, '14': 140 } })).toContain('comfortable');
    expect(fault({ ...ADULT_HAND, fingers: [] })).toContain('at least one finger');
    expect(fault({ ...ADULT_HAND, fingers: [2, 1] })).toContain('in order');
    expect(fault({ ...ADULT_HAND, maximal: { ...ADULT_HAND.maximal, '14': 400 } })).toContain('260');
    expect(fault({ ...ADULT_HAND, barre: [0, 1, 1, 1] })).not.toBe('ok');
    expect(fault({ ...ADULT_HAND, school: 'by magic' } as unknown as Profile)).not.toBe('ok');
  });
});

describe('a cost table', () => {
  it('names every weight, and no other', () => {
    expect(costTableSchema.safeParse(DEFAULT_COSTS).success).toBe(true);
    expect(costTableSchema.safeParse({ ...DEFAULT_COSTS, whim: 1 }).success).toBe(false);
    const { open: _, ...rest } = DEFAULT_COSTS;
    expect(costTableSchema.safeParse(rest).success).toBe(false);
  });
  it('has no weight below nothing: costs add up', () => {
    expect(costTableSchema.safeParse({ ...DEFAULT_COSTS, cross: -0.1 }).success).toBe(false);
    expect(costTableSchema.safeParse({ ...DEFAULT_COSTS, finger: [0, 0, 0, -1] }).success).toBe(false);
    expect(costTableSchema.safeParse({ ...DEFAULT_COSTS, cross: NaN }).success).toBe(false);
  });
});

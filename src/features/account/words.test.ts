import { describe, expect, it } from 'vitest';
import { ADULT_HAND, DEFAULT_COSTS, sizedHand } from '@/core/hand';
import { WEIGHTS } from '@/core/place';
import { handWords } from './hand-words';
import { WEIGHT_GROUPS, weightLabel } from './weight-words';

describe('words of the settings', () => {
  it('name every weight there is, once, and no other', () => {
    const named = WEIGHT_GROUPS.flatMap((one) => one.weights.map(([name]) => name));
    expect([...named].sort()).toEqual(Object.keys(DEFAULT_COSTS).sort());
    const labels = WEIGHTS(DEFAULT_COSTS).map(weightLabel);
    expect(new Set(labels).size).toBe(labels.length);
    expect(weightLabel({ name: 'barre', index: 2 })).toBe('Barre, ring');
    for (const label of labels) expect(label).toMatch(/^[A-Z]/);
  });
  it('tell hands apart', () => {
    expect(handWords(ADULT_HAND)).toBe('100 mm at ease, 135 at most');
    expect(
      handWords({
        ...sizedHand(0.88),
        level: 'beginner',
        fingers: [1, 2, 3],
        barre: [1, 1, 1, 1],
        thumb: true,
        school: 'one-two-four',
      }),
    ).toBe('88 mm at ease, 119 at most, fingers 1 2 3, no barre, thumb over, 1-2-4 low down, beginner');
  });
});

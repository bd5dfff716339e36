import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differenceOf, withDifference } from './difference';
import { makeEvent, makeNote, makeRiff } from './make';
import type { Riff } from './schema';
import { quarter } from '../time';

const riffOf = (midis: readonly number[]): Riff => ({
  ...makeRiff('r', 'Riff'),
  events: midis.map((midi, i) => makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`n${i}`, midi, 'import')])),
});

describe('the difference between two versions of a riff', () => {
  it('makes the later of the earlier, and keeps what did not change as it is', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 30, max: 80 }), { minLength: 8, maxLength: 40 }),
        fc.array(fc.nat(39), { maxLength: 6 }),
        fc.string({ minLength: 1, maxLength: 8 }),
        (midis, at, name) => {
          const before = riffOf(midis);
          const changed = new Set(at.filter((i) => i < midis.length));
          const after = {
            ...before,
            name,
            events: before.events.map((event, i) => (changed.has(i) ? { ...event, dur: quarter(1, 4) } : event)),
          };
          const difference = differenceOf(before, after);
          if (changed.size > midis.length / 4) {
            expect(difference).toBeNull();
            return;
          }
          if (!difference) throw new Error('no difference');
          expect(difference.put).toHaveLength(changed.size);
          // As it arrives at a worker: copied.
          const made = withDifference(before, structuredClone(difference));
          expect(made).toEqual(after);
          for (const [i, event] of made.events.entries()) if (!changed.has(i)) expect(event).toBe(before.events[i]);
        },
      ),
    );
  });

  it('is not told where events came or went, or of another riff', () => {
    const before = riffOf([40, 41, 42, 43]);
    expect(differenceOf(before, { ...before, events: before.events.slice(1) })).toBeNull();
    expect(differenceOf(before, { ...before, id: 'other' })).toBeNull();
  });
});

import { referenceOf } from '../../src/core/listen';
import { renderTake, seeded, type TakeOptions } from '../../src/core/synth';
import { grips, line } from './takes';

/** How far off the reference of recordings is heard, in cents, on takes tuned by chance. */
export function referenceErrors(
  kind: 'lines' | 'grips',
  voice: Partial<TakeOptions>,
  count: number,
  rate: number,
): number[] {
  const random = seeded(417);
  return Array.from({ length: count }, (_, i) => {
    const take = kind === 'lines' ? line(i + 1) : grips(i + 1);
    const cents = Math.round(random() * 450) / 10;
    const hearing = referenceOf(
      renderTake(take.notes, { ...voice, seconds: take.seconds, beats: take.beats, seed: 30 + i, cents }),
      rate,
    );
    const off = hearing ? hearing.cents - cents : 50;
    // A quarter tone is as far as it goes: from there on it is the next note.
    return Math.abs(off > 50 ? off - 100 : off < -50 ? off + 100 : off);
  }).sort((a, b) => a - b);
}

import type { WayFacts } from '@/core/place';

/** Where the hand is along a way. */
export function regionWords({ lowest, highest }: { readonly lowest: number; readonly highest: number }): string {
  if (lowest === 0) return 'open strings only';
  return lowest === highest ? `hand at fret ${lowest}` : `hand at frets ${lowest} to ${highest}`;
}

/** The figures of a way as one sentence. */
export function factWords({ open, shifts, farthestMm, widestMm, hardest }: WayFacts): string {
  const words = [
    `${open === 0 ? 'no' : open} open note${open === 1 ? '' : 's'}`,
    shifts === 0 ? 'no shift' : `${shifts} shift${shifts === 1 ? '' : 's'}, up to ${Math.round(farthestMm)} mm`,
    widestMm > 0 ? `a stretch of ${Math.round(widestMm)} mm` : '',
    hardest ? `hardest: ${hardest.words}` : '',
  ]
    .filter(Boolean)
    .join('; ');
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}

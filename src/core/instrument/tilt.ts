import type { Cents } from '../base';
import { nutOf } from './capo';
import type { Setup } from './types';

/** Further from its fret than this a string's pitch is another note's. */
const MOST = 99;

/**
 * Cents a string sounds above its fret under a slide bar tilted so many degrees over the thickest string of the chord
 * (`thick`): the bar reaches each thinner string further along by the strings' distance times the tangent. -99 to 99.
 */
export function tiltCents(
  setup: Setup,
  place: { readonly string: number; readonly fret: number },
  thick: number,
  degrees: number,
): Cents {
  const { instrument } = setup;
  const fret = place.fret + nutOf(setup, place.string);
  const share = 1 - 2 ** (-fret / 12);
  const spacing =
    (instrument.nutSpacingMm + (instrument.bridgeSpacingMm - instrument.nutSpacingMm) * share) /
    Math.max(1, instrument.strings.length - 1);
  const along = (thick - place.string) * spacing * Math.tan((degrees * Math.PI) / 180);
  const length = instrument.scaleMm * 2 ** (-fret / 12);
  const cents = Math.round(1200 * Math.log2(length / (length - along)));
  // Adding 0 makes a rounded -0 the 0 that a document keeps.
  return Math.max(-MOST, Math.min(MOST, cents)) + 0;
}

import type { Millimetres, NutFret } from '../base';

/**
 * Distance from the nut to the wire of a fret on a string of speaking length `scale`:
 * x(n) = L (1 - 2^(-n/12)). Fractional frets are places between the wires (slide playing).
 */
export function fretDistance(scale: Millimetres, fret: NutFret): Millimetres {
  return scale * (1 - 2 ** (-fret / 12));
}

/**
 * Where a fingertip presses for a fret: three quarters of the way from the wire before it to its
 * own wire. Fret 0 is the nut itself. All hand spans and travel are measured between such points.
 */
export function pressPoint(scale: Millimetres, fret: NutFret): Millimetres {
  if (fret <= 0) return 0;
  const before = fretDistance(scale, fret - 1);
  return before + 0.75 * (fretDistance(scale, fret) - before);
}

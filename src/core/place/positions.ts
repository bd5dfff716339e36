import type { Midi } from '../base';
import { fretsLeft, nutOf, openPitch, stringNumbers, type Setup } from '../instrument';
import type { PlaceOnNeck } from './types';

/** Every place of a pitch in a set-up, thin string to thick; frets from the capo and from the nut. */
export function positionsOf(setup: Setup, pitch: Midi): PlaceOnNeck[] {
  const places: PlaceOnNeck[] = [];
  for (const string of stringNumbers(setup).reverse()) {
    const fret = pitch - openPitch(setup, string);
    if (Number.isInteger(fret) && fret >= 0 && fret <= fretsLeft(setup, string)) places.push({ string, fret, fretFromNut: fret + nutOf(setup, string), open: fret === 0 });
  }
  return places;
}

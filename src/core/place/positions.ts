import type { Midi, StringNumber } from '../base';
import { fretsLeft, HARMONIC_NODES, nutOf, openPitch, stringNumbers, type Setup } from '../instrument';
import type { PlaceOnNeck } from './types';

/** Every place of a pitch in a set-up, thin string to thick; frets from the capo and from the nut. */
export function positionsOf(setup: Setup, pitch: Midi): PlaceOnNeck[] {
  const places: PlaceOnNeck[] = [];
  for (const string of stringNumbers(setup).reverse()) {
    const fret = pitch - openPitch(setup, string);
    if (Number.isInteger(fret) && fret >= 0 && fret <= fretsLeft(setup, string))
      places.push({ string, fret, fretFromNut: fret + nutOf(setup, string), open: fret === 0 });
  }
  return places;
}

/**
 * Every place where a pitch sounds as a natural harmonic: `fret` is the one it is touched over, `node` the exact
 * place.
 */
export function harmonicsOf(setup: Setup, pitch: Midi): PlaceOnNeck[] {
  return stringNumbers(setup)
    .reverse()
    .flatMap((string: StringNumber) =>
      HARMONIC_NODES.filter(
        (node) =>
          openPitch(setup, string) + node.semitones === pitch && Math.round(node.fret) <= fretsLeft(setup, string),
      ).map((node) => ({
        string,
        fret: Math.round(node.fret),
        fretFromNut: Math.round(node.fret) + nutOf(setup, string),
        open: false,
        node: node.fret,
      })),
    );
}

import type { Cents, Midi, Millimetres, NutFret, StringNumber } from '../base';
import {
  fretDistance,
  lengthOf,
  stiffness,
  tensionOf,
  unitWeight,
  type Instrument,
  type StringMake,
} from '../instrument';
import { frequency } from '../pitch';

/**
 * How far a capo pushes a string down behind its fret on a middling neck: behind the wire (less near the nut, whose
 * slots hold the string low), and down to it, for the strings lie higher further up.
 */
const pressOf = (fret: NutFret): Millimetres => 1.1 * Math.min(1, 0.55 + 0.15 * fret) + ACTION_A_FRET * fret;
/** Millimetres the strings rise above the frets, a fret. */
const ACTION_A_FRET: Millimetres = 0.19;
/** Wound nylon without a stated weight is taken to bear this. */
const USUAL_NEWTONS = 68;

/**
 * By how much a capo presses a string sharp: pushed down by h at a distance a from the nut and b
 * from the bridge it grows longer by h²/2 (1/a + 1/b), its tension by EA dl / L, its pitch by 600
 * log2 of the tension's growth. A plausible figure for the simulated instrument; real capos and
 * frets differ, which is what the tuner log is for.
 */
export function capoSharpening(
  instrument: Instrument,
  string: StringNumber,
  open: Midi,
  fret: NutFret,
  pressMm: Millimetres = pressOf(fret),
): Cents {
  const make: StringMake | undefined = instrument.strings[instrument.strings.length - string];
  if (!make || fret <= 0) return 0;
  const length = lengthOf(instrument, string);
  const mu = unitWeight(make);
  const tension = mu.ok ? tensionOf(mu.value, length, frequency(open)) : USUAL_NEWTONS;
  const a = (fretDistance(length, fret) + fretDistance(length, fret - 1)) / 2;
  const longer = ((pressMm * pressMm) / 2) * (1 / a + 1 / (length - a));
  return 600 * Math.log2(1 + (stiffness(make) * longer) / length / tension);
}

import { fail, ok, type Midi, type Result } from '../base';
import { fretsLeft, openPitch, shapeShift, stringNumbers, type Setup } from '../instrument';
import { classesOf, parseChord } from './chords';

/** Frets looked at for a grip near the nut or capo. */
const GRIP_FRETS = 4;

/**
 * The sounding tones of a chord named by its shape (what the grip is called in standard tuning
 * without capo), as a grip near the nut or capo would have them: root on the thickest string that
 * has it within four frets, and on every thinner string the lowest chord tone there. Pitches low
 * to high; whether a hand can hold them is for placement to say.
 */
export function gripTones(symbol: string, setup: Setup): Result<Midi[]> {
  const chord = parseChord(symbol);
  if (!chord.ok) return chord;
  const shift = shapeShift(setup);
  const tonesOfShape = classesOf(chord.value).map((pc) => (((pc + shift) % 12) + 12) % 12);
  const reach = Math.min(GRIP_FRETS, fretsLeft(setup));
  const toneOn = (string: number, wanted: readonly number[]): Midi | null => {
    for (let fret = 0; fret <= reach; fret++) {
      const pitch = openPitch(setup, string) + fret;
      if (wanted.includes(pitch % 12)) return pitch;
    }
    return null;
  };
  const [root] = tonesOfShape;
  const tones: Midi[] = [];
  for (const string of stringNumbers(setup)) {
    // Above the root a fifth or another root stands firmer than a third.
    const firm = tones.length === 1 ? toneOn(string, [tonesOfShape[0] ?? -1, tonesOfShape[2] ?? -1]) : null;
    const tone = firm ?? toneOn(string, tones.length === 0 && root !== undefined ? [root] : tonesOfShape);
    if (tone !== null && !tones.includes(tone)) tones.push(tone);
  }
  return tones.length > 1
    ? ok(tones)
    : fail('no-grip', `${symbol} has no grip within ${reach} frets of the nut in this set-up.`, symbol);
}

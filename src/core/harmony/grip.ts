import { fail, ok, type Midi, type Result } from '../base';
import { fretsLeft, openPitch, shapeShift, stringNumbers, type Setup } from '../instrument';
import { chordName, classesOf, parseChord, shiftChord } from './chords';
import { chordCalled } from './frames';

/** A chord as called: its tones low to high, what it sounds as, and what had to be left out of it. */
export interface GripTones {
  readonly pitches: readonly Midi[];
  readonly sounds: string;
  readonly left: readonly string[];
}

/** Frets looked at for a power chord near the nut or capo. */
const GRIP_FRETS = 4;
const FAR_FRETS = 11;
/** Thick strings a power chord is rooted on where it can be. */
const ROOT_STRINGS = 2;

/** What was found for a set-up, by the symbol: the call line asks again at every key. */
const known = new WeakMap<Setup, Map<string, Result<GripTones>>>();

/**
 * The sounding tones of a chord named by its shape (what the grip is called in standard tuning without capo; by what
 * sounds where strings are tuned unlike each other). They hold every tone that names the chord, its bass lowest;
 * where no hand holds them all the fifth goes first, and `left` says so. Whether a hand comes there in time is for
 * placement to say. The fault names the symbol.
 */
export function gripTones(symbol: string, setup: Setup): Result<GripTones> {
  let found = known.get(setup);
  if (!found) known.set(setup, (found = new Map()));
  let tones = found.get(symbol);
  if (!tones) found.set(symbol, (tones = tonesOf(symbol, setup)));
  return tones;
}

function tonesOf(symbol: string, setup: Setup): Result<GripTones> {
  const shape = parseChord(symbol);
  if (!shape.ok) return shape;
  const sounding = shiftChord(shape.value, shapeShift(setup), null);
  const sounds = chordName(sounding);
  if (shape.value.kind === '5' && !shape.value.bass) {
    const pitches = powerTones(classesOf(sounding), setup);
    return pitches.length > 1
      ? ok({ pitches, sounds, left: [] })
      : fail('no-grip', `${symbol} has no grip within ${GRIP_FRETS} frets of the nut in this set-up.`, symbol);
  }
  const called = chordCalled(sounding, setup);
  return called.ok
    ? ok({ ...called.value, sounds })
    : fail(called.error.rule, `${symbol}: ${called.error.words}`, symbol);
}

/** Root, fifth and octave, from a thick string that has the root near the nut, else from the thickest at all. */
function powerTones([root = 0, fifth = 7]: readonly number[], setup: Setup): Midi[] {
  const strings = stringNumbers(setup);
  const rootOn = (string: number, reach: number): Midi | undefined =>
    lowest(setup, string, Math.min(reach, fretsLeft(setup, string)), [root]);
  const from =
    strings.slice(0, ROOT_STRINGS).find((string) => rootOn(string, GRIP_FRETS) !== undefined) ??
    strings.find((string) => rootOn(string, FAR_FRETS) !== undefined);
  const first = from === undefined ? undefined : rootOn(from, FAR_FRETS);
  if (from === undefined || first === undefined) return [];
  const tones: Midi[] = [first];
  const reach = first - openPitch(setup, from) + GRIP_FRETS;
  for (const string of strings.filter((one) => one < from)) {
    const pitch = lowest(setup, string, reach, tones.length === 1 ? [fifth, root] : [root, fifth], tones.at(-1));
    if (pitch !== undefined && tones.length < 3) tones.push(pitch);
  }
  return tones;
}

/** The lowest pitch of a string within so many frets that is one of some classes, above `over`. */
function lowest(
  setup: Setup,
  string: number,
  reach: number,
  classes: readonly number[],
  over: Midi = -1,
): Midi | undefined {
  const open = openPitch(setup, string);
  return Array.from({ length: reach + 1 }, (_, fret) => open + fret).find(
    (pitch) => pitch > over && classes.includes(pitch % 12),
  );
}

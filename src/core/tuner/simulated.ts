import { fail, ok, type Cents, type Hertz, type NutFret, type Result, type Seconds, type StringNumber } from '../base';
import { nutOf, stringNumbers, type Setup } from '../instrument';
import { frequency } from '../pitch';
import { seeded, StringVoice } from '../synth';
import { capoSharpening } from './sharpening';

/** One string of the simulated instrument. Times are seconds on the caller's clock. */
export interface SimulatedString {
  readonly string: StringNumber;
  /** Where the peg stands, in cents from the string's open target. */
  readonly peg: Cents;
  /** Part of the last turns up that the string gives back as it settles, and when that began. */
  readonly settling: Cents;
  readonly since: Seconds;
  /** How sharp it sounds stopped at the 12th fret, against its harmonic there: its saddle is a little too near. */
  readonly octave: Cents;
}

/**
 * A simulated instrument that ships with the program, for rooms without a microphone and for
 * tests: strings that start out of tune, pegs to turn, a capo that presses strings sharp, strings
 * that settle flat after they were raised and creep a little as they warm. A value: every change
 * gives a new one.
 */
export interface SimulatedInstrument {
  readonly setup: Setup;
  readonly a4: Hertz;
  readonly strings: readonly SimulatedString[];
  /** False while the capo lies on the headstock. */
  readonly capoOn: boolean;
}

/** Share of a raise that is given back, over this time; creep of an old string a minute. */
const GIVES_BACK = 0.08;
const SETTLES: Seconds = 20;
const CREEP: Cents = 0.15;
/** How far from the target the strings start. */
const OUT: Cents = 34;

/** A simulated instrument, out of tune by a seed. */
export function simulate(setup: Setup, a4: Hertz, seed: number, now: Seconds): SimulatedInstrument {
  const random = seeded(seed);
  const strings = stringNumbers(setup).map((string): SimulatedString => {
    const off = random() * OUT;
    // Never in tune from the start, so that there is something to do.
    return { string, peg: off + Math.sign(off) * 6, settling: 0, since: now, octave: 6 + random() * 4 };
  });
  return { setup, a4, strings, capoOn: setup.capos.length > 0 };
}

/**
 * Turns a peg by cents, up above 0; at most a whole tone at once, and never over a whole tone above the target: it
 * would snap.
 */
export function turnPeg(
  instrument: SimulatedInstrument,
  string: StringNumber,
  by: Cents,
  now: Seconds,
): Result<SimulatedInstrument> {
  const before = instrument.strings.find((one) => one.string === string);
  if (!before) return fail('no-string', `There is no string ${string} on it.`, 'string');
  if (!Number.isFinite(by) || Math.abs(by) > 200)
    return fail('far-turn', 'Turn a peg by at most a whole tone at once.', 'cents');
  const peg = pegNow(before, now) + by;
  if (peg > 200)
    return fail(
      'would-snap',
      `String ${string} would go over a whole tone sharp: a real one could snap. Slacken it.`,
      'cents',
    );
  const left = settlingNow(before, now);
  const settling = by > 0 ? left + by * GIVES_BACK : 0;
  return ok({
    ...instrument,
    strings: instrument.strings.map((string) =>
      string === before ? { ...string, peg, settling, since: now } : string,
    ),
  });
}

/** Puts the capo on or takes it off. */
export const setCapo = (instrument: SimulatedInstrument, on: boolean): SimulatedInstrument => ({
  ...instrument,
  capoOn: on && instrument.setup.capos.length > 0,
});

/** The same instrument with other capos: pegs stay where they were turned to. */
export const withCapos = (instrument: SimulatedInstrument, capos: Setup['capos'], on: boolean): SimulatedInstrument =>
  setCapo({ ...instrument, setup: { ...instrument.setup, capos } }, on);

const settlingNow = (string: SimulatedString, now: Seconds): Cents =>
  string.settling * Math.exp(-Math.max(0, now - string.since) / SETTLES);

/** Where the peg stands after what was given back and crept since it was turned. */
const pegNow = (string: SimulatedString, now: Seconds): Cents =>
  string.peg - (string.settling - settlingNow(string, now)) - (CREEP * Math.max(0, now - string.since)) / 60;

/** How a string is sounded: as it lies, or at the 12th fret without capo, touched or stopped. */
export type Sounding = 'open' | 'harmonic12' | 'stopped12';

/** What a string sounds now: its target, where the peg stands, and what capo or fret add. */
export function soundsNow(
  instrument: SimulatedInstrument,
  string: StringNumber,
  now: Seconds,
  how: Sounding = 'open',
): { readonly midi: number; readonly cents: Cents; readonly hz: Hertz } {
  const { setup, a4 } = instrument;
  const state = instrument.strings.find((one) => one.string === string);
  const open = setup.open[setup.open.length - string] ?? 0;
  if (how !== 'open') {
    const cents = (state ? pegNow(state, now) : 0) + (how === 'stopped12' ? (state?.octave ?? 0) : 0);
    return { midi: open + 12, cents, hz: frequency(open + 12, cents, a4) };
  }
  const fret: NutFret = instrument.capoOn ? nutOf(setup, string) : 0;
  // The saddle's error grows with the fret the capo lies on.
  const saddle = ((state?.octave ?? 0) * fret) / 12;
  const cents = (state ? pegNow(state, now) : 0) + capoSharpening(setup.instrument, string, open, fret) + saddle;
  return { midi: open + fret, cents, hz: frequency(open + fret, cents, a4) };
}

/** Sounds a string at a frequency: mono samples, -1 to 1, deterministic for a seed. */
export function renderPluck(hz: Hertz, seconds: Seconds, rate: number, seed = 1): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rate));
  const midi = 69 + 12 * Math.log2(hz / 440);
  const voice = new StringVoice(rate, Math.min(midi, 28));
  voice.pluck(midi, 0.85, seeded(seed));
  voice.render(out, 0, out.length, 0.8);
  return out;
}

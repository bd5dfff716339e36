import type { Cents } from '../base';
import { frequency } from '../pitch';
import type { PlayedNote } from './played';
import { seeded } from './render';

/**
 * A take as from a microphone: strings summed from their partials, which share nothing with the
 * plucked-string loop, through an amplifier and a room, with noise and drums. It is what the ear is
 * tried on, and what the demo's clips are made of.
 */
export interface TakeOptions {
  readonly rate: number;
  readonly seconds: number;
  readonly seed: number;
  /** How far the instruments are tuned from A 440. */
  readonly cents: Cents;
  /** How hard the amplifier is driven: 0 clean, 3 crunching, 12 heavy. */
  readonly drive: number;
  /** Drums against the strings: 1 is equally loud, 0 none. With the beats they follow, in seconds. */
  readonly drums: number;
  readonly beats: readonly number[];
  /** Share of what comes back from the room. */
  readonly room: number;
  /** Hiss and mains hum, as shares of full scale. */
  readonly hiss: number;
  readonly hum: number;
  /** Where the string is plucked, as a share of its length, and how stiff it is: B of a string at E2. */
  readonly point: number;
  readonly stiffness: number;
}

export const TAKE: TakeOptions = {
  rate: 44_100,
  seconds: 10,
  seed: 1,
  cents: 0,
  drive: 0,
  drums: 0,
  beats: [],
  room: 0.12,
  hiss: 0.0006,
  hum: 0.0008,
  point: 0.12,
  stiffness: 0.00016,
};

/** Samples between looks at a moving pitch. */
const BLOCK = 64;
const PARTIALS = 36;

/** Renders a take in mono, peak at about 0.8. Deterministic for a seed. */
export function renderTake(notes: readonly PlayedNote[], given: Partial<TakeOptions>): Float32Array {
  const options = { ...TAKE, ...given };
  const { rate } = options;
  const random = seeded(options.seed);
  const dry = new Float32Array(Math.ceil(options.seconds * rate));
  for (const note of notes) addString(dry, note, options, random);
  amplified(dry, options);
  addRoom(dry, options, random);
  const loud = rms(dry);
  if (options.drums > 0) {
    const drums = drumTrack(dry.length, options, random);
    const share = (options.drums * loud) / Math.max(1e-9, rms(drums));
    for (let i = 0; i < dry.length; i++) dry[i] = (dry[i] as number) + share * (drums[i] as number);
  }
  let peak = 0;
  for (const v of dry) peak = Math.max(peak, Math.abs(v));
  const scale = peak > 0 ? 0.8 / peak : 1;
  const mains = (2 * Math.PI * 50) / rate;
  for (let i = 0; i < dry.length; i++) {
    const hum = Math.sin(mains * i) + 0.6 * Math.sin(3 * mains * i) + 0.3 * Math.sin(5 * mains * i);
    dry[i] = (dry[i] as number) * scale + options.hiss * random() + options.hum * hum;
  }
  return dry;
}

function rms(samples: Float32Array): number {
  let sum = 0;
  let count = 0;
  for (const v of samples) if (Math.abs(v) > 1e-4) [sum, count] = [sum + v * v, count + 1];
  return Math.sqrt(sum / Math.max(1, count));
}

/**
 * One string sounding once: partials f_n = n f sqrt(1 + B n²), each in two planes of swing a little apart, low ones
 * of low strings speaking late.
 */
function addString(
  out: Float32Array,
  note: PlayedNote,
  { rate, cents, point, stiffness }: TakeOptions,
  random: () => number,
): void {
  const start = Math.round(note.at * rate);
  const stop = Math.min(out.length, Math.round((note.end + 0.12) * rate));
  const damped = Math.round(note.end * rate);
  const f0 = frequency(note.midi, cents);
  const b = stiffness * (f0 / 82.4) ** 0.6;
  const amps: number[] = [];
  for (let n = 1; n <= PARTIALS && n * f0 * Math.sqrt(1 + b * n * n) < rate * 0.42; n++)
    amps.push(
      (Math.sin(n * Math.PI * point) / n ** (1.35 - 0.35 * note.strength)) * (note.struck ? 1 : 1 / (1 + 0.1 * n)),
    );
  const turns = amps.map((_, index) => ({
    phase: Math.PI * random(),
    slow: Math.PI * random(),
    n: ((index + 1) * Math.sqrt(1 + b * (index + 1) ** 2)) / Math.sqrt(1 + b),
  }));
  // Low strings take a few periods until the lowest partials stand.
  const speak = Math.min(0.035, 1.6 / f0);
  let at = note.from;
  let aim: { to: number; step: number; left: number } | null = null;
  let nextMove = 0;
  const gain = note.strength * (note.struck ? 0.42 : 0.26);
  const seconds = { decay: (0.5 + f0 / 420) / note.sustain, each: 0.16 / note.sustain };
  for (let s = start; s < stop; s += BLOCK) {
    const t = (s - start) / rate;
    const move = note.moves[nextMove];
    if (move && t >= move.at) {
      const blocks = Math.max(1, Math.round((move.over * rate) / BLOCK));
      aim = { to: move.by, step: (move.by - at) / blocks, left: blocks };
      nextMove++;
    }
    if (aim && aim.left > 0) {
      at += aim.step;
      aim.left--;
    }
    const f = f0 * 2 ** (at / 12);
    const fall = s > damped ? Math.exp(-(s - damped) / (0.018 * rate)) : 1;
    const count = Math.min(BLOCK, stop - s);
    for (let k = 0; k < amps.length; k++) {
      const turn = turns[k] as (typeof turns)[number];
      const n = k + 1;
      const rise = 1 - Math.exp(-t / (speak / n + 0.0006));
      const level = gain * (amps[k] as number) * fall * rise;
      const fast = level * Math.exp(-t * (seconds.decay * 1.9 + seconds.each * n));
      const slow = 0.4 * level * Math.exp(-t * (seconds.decay * 0.7 + seconds.each * 0.8 * n));
      if (fast + slow < 2e-5) continue;
      const w = (2 * Math.PI * f * turn.n) / rate;
      const v = w * 1.00025;
      for (let i = 0; i < count; i++)
        out[s + i] = (out[s + i] as number) + fast * Math.sin(turn.phase + w * i) + slow * Math.sin(turn.slow + v * i);
      turn.phase += w * count;
      turn.slow += v * count;
    }
  }
  if (!note.struck) return;
  // The pick, and the wood that answers it.
  let low = 0;
  let band = 0;
  for (let i = 0; i < 0.05 * rate && start + i < out.length; i++) {
    const f = 2 * Math.sin((Math.PI * 190) / rate);
    const t = i / rate;
    low += f * band;
    band += f * (random() * Math.exp(-t * 180) - low - 0.5 * band);
    out[start + i] = (out[start + i] as number) + note.strength * (0.05 * random() * Math.exp(-t * 420) + 0.12 * band);
  }
}

/** A driven amplifier: a soft curve that is not quite even, and a loudspeaker that rounds off above. */
function amplified(samples: Float32Array, { drive, rate }: TakeOptions): void {
  let high = 0;
  let one = 0;
  let two = 0;
  const a = 1 - Math.exp((-2 * Math.PI * 70) / rate);
  const c = 1 - Math.exp((-2 * Math.PI * (drive > 0 ? 4200 : 6500)) / rate);
  for (let i = 0; i < samples.length; i++) {
    const v = samples[i] as number;
    high += a * (v - high);
    const shaped = drive > 0 ? Math.tanh(drive * 2.2 * (v - 0.7 * high) + 0.12) - Math.tanh(0.12) : v;
    one += c * (shaped - one);
    two += c * (one - two);
    samples[i] = two;
  }
}

/** Some early reflections and a short tail of combs. */
function addRoom(samples: Float32Array, { room, rate }: TakeOptions, random: () => number): void {
  if (room <= 0) return;
  const wet = new Float32Array(samples.length);
  for (const [seconds, gain] of [
    [0.0117, 0.5],
    [0.0191, -0.4],
    [0.0293, 0.3],
  ] as const) {
    const d = Math.round(seconds * rate);
    for (let i = d; i < samples.length; i++) wet[i] = (wet[i] as number) + gain * (samples[i - d] as number);
  }
  for (const seconds of [0.0297, 0.0371, 0.0411, 0.0437]) {
    const d = Math.round((seconds + 0.0005 * random()) * rate);
    const comb = new Float32Array(samples.length);
    for (let i = d; i < samples.length; i++) {
      comb[i] = (samples[i - d] as number) + 0.72 * (comb[i - d] as number);
      wet[i] = (wet[i] as number) + 0.18 * (comb[i] as number);
    }
  }
  for (let i = 0; i < samples.length; i++) samples[i] = (samples[i] as number) + room * (wet[i] as number);
}

/** Bass drum on one and three, snare on two and four, hi-hat on every half beat. */
function drumTrack(length: number, { rate, beats }: TakeOptions, random: () => number): Float32Array {
  const out = new Float32Array(length);
  const hit = (at: number, seconds: number, voice: (t: number) => number): void => {
    const start = Math.round(at * rate);
    for (let i = 0; i < seconds * rate && start + i < length; i++)
      if (start + i >= 0) out[start + i] = (out[start + i] as number) + voice(i / rate);
  };
  let before = 0;
  const noise = (): number => random();
  beats.forEach((at, i) => {
    const next = beats[i + 1] ?? at + (at - (beats[i - 1] ?? at - 0.5));
    if (i % 2 === 0)
      hit(at, 0.25, (t) => 0.9 * Math.exp(-t * 16) * Math.sin(2 * Math.PI * (52 * t + 1.9 * (1 - Math.exp(-t * 38)))));
    else
      hit(
        at,
        0.2,
        (t) => 0.35 * Math.exp(-t * 22) * noise() + 0.3 * Math.exp(-t * 30) * Math.sin(2 * Math.PI * 188 * t),
      );
    for (const when of [at, (at + next) / 2])
      hit(when, 0.06, (t) => {
        const n = noise();
        const high = n - before;
        before = n;
        return 0.16 * Math.exp(-t * 70) * high;
      });
  });
  return out;
}

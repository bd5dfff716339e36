import type { Setup } from '../instrument';
import type { Riff } from '../score';
import { add, barOf, barStart, cmp, meterAt, mul, quarter, ZERO, type TempoStep } from '../time';
import { actionsOf, noisesOf, type Noise } from './actions';
import { clockOf, playSeconds, type RenderOptions } from './clock';
import { StringVoice } from './string-voice';

export interface Rendered {
  readonly samples: Float32Array;
  readonly rate: number;
  /** Seconds of count-in before the music. A loop repeats from there. */
  readonly lead: number;
  /** Seconds from the start of the music to its end. */
  readonly length: number;
}

export const SPEED_LIMITS = { min: 0.25, max: 1.5 } as const;
/** The longest stretch rendered in one go, in seconds. */
export const RENDER_SECONDS = 900;

/** A repeatable source of noise in [-1, 1) (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return (((t ^ (t >>> 14)) >>> 0) / 2147483648) - 1;
  };
}

/** Voices of second strings are kept apart from the strings themselves. */
const COURSE_KEY = 100;

/**
 * Renders a stretch of a riff: one voice a string, so that a new note on a string stops the old
 * one, as on the instrument. Notes without a place borrow strings of their own. With click and
 * count-in. Deterministic for a seed. Throws RangeError for a speed outside 0.25-1.5 or a stretch
 * longer than RENDER_SECONDS.
 */
export function renderRiff(riff: Riff, setup: Setup, tempo: readonly TempoStep[], options: RenderOptions): Rendered {
  const { rate, speed, from, to } = options;
  if (!(speed >= SPEED_LIMITS.min && speed <= SPEED_LIMITS.max)) throw new RangeError(`speed ${speed} is outside 0.25-1.5`);
  const beat = quarter(4, meterAt(riff.meters, Math.max(0, barOf(riff.meters, from).bar)).unit);
  const lead = options.countIn * playSeconds(tempo, ZERO, beat, speed);
  const length = playSeconds(tempo, from, to, speed, riff.feel);
  if (length + lead > RENDER_SECONDS) throw new RangeError(`a stretch of ${Math.round(length)} s is too long to render at once`);
  const samples = new Float32Array(Math.ceil((lead + length) * rate));
  const random = seeded(options.seed);
  const voices = new Map<number, StringVoice>();
  const voice = (string: number, pitch: number): StringVoice => {
    let v = voices.get(string);
    if (!v) {
      v = new StringVoice(rate, Math.min(pitch, 28, ...setup.open));
      voices.set(string, v);
    }
    return v;
  };
  // A course is two strings under one finger: the second sounds with the first, at its distance.
  const sounds = (string: number, pitch: number): { key: number; sounding: number }[] => {
    const course = setup.instrument.strings[setup.instrument.strings.length - string]?.course;
    return course ? [{ key: string, sounding: pitch }, { key: COURSE_KEY + string, sounding: pitch + course.semitones }] : [{ key: string, sounding: pitch }];
  };
  const clock = clockOf(riff, tempo, options, lead);
  const actions = actionsOf(riff, setup, options, clock, random, { voice, sounds });
  actions.sort((a, b) => a.at - b.at || a.order - b.order);
  let done = 0;
  const gain = setup.instrument.kind === 'bass' ? 0.9 : 0.75;
  const renderTo = (sample: number): void => {
    const until = Math.min(samples.length, sample);
    if (until <= done) return;
    for (const v of voices.values()) v.render(samples, done, until - done, gain);
    done = until;
  };
  for (const action of actions) {
    renderTo(Math.round(action.at * rate));
    action.run();
  }
  renderTo(samples.length);
  for (const noise of noisesOf(riff, options, clock)) addNoise(samples, noise, rate, random);
  addClicks(samples, riff, tempo, options, lead);
  soften(samples);
  return { samples, rate, lead, length };
}

function addClicks(samples: Float32Array, riff: Riff, tempo: readonly TempoStep[], options: RenderOptions, lead: number): void {
  const { from, to, speed, rate } = options;
  const first = Math.max(0, barOf(riff.meters, from).bar);
  const unit = quarter(4, meterAt(riff.meters, first).unit);
  const unitSeconds = playSeconds(tempo, ZERO, unit, speed);
  for (let i = 0; i < options.countIn; i++) tick(samples, lead - (options.countIn - i) * unitSeconds, rate, i === 0);
  if (!options.click) return;
  for (let bar = first; ; bar++) {
    const start = barStart(riff.meters, bar);
    if (cmp(start, to) >= 0) return;
    const meter = meterAt(riff.meters, bar);
    const clicks = riff.click ?? 1;
    const step = clicks < 1 ? mul(quarter(4, meter.unit), 2) : mul(quarter(4, meter.unit), 1, clicks);
    const count = Math.ceil(meter.beats * clicks);
    for (let b = 0; b < count; b++) {
      const at = add(start, mul(step, b));
      if (cmp(at, from) >= 0 && cmp(at, to) < 0) tick(samples, lead + playSeconds(tempo, from, at, speed, riff.feel), rate, b === 0);
    }
  }
}

/** A hit on the body or a scrape along the strings: noise through a moving filter. */
function addNoise(samples: Float32Array, noise: Noise, rate: number, random: () => number): void {
  const start = Math.round(noise.at * rate);
  const count = Math.round(noise.seconds * rate);
  let low = 0;
  let band = 0;
  for (let i = 0; i < count; i++) {
    const s = start + i;
    if (s < 0 || s >= samples.length) continue;
    const share = i / count;
    const hertz = noise.from + (noise.to - noise.from) * share;
    // A state-variable filter (Chamberlin), its band output.
    const f = 2 * Math.sin((Math.PI * Math.min(hertz, rate / 6)) / rate);
    low += f * band;
    const high = random() - low - 0.4 * band;
    band += f * high;
    const envelope = noise.kind === 'hit' ? Math.exp((-i / rate) * 28) : Math.min(1, share * 12) * (1 - share);
    samples[s] = (samples[s] ?? 0) + noise.strength * envelope * band;
  }
}

/** A short stick sound, higher on the first beat. */
function tick(samples: Float32Array, at: number, rate: number, strong: boolean): void {
  const start = Math.round(at * rate);
  const hertz = strong ? 2093 : 1397;
  for (let i = 0; i < 0.03 * rate; i++) {
    const s = start + i;
    if (s < 0 || s >= samples.length) continue;
    const t = i / rate;
    samples[s] = (samples[s] ?? 0) + (strong ? 0.3 : 0.2) * Math.exp(-t * 160) * Math.sin(2 * Math.PI * hertz * t);
  }
}

/** Keeps the sum of strings within -1 and 1 without hard edges. */
function soften(samples: Float32Array): void {
  for (let i = 0; i < samples.length; i++) samples[i] = Math.tanh(samples[i] ?? 0);
}


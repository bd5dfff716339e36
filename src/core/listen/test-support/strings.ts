import { StringVoice } from '../../synth';

/** Strings to listen to, for tests and benchmarks: silence first, then one stroke, with noise at will. */

export const LEAD_SECONDS = 0.2;

/**
 * A stiff string by its partials, f_n = n f sqrt(1 + B n²) / sqrt(1 + B), so that `hz` is the lowest; nothing shared
 * with the synth.
 */
export function stiffString(
  hz: number,
  stiffness: number,
  seconds: number,
  rate: number,
  random: () => number,
): Float32Array {
  const lead = Math.round(LEAD_SECONDS * rate);
  const count = Math.round(seconds * rate);
  const out = new Float32Array(lead + count);
  for (let n = 1; n <= 30; n++) {
    const f = (n * hz * Math.sqrt(1 + stiffness * n * n)) / Math.sqrt(1 + stiffness);
    if (f > rate * 0.45) break;
    const keep = Math.exp(-(0.8 + hz / 300 + n * 0.25) / rate);
    const phase = random() * Math.PI;
    let gain = (0.4 / n) * Math.abs(Math.sin(n * Math.PI * 0.18));
    for (let i = 0; i < count; i++) {
      out[lead + i] = (out[lead + i] as number) + gain * Math.sin((2 * Math.PI * f * i) / rate + phase);
      gain *= keep;
    }
  }
  return out;
}

/** The synth's own string. */
export function pluckedString(midi: number, seconds: number, rate: number, random: () => number): Float32Array {
  const lead = Math.round(LEAD_SECONDS * rate);
  const out = new Float32Array(lead + Math.round(seconds * rate));
  const voice = new StringVoice(rate, Math.min(20, midi));
  voice.pluck(midi, 0.85, random);
  voice.render(out, lead, out.length - lead, 0.75);
  return out;
}

/** Adds white noise so that the first half second of the stroke stands `db` above it. */
export function withNoise(samples: Float32Array, db: number, rate: number, random: () => number): Float32Array {
  const from = Math.round(LEAD_SECONDS * rate);
  const to = Math.min(samples.length, from + Math.round(0.5 * rate));
  let energy = 0;
  for (let i = from; i < to; i++) energy += (samples[i] as number) ** 2;
  const peak = Math.sqrt(energy / (to - from)) * 10 ** (-db / 20) * Math.sqrt(3);
  for (let i = 0; i < samples.length; i++) samples[i] = (samples[i] as number) + peak * random();
  return samples;
}

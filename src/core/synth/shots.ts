import type { Seconds } from '../base';
import type { Noise } from './actions';

/** A short sound that is made at once and laid into a render where it falls. */
export interface Shot {
  /** Its first sample, counted from the start of the render. */
  readonly at: number;
  readonly samples: Float32Array;
}

/** A short stick sound, higher on the first beat. */
export function tick(at: Seconds, rate: number, strong: boolean): Shot {
  const hertz = strong ? 2093 : 1397;
  const samples = Float32Array.from(
    { length: Math.ceil(0.03 * rate) },
    (_, i) => (strong ? 0.3 : 0.2) * Math.exp((-i / rate) * 160) * Math.sin((2 * Math.PI * hertz * i) / rate),
  );
  return { at: Math.round(at * rate), samples };
}

/** A hit on the body or a scrape along the strings: noise through a moving filter. */
export function noiseShot(noise: Noise, rate: number, random: () => number): Shot {
  const count = Math.round(noise.seconds * rate);
  const samples = new Float32Array(count);
  let low = 0;
  let band = 0;
  for (let i = 0; i < count; i++) {
    const share = i / count;
    const hertz = noise.from + (noise.to - noise.from) * share;
    // A state-variable filter (Chamberlin), its band output.
    const f = 2 * Math.sin((Math.PI * Math.min(hertz, rate / 6)) / rate);
    low += f * band;
    const high = random() - low - 0.4 * band;
    band += f * high;
    const envelope = noise.kind === 'hit' ? Math.exp((-i / rate) * 28) : Math.min(1, share * 12) * (1 - share);
    samples[i] = noise.strength * envelope * band;
  }
  return { at: Math.round(noise.at * rate), samples };
}

/** Adds what falls into a block that begins at sample `begin` of the render. */
export function layShots(out: Float32Array, begin: number, shots: readonly Shot[]): void {
  for (const { at, samples } of shots) {
    const first = Math.max(0, begin - at);
    const last = Math.min(samples.length, begin + out.length - at);
    for (let i = first; i < last; i++) out[at + i - begin] = (out[at + i - begin] as number) + (samples[i] as number);
  }
}

/** Keeps a sum of sounds within -1 and 1 without hard edges. */
export function soften(samples: Float32Array): void {
  for (let i = 0; i < samples.length; i++) samples[i] = Math.tanh(samples[i] as number);
}

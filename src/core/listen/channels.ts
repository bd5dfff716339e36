/** Which of what is on two channels is heard. */
export type Channels = 'both' | 'left' | 'right' | 'middle' | 'sides';
/** A band around one player. */
export type Band = 'all' | 'guitar' | 'bass';

/**
 * One channel out of what a recording has. Sides are what the two do not share. Of more than two, the first two
 * count, the others are added to both.
 */
export function heardChannel(channels: readonly Float32Array[], which: Channels): Float32Array {
  const [first, second] = channels;
  if (!first) return new Float32Array(0);
  if (!second) return which === 'sides' ? new Float32Array(first.length) : first.slice();
  const out = new Float32Array(first.length);
  const others = channels.slice(2);
  for (let i = 0; i < out.length; i++) {
    const more = others.reduce((s, samples) => s + (samples[i] ?? 0), 0) / 2;
    const l = (first[i] as number) + more;
    const r = (second[i] as number) + more;
    out[i] = which === 'left' ? l : which === 'right' ? r : which === 'sides' ? (l - r) / 2 : (l + r) / 2;
  }
  return out;
}

/** Limits of a band in hertz. */
export const BANDS: Readonly<Record<Exclude<Band, 'all'>, readonly [number, number]>> = {
  guitar: [75, 5_000],
  bass: [28, 700],
};

/**
 * Keeps a band: second-order Butterworth high-pass and low-pass, forward and back so that nothing is displaced in
 * time.
 */
export function banded(samples: Float32Array, rate: number, band: Band): Float32Array {
  if (band === 'all') return samples.slice();
  const [low, high] = BANDS[band];
  const once = (input: Float32Array): Float32Array =>
    biquad(biquad(input, rate, low, true), rate, Math.min(high, rate * 0.45), false);
  return once(once(samples).reverse()).reverse();
}

function biquad(samples: Float32Array, rate: number, hz: number, high: boolean): Float32Array {
  const k = Math.tan((Math.PI * hz) / rate);
  const norm = 1 / (1 + Math.SQRT2 * k + k * k);
  const b = high ? norm : k * k * norm;
  const sign = high ? -2 : 2;
  const a1 = 2 * (k * k - 1) * norm;
  const a2 = (1 - Math.SQRT2 * k + k * k) * norm;
  const out = new Float32Array(samples.length);
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  for (let i = 0; i < samples.length; i++) {
    const v = samples[i] as number;
    const y = b * (v + sign * x1 + x2) - a1 * y1 - a2 * y2;
    [x2, x1, y2, y1] = [x1, v, y1, y];
    out[i] = y;
  }
  return out;
}

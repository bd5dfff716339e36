/** Sound at a rate that suits what is sought in it. */
export interface Sound {
  readonly x: Float32Array;
  readonly rate: number;
}

/**
 * Every n-th sample after a windowed-sinc low-pass at 0.42 of the new rate, so that the new rate is
 * the lowest not under `target`. Sound that is slower already is given back as it is.
 */
export function decimated(samples: Float32Array, rate: number, target: number): Sound {
  const factor = Math.max(1, Math.floor(rate / target));
  if (factor === 1) return { x: samples, rate };
  const half = 6 * factor;
  const cut = 0.42 / factor;
  const taps = Float32Array.from({ length: 2 * half + 1 }, (_, i) => {
    const t = i - half;
    const sinc = t === 0 ? 2 * cut : Math.sin(2 * Math.PI * cut * t) / (Math.PI * t);
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * t) / (half + 1)));
  });
  const out = new Float32Array(Math.ceil(samples.length / factor));
  const at = (i: number): number => (i >= 0 && i < samples.length ? (samples[i] as number) : 0);
  for (let o = 0; o < out.length; o++) {
    const middle = o * factor;
    let sum = (taps[half] as number) * at(middle);
    // The filter is the same on both sides.
    if (middle < half || middle + half >= samples.length)
      for (let k = 1; k <= half; k++) sum += (taps[half + k] as number) * (at(middle - k) + at(middle + k));
    else
      for (let k = 1; k <= half; k++)
        sum += (taps[half + k] as number) * ((samples[middle - k] as number) + (samples[middle + k] as number));
    out[o] = sum;
  }
  return { x: out, rate: rate / factor };
}

/**
 * The pitch of a stretch of sound as a fractional MIDI number, by the lag of best autocorrelation,
 * refined over as many periods as fit: knows nothing of how the sound was made. Seconds from and to.
 */
export function hearTone(samples: Float32Array, rate: number, from: number, to: number): number {
  const start = Math.round(from * rate);
  const length = Math.round((to - from) * rate);
  const match = (lag: number): number => {
    const count = length - lag;
    let sum = 0;
    let a = 0;
    let b = 0;
    for (let i = 0; i < count; i++) {
      const x = samples[start + i] ?? 0;
      const y = samples[start + i + lag] ?? 0;
      sum += x * y;
      a += x * x;
      b += y * y;
    }
    return sum / Math.sqrt(a * b || 1);
  };
  const least = Math.round(rate / 1200);
  const most = Math.min(length / 2, rate / 28);
  const matches = Array.from({ length: Math.max(0, Math.ceil(most) - least) }, (_, i) => match(least + i));
  const top = matches.reduce((a, b) => Math.max(a, b), -Infinity);
  // The first period that matches nearly as well as any: not a multiple of it.
  const best =
    least + matches.findIndex((m, i) => m > 0.95 * top && m >= (matches[i - 1] ?? 0) && m >= (matches[i + 1] ?? 0));
  // Twice as many periods each time, looked for only where the last figure puts them: no period is lost on the way.
  const near = (around: number): number => {
    let at = Math.round(around);
    let peak = -Infinity;
    for (let l = Math.round(around) - 4; l <= Math.round(around) + 4; l++) {
      const m = match(l);
      if (m > peak) [peak, at] = [m, l];
    }
    const [x, y, z] = [match(at - 1), match(at), match(at + 1)];
    return at + (x - z) / (2 * (x - 2 * y + z) || 1);
  };
  let period = near(best);
  if (!(period >= least)) throw new RangeError('nothing periodic sounds there');
  for (let periods = 2; periods * period < length / 2; periods *= 2) period = near(period * periods) / periods;
  return 69 + 12 * Math.log2(rate / period / 440);
}

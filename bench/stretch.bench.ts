import { onsetsIn, stretched } from '../src/core/listen';
import { seeded } from '../src/core/synth';

/**
 * The drawn out loop: pitch before and after by an estimator that is no part of it, on strings made
 * by their partials from B0 up; where strokes come to stand; and how fast it is.
 */
const RATE = 44_100;

/** A stiff string struck at a time, by its partials. */
function string(hz: number, seconds: number, random: () => number): Float32Array {
  const out = new Float32Array(Math.round(seconds * RATE));
  for (let n = 1; n <= 24; n++) {
    const f = n * hz * Math.sqrt((1 + 0.0002 * n * n) / 1.0002);
    if (f > 12_000) break;
    const phase = Math.PI * random();
    for (let i = 0; i < out.length; i++)
      out[i] =
        (out[i] as number) +
        (0.3 / n) * Math.exp((-i / RATE) * (1.2 + 0.25 * n)) * Math.sin((2 * Math.PI * f * i) / RATE + phase);
  }
  return out;
}

/** Frequency of the partial nearest to `near`, by the turn of its phase between two Hann-windowed looks. */
function partial(samples: Float32Array, near: number, from: number, seconds: number): number {
  const length = Math.round(seconds * RATE);
  const apart = Math.round(length / 4);
  const look = (start: number): readonly [number, number] => {
    let [re, im] = [0, 0];
    for (let i = 0; i < length; i++) {
      const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length);
      re += w * (samples[start + i] ?? 0) * Math.cos((2 * Math.PI * near * (start + i)) / RATE);
      im -= w * (samples[start + i] ?? 0) * Math.sin((2 * Math.PI * near * (start + i)) / RATE);
    }
    return [re, im];
  };
  const start = Math.round(from * RATE);
  const [a, b] = [look(start), look(start + apart)];
  const turn = Math.atan2(b[1] * a[0] - b[0] * a[1], b[0] * a[0] + b[1] * a[1]);
  return near + (turn * RATE) / (2 * Math.PI * apart);
}

const random = seeded(3);
for (const [speed, semitones] of [
  [0.25, 0],
  [0.5, 0],
  [0.75, 0],
  [1.5, 0],
  [1, 3],
  [0.5, -5],
] as const) {
  const errors: { midi: number; cents: number }[] = [];
  for (let midi = 23; midi <= 81; midi += 2) {
    const hz = 440 * 2 ** ((midi - 69) / 12);
    const samples = string(hz, 2, random);
    const one = stretched(samples, RATE, speed, [], semitones);
    const before = partial(samples, hz, 0.5, 0.5);
    const after = partial(one, hz * 2 ** (semitones / 12), 0.5 / speed, 0.5);
    errors.push({ midi, cents: Math.abs(1200 * Math.log2(after / before) - 100 * semitones) });
  }
  const worst = (of: readonly { cents: number }[]): string => Math.max(...of.map((one) => one.cents)).toFixed(2);
  console.log(
    `at ${speed * 100} %${semitones ? `, ${semitones > 0 ? '+' : ''}${semitones} semitones` : ''}: pitch off by at most ${worst(errors.filter((one) => one.midi >= 40))} cents from E2 up (goal < 1), ${worst(errors.filter((one) => one.midi < 40))} below (goal < 3)`,
  );
}

for (const speed of [0.25, 0.5, 0.75]) {
  const strokes = Array.from({ length: 10 }, (_, i) => 0.3 + 0.37 * i);
  const samples = new Float32Array(Math.round(4.2 * RATE));
  strokes.forEach((at, i) =>
    string(110 * 2 ** ((i % 5) / 12), 0.34, random).forEach((v, index) => {
      const s = Math.round(at * RATE) + index;
      if (s < samples.length) samples[s] = (samples[s] as number) + v * Math.min(1, (0.34 - index / RATE) / 0.08);
    }),
  );
  const began = performance.now();
  const one = stretched(samples, RATE, speed, onsetsIn(samples, RATE));
  const took = (performance.now() - began) / 1000;
  const hearing = onsetsIn(one, RATE);
  const off = strokes
    .map((s) => 1000 * Math.min(...hearing.map((one) => Math.abs(one - s / speed))))
    .sort((a, b) => a - b);
  console.log(
    `at ${speed * 100} %: strokes displaced by ${off[5]?.toFixed(1)} ms, at most ${off.at(-1)?.toFixed(1)} (goal < 10); ${(one.length / RATE / took).toFixed(0)} x real time of what is heard`,
  );
}

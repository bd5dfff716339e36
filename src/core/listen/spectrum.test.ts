import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../synth';
import { decimated, Fft, Spectra } from './index';
import { hann, windowed } from './spectrum';
import { inner, TemplateMaker } from './templates';

/** The sum the transform stands for, at one bin. */
function bin(re: ArrayLike<number>, im: ArrayLike<number> | null, k: number, size: number): [number, number] {
  let [sr, si] = [0, 0];
  for (let i = 0; i < size; i++) {
    const turn = (-2 * Math.PI * ((k * i) % size)) / size;
    const [r, j] = [re[i] ?? 0, im?.[i] ?? 0];
    sr += r * Math.cos(turn) - j * Math.sin(turn);
    si += r * Math.sin(turn) + j * Math.cos(turn);
  }
  return [sr, si];
}
const noise = (seed: number, length: number): Float64Array => {
  const random = seeded(seed);
  return Float64Array.from({ length }, () => random());
};

describe('the transform', () => {
  it.each([2, 4, 8, 16, 32, 64, 128, 512, 1024])('of %i points is the sum it stands for, and comes back', (size) => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), (seed) => {
        const [re, im] = [noise(seed, size), noise(seed + 1, size)];
        const [wasRe, wasIm] = [re.slice(), im.slice()];
        const fft = new Fft(size);
        fft.transform(re, im);
        for (const k of new Set([0, 1, size >> 1, (size * 3) >> 2, (seed * 7) % size, size - 1])) {
          const [r, i] = bin(wasRe, wasIm, k, size);
          expect(re[k]).toBeCloseTo(r, 8);
          expect(im[k]).toBeCloseTo(i, 8);
        }
        fft.transform(re, im, true);
        re.forEach((v, i) => expect(v).toBeCloseTo(wasRe[i] ?? 0, 10));
        im.forEach((v, i) => expect(v).toBeCloseTo(wasIm[i] ?? 0, 10));
      }),
      { numRuns: 8 },
    );
  });

  it('is made for powers of two only, and says so', () => {
    for (const size of [0, 1, 3, 100, 131072, NaN]) expect(() => new Fft(size)).toThrow(/no power of two/);
  });
});

describe('magnitudes of a stretch', () => {
  it('are those of the windowed sound, wherever it lies and however much of it is looked at', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -90, max: 260 }),
        fc.integer({ min: 1, max: 64 }),
        fc.integer({ min: 1, max: 999 }),
        (start, length, seed) => {
          const samples = Float32Array.from(noise(seed, 200));
          const seen = Float64Array.from({ length: 64 }, (_, i) =>
            i < length ? (samples[start + i] ?? 0) * (hann(length)[i] ?? 0) : 0,
          );
          const magnitudes = new Spectra(64).magnitudes(samples, start, length);
          expect(magnitudes).toHaveLength(32);
          for (let k = 0; k < 32; k++) expect(magnitudes[k]).toBeCloseTo(Math.hypot(...bin(seen, null, k, 64)), 8);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('do not depend on what was looked at before', () => {
    const samples = Float32Array.from(noise(5, 400));
    const spectra = new Spectra(128);
    const first = spectra.magnitudes(samples, 30, 90);
    spectra.magnitudes(samples, 200);
    spectra.magnitudes(samples, -500, 20);
    expect(spectra.magnitudes(samples, 30, 90)).toEqual(first);
  });

  it('beside the sound are of silence', () => {
    const out = new Float64Array(8).fill(7);
    for (const start of [-20, 5, 60]) {
      windowed(new Float32Array(5).fill(1), start, hann(8), out);
      expect([...out], `from ${start}`).toEqual(new Array(8).fill(0));
    }
    windowed(new Float32Array(5).fill(1), -2, new Float64Array(8).fill(1), out);
    expect([...out]).toEqual([0, 0, 1, 1, 1, 1, 1, 0]);
  });
});

describe('a sound at a lower rate', () => {
  const tone = (hz: number, rate: number): Float32Array =>
    Float32Array.from({ length: rate }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));

  it('keeps what lies below and loses what would fold down', () => {
    const low = decimated(tone(300, 44_100), 44_100, 8_000);
    expect(low.rate).toBe(8820);
    // Past the ends, where the filter sees silence.
    for (let i = 50; i < low.x.length - 50; i++)
      expect(low.x[i]).toBeCloseTo(Math.sin((2 * Math.PI * 300 * i) / low.rate), 2);
    const high = decimated(tone(6000, 44_100), 44_100, 8_000);
    expect(Math.max(...high.x.subarray(50, -50))).toBeLessThan(0.01);
  });

  it('is the same sound where it is slow already', () => {
    const samples = tone(200, 8_000);
    expect(decimated(samples, 8_000, 11_000).x).toBe(samples);
  });

  it('has as many samples as the time asks, even of a sound shorter than the filter', () => {
    for (const length of [0, 1, 3, 17, 100])
      expect(decimated(new Float32Array(length).fill(1), 48_000, 11_000).x).toHaveLength(Math.ceil(length / 4));
  });
});

describe('a template', () => {
  it('is a cosine about every partial, added up where two meet', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 40, noNaN: true }),
        fc.double({ min: 1, max: 9, noNaN: true }),
        fc.constantFrom('root' as const, 'whole' as const),
        (spacing, lobe, shape) => {
          const { bins, values } = new TemplateMaker(300).made(6, lobe, shape, (n) => ({
            bin: n * spacing,
            level: 1 / n,
          }));
          expect(new Set(bins).size).toBe(bins.length);
          bins.forEach((k, i) => {
            let sum = 0;
            for (let n = 1; n <= 6 && n * spacing <= 300; n++) {
              const wide = lobe * (1 + 0.04 * n);
              if (Math.abs(k - n * spacing) <= wide)
                sum += Math.cos((Math.PI / 2) * ((k - n * spacing) / wide)) ** (shape === 'root' ? 1 : 2) / n;
            }
            expect(values[i]).toBeCloseTo(sum, 9);
          });
          const spectrum = noise(Math.round(spacing * 100), 400);
          expect(inner({ bins, values }, spectrum)).toBeCloseTo(
            [...bins].reduce((sum, k, i) => sum + (spectrum[k] ?? 0) * (values[i] ?? 0), 0),
            9,
          );
        },
      ),
      { numRuns: 40 },
    );
  });

  it('leaves out what lies beyond the end', () => {
    const { bins } = new TemplateMaker(50).made(14, 2, 'root', (n) => ({ bin: n * 20, level: 1 }));
    expect(Math.max(...bins)).toBeLessThan(43);
  });
});

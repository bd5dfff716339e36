import type { Midi, Seconds } from '../base';
import { Fft } from './fft';
import { decimated, type Sound } from './resample';
import { hann, windowed } from './spectrum';

/** Rows to a semitone in the picture. */
export const ROWS_PER_SEMITONE = 3;

export interface PictureWindow {
  readonly from: Seconds;
  readonly to: Seconds;
  readonly columns: number;
  readonly low: Midi;
  readonly high: Midi;
}

/** Sound prepared for pictures: slow enough for long looks. */
export const forPictures = (samples: Float32Array, rate: number): Sound => decimated(samples, rate, 8_000);

/**
 * A picture of sound by time and pitch: each column looks at 90 ms (low notes at twice as much),
 * and what a bin holds is put where its phase says it sounds (reassigned in frequency, Auger and
 * Flandrin 1995), so that notes are thin lines. Row 0 is the lowest; values 0 to 255 over 66 dB.
 */
export function pictureOf(sound: Sound, window: PictureWindow): Uint8ClampedArray {
  const { from, to, columns, low, high } = window;
  const rows = Math.round((high - low) * ROWS_PER_SEMITONE);
  const values = new Float32Array(columns * rows);
  const looks = [2 ** Math.round(Math.log2(0.17 * sound.rate)), 2 ** Math.round(Math.log2(0.075 * sound.rate))];
  const split = 52;
  looks.forEach((size, which) => {
    const fft = new Fft(size);
    const weights = hann(size);
    const re = new Float64Array(size);
    const im = new Float64Array(size);
    const first = Math.max(
      2,
      Math.floor((440 * 2 ** (((which === 0 ? low - 1 : split) - 69) / 12) * size) / sound.rate),
    );
    const lastBin = Math.min(
      size / 2 - 2,
      Math.ceil((440 * 2 ** (((which === 0 ? split : high) + 1 - 69) / 12) * size) / sound.rate),
    );
    for (let c = 0; c < columns; c++) {
      const middle = Math.round((from + ((c + 0.5) * (to - from)) / columns) * sound.rate);
      const start = middle - size / 2;
      // The look and the same one sample later, as real and imaginary part of one transform.
      windowed(sound.x, start, weights, re);
      windowed(sound.x, start + 1, weights, im);
      fft.transform(re, im);
      for (let k = first; k <= lastBin; k++) {
        const j = size - k;
        const ar = ((re[k] as number) + (re[j] as number)) / 2;
        const ai = ((im[k] as number) - (im[j] as number)) / 2;
        const br = ((im[k] as number) + (im[j] as number)) / 2;
        const bi = ((re[j] as number) - (re[k] as number)) / 2;
        const power = ar * ar + ai * ai;
        if (power < 1e-9) continue;
        const turned = Math.atan2(bi * ar - br * ai, br * ar + bi * ai);
        const hz = (turned * sound.rate) / (2 * Math.PI);
        if (Math.abs(hz - (k * sound.rate) / size) > (1.6 * sound.rate) / size || hz <= 0) continue;
        const midi = 69 + 12 * Math.log2(hz / 440);
        if (which === 0 ? midi >= split : midi < split) continue;
        const row = Math.floor((midi - low + 0.5) * ROWS_PER_SEMITONE);
        if (row < 0 || row >= rows) continue;
        values[row * columns + c] = (values[row * columns + c] as number) + power / (size * size);
      }
    }
  });
  const out = new Uint8ClampedArray(values.length);
  for (let i = 0; i < values.length; i++)
    out[i] = Math.max(0, 255 * (1 + (10 * Math.log10((values[i] as number) * 40 + 1e-12)) / 66));
  return out;
}

/**
 * The loudest and the quietest sample of each of `count` even stretches: a waveform to draw, as bytes 0 to 255 about
 * 128.
 */
export function overviewOf(samples: Float32Array, count: number): Uint8Array {
  const out = new Uint8Array(2 * count);
  for (let i = 0; i < count; i++) {
    const from = Math.floor((i * samples.length) / count);
    const to = Math.max(from + 1, Math.floor(((i + 1) * samples.length) / count));
    let low = 0;
    let high = 0;
    for (let k = from; k < to && k < samples.length; k++) {
      const v = samples[k] as number;
      if (v < low) low = v;
      if (v > high) high = v;
    }
    out[2 * i] = Math.round(128 + 127 * Math.max(-1, low));
    out[2 * i + 1] = Math.round(128 + 127 * Math.min(1, high));
  }
  return out;
}

import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { frequency } from '../pitch';
import { makeEvent, makeNote, makePlace, makeRiff, type Riff, type RiffEvent } from '../score';
import { quarter, ZERO } from '../time';
import { renderRiff, seeded, StringVoice, type RenderOptions } from './index';

const RATE = 44_100;
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const tempo = [{ at: ZERO, bpm: 120 }];
const options = (extra: Partial<RenderOptions> = {}): RenderOptions => ({
  rate: RATE,
  speed: 1,
  from: ZERO,
  to: quarter(4),
  click: false,
  countIn: 0,
  seed: 3,
  ...extra,
});

/** Cents between a sound and a frequency, by autocorrelation over many periods: no part of the synth. */
function centsOff(samples: Float32Array, from: number, f0: number): number {
  const periods = Math.max(1, Math.floor(0.3 * f0));
  const expected = (periods * RATE) / f0;
  const width = Math.round(0.3 * RATE);
  const match = (lag: number): number => {
    let sum = 0;
    for (let i = 0; i < width; i++) sum += (samples[from + i] ?? 0) * (samples[from + i + lag] ?? 0);
    return sum;
  };
  let best = Math.round(expected);
  for (let lag = best - 15, top = -Infinity; lag <= Math.round(expected) + 15; lag++) {
    const m = match(lag);
    if (m > top) [top, best] = [m, lag];
  }
  const [a, b, c] = [match(best - 1), match(best), match(best + 1)];
  const lag = best + (a - c) / (2 * (a - 2 * b + c));
  return 1200 * Math.log2((periods * RATE) / lag / f0);
}

const energy = (samples: Float32Array, from: number, to: number): number =>
  samples.subarray(Math.round(from * RATE), Math.round(to * RATE)).reduce((sum, x) => sum + x * x, 0);
const at = (id: string, when: number, string: number, fret: number, extra: Partial<RiffEvent> = {}) =>
  makeEvent(
    id,
    quarter(when),
    quarter(1),
    [
      makeNote(`n${id}`, (setup.open[6 - string] ?? 0) + fret, 'instructor', {
        place: makePlace(string, fret, 'instructor'),
      }),
    ],
    extra,
  );
const riffOf = (...events: Riff['events'][number][]): Riff => makeRiff('r', 'r', { events });

describe('a string', () => {
  it('sounds its pitch within a cent from B0 to C6', () => {
    for (const midi of [23, 28, 33, 40, 47, 52, 59, 64, 71, 76, 84]) {
      const voice = new StringVoice(RATE, 21);
      const out = new Float32Array(RATE);
      voice.pluck(midi, 0.85, seeded(midi));
      voice.render(out, 0, out.length, 1);
      expect(Math.abs(centsOff(out, Math.round(0.1 * RATE), frequency(midi))), `pitch ${midi}`).toBeLessThan(1);
    }
  });

  it('keeps sounding when it is hammered, at the new pitch, without a second attack', () => {
    const voice = new StringVoice(RATE, 38);
    const out = new Float32Array(RATE);
    voice.pluck(52, 0.85, seeded(1));
    voice.render(out, 0, RATE / 4, 1);
    voice.retune(54, 0.004);
    voice.render(out, RATE / 4, (RATE * 3) / 4, 1);
    expect(Math.abs(centsOff(out, Math.round(0.35 * RATE), frequency(54)))).toBeLessThan(2);
  });

  it('falls silent when a finger damps it', () => {
    const voice = new StringVoice(RATE, 38);
    const out = new Float32Array(RATE);
    voice.pluck(45, 0.85, seeded(1));
    voice.render(out, 0, RATE / 4, 1);
    voice.damp();
    voice.render(out, RATE / 4, (RATE * 3) / 4, 1);
    expect(energy(out, 0.3, 1)).toBe(0);
    expect(voice.silent).toBe(true);
  });
});

describe('a riff', () => {
  it('lasts as long as its tempo and speed say, with the count-in before it', () => {
    const riff = riffOf(at('a', 0, 5, 0));
    expect(renderRiff(riff, setup, tempo, options()).length).toBeCloseTo(2, 9);
    const slow = renderRiff(riff, setup, tempo, options({ speed: 0.25, countIn: 4 }));
    expect([slow.length, slow.lead]).toEqual([8, 8]);
    expect(slow.samples.length).toBe(16 * RATE);
    expect(() => renderRiff(riff, setup, tempo, options({ speed: 0.1 }))).toThrow(RangeError);
    expect(() => renderRiff(riff, setup, tempo, options({ to: quarter(40_000) }))).toThrow(RangeError);
  });

  it('starts its notes to the sample and is silent before', () => {
    const { samples } = renderRiff(riffOf(at('a', 1, 5, 0)), setup, tempo, options());
    const first = samples.findIndex((x) => Math.abs(x) > 1e-6);
    expect(first).toBeGreaterThanOrEqual(0.5 * RATE);
    expect(first).toBeLessThan(0.5 * RATE + 500);
  });

  it('stops the old note of a string when a new one is struck, and lets other strings ring', () => {
    const same = renderRiff(
      riffOf(at('a', 0, 5, 0, { letRing: true }), at('b', 1, 5, 7, { letRing: true })),
      setup,
      tempo,
      options(),
    );
    expect(Math.abs(centsOff(same.samples, Math.round(0.7 * RATE), frequency(52)))).toBeLessThan(2);
    const damped = renderRiff(riffOf(at('a', 0, 5, 0)), setup, tempo, options());
    const ringing = renderRiff(riffOf(at('a', 0, 5, 0, { letRing: true })), setup, tempo, options());
    expect(energy(damped.samples, 0.6, 1)).toBeLessThan(1e-6);
    expect(energy(ringing.samples, 0.6, 1)).toBeGreaterThan(0.01);
  });

  it('never passes full scale, and repeats exactly', () => {
    const loud = makeRiff('r', 'r', {
      events: [
        makeEvent(
          'e',
          ZERO,
          quarter(4),
          [1, 2, 3, 4, 5, 6].map((s) =>
            makeNote(`n${s}`, setup.open[6 - s] ?? 0, 'instructor', { place: makePlace(s, 0, 'instructor') }),
          ),
        ),
      ],
    });
    const once = renderRiff(loud, setup, tempo, options({ click: true, countIn: 4 }));
    expect(once.samples.every((x) => Math.abs(x) <= 1)).toBe(true);
    expect(renderRiff(loud, setup, tempo, options({ click: true, countIn: 4 })).samples).toEqual(once.samples);
  });

  it('sounds both strings of a course, and damps both', () => {
    const twelve = must(makeSetup({ instrument: 'guitar-12' })).setup;
    const note = (string: number) =>
      makeRiff('r', 'r', {
        events: [
          makeEvent('e', ZERO, quarter(1), [
            makeNote('n', twelve.open[6 - string] ?? 0, 'instructor', { place: makePlace(string, 0, 'instructor') }),
          ]),
        ],
      });
    const single: typeof twelve = {
      ...twelve,
      instrument: {
        ...twelve.instrument,
        strings: twelve.instrument.strings.map(({ pitch, gaugeMm, kind }) => ({ pitch, gaugeMm, kind })),
      },
    };
    const both = renderRiff(note(6), twelve, tempo, options());
    const one = renderRiff(note(6), single, tempo, options());
    expect(energy(both.samples, 0, 0.4)).toBeGreaterThan(energy(one.samples, 0, 0.4) * 1.1);
    expect(energy(both.samples, 0.6, 1)).toBeLessThan(1e-6);
  });

  it('clicks on every beat when asked', () => {
    const { samples } = renderRiff(riffOf(), setup, tempo, options({ click: true }));
    for (let beat = 0; beat < 4; beat++) {
      expect(energy(samples, beat * 0.5, beat * 0.5 + 0.05)).toBeGreaterThan(0.1);
      expect(energy(samples, beat * 0.5 + 0.2, beat * 0.5 + 0.45)).toBe(0);
    }
  });
});

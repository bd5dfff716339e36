import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { hearTone } from '../listen/test-support/tone';
import { makeEvent, makeNote, makePlace, makeRiff, type Note, type Riff } from '../score';
import { quarter, ZERO } from '../time';
import { renderRiff } from './index';

const RATE = 44_100;
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const tempo = [{ at: ZERO, bpm: 60 }];
const riffOf = (note: Partial<Note>, event: Partial<Riff['events'][number]> = {}): Riff =>
  makeRiff('r', 'r', { events: [makeEvent('e', ZERO, quarter(2), [{ ...makeNote('n', 62, 'instructor', { place: makePlace(3, 7, 'instructor') }), ...note }], event)] });
const sound = (riff: Riff): Float32Array => renderRiff(riff, setup, tempo, { rate: RATE, speed: 1, from: ZERO, to: quarter(2), click: false, countIn: 0, seed: 3 }).samples;
const energy = (samples: Float32Array, from: number, to: number): number => samples.subarray(Math.round(from * RATE), Math.round(to * RATE)).reduce((sum, x) => sum + x * x, 0);

describe('techniques in sound', () => {
  it('a bend begins at its note and ends where it is bent to, within two cents', () => {
    const bent = sound(riffOf({ tech: { bend: 200 } }));
    expect(Math.abs(hearTone(bent, RATE, 0.02, 0.14) - 62)).toBeLessThan(0.05);
    expect(Math.abs(hearTone(bent, RATE, 0.6, 1) - 64)).toBeLessThan(0.02);
  });
  it('a trill goes to and fro between its two notes', () => {
    const trilled = sound(riffOf({ tech: { trill: 2 } }));
    const heard = Array.from({ length: 6 }, (_, i) => Math.round(hearTone(trilled, RATE, 0.085 * i + 0.02, 0.085 * (i + 1) - 0.005)));
    expect(heard).toEqual([62, 64, 62, 64, 62, 64]);
  });
  it('a dead note is a click: gone after a tenth of a second', () => {
    const dead = sound(riffOf({ tech: { dead: true } }));
    expect(energy(dead, 0, 0.05)).toBeGreaterThan(0);
    expect(energy(dead, 0.1, 2)).toBeLessThan(energy(dead, 0, 0.05) * 1e-4);
  });
  it('a note beside the fret sounds beside it', () => {
    const flat = sound(riffOf({ pitch: { midi: 62, cents: -40, by: 'instructor' } }, { bar: true }));
    expect(Math.abs(hearTone(flat, RATE, 0.3, 0.8) - 61.6)).toBeLessThan(0.02);
  });
});

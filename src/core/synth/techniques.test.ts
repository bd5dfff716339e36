import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { hearTone } from '../listen/test-support/tone';
import { makeEvent, makeNote, makePlace, makeRiff, type Note, type Riff } from '../score';
import { quarter, ZERO } from '../time';
import { onsetsIn } from '../listen';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { renderRiff } from './index';

const RATE = 44_100;
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const tempo = [{ at: ZERO, bpm: 60 }];
const riffOf = (note: Partial<Note>, event: Partial<Riff['events'][number]> = {}): Riff =>
  makeRiff('r', 'r', {
    events: [
      makeEvent(
        'e',
        ZERO,
        quarter(2),
        [{ ...makeNote('n', 62, 'instructor', { place: makePlace(3, 7, 'instructor') }), ...note }],
        event,
      ),
    ],
  });
const sound = (riff: Riff): Float32Array =>
  renderRiff(riff, setup, tempo, {
    rate: RATE,
    speed: 1,
    from: ZERO,
    to: quarter(2),
    click: false,
    countIn: 0,
    seed: 3,
  }).samples;
const energy = (samples: Float32Array, from: number, to: number): number =>
  samples.subarray(Math.round(from * RATE), Math.round(to * RATE)).reduce((sum, x) => sum + x * x, 0);

describe('techniques in sound', () => {
  it('a bend begins at its note and ends where it is bent to, within two cents', () => {
    const bent = sound(riffOf({ technique: { bend: 200 } }));
    expect(Math.abs(hearTone(bent, RATE, 0.02, 0.14) - 62)).toBeLessThan(0.05);
    expect(Math.abs(hearTone(bent, RATE, 0.6, 1) - 64)).toBeLessThan(0.02);
  });
  it('a trill goes to and fro between its two notes', () => {
    const trilled = sound(riffOf({ technique: { trill: 2 } }));
    const hearing = Array.from({ length: 6 }, (_, i) =>
      Math.round(hearTone(trilled, RATE, 0.085 * i + 0.02, 0.085 * (i + 1) - 0.005)),
    );
    expect(hearing).toEqual([62, 64, 62, 64, 62, 64]);
  });
  it('a dead note is a click: gone after a tenth of a second', () => {
    const dead = sound(riffOf({ technique: { dead: true } }));
    expect(energy(dead, 0, 0.05)).toBeGreaterThan(0);
    expect(energy(dead, 0.1, 2)).toBeLessThan(energy(dead, 0, 0.05) * 1e-4);
  });
  it('a note beside the fret sounds beside it', () => {
    const flat = sound(riffOf({ pitch: { midi: 62, cents: -40, by: 'instructor' } }, { slideBar: true }));
    expect(Math.abs(hearTone(flat, RATE, 0.3, 0.8) - 61.6)).toBeLessThan(0.02);
  });
});

const called = (calls: string, frame: Partial<Riff> = {}): Riff => {
  const read = readCalls(calls, {
    setup,
    meters: [{ bar: 0, beats: 4, unit: 4 }],
    at: ZERO,
    length: FIRST_LENGTH,
    string: null,
  });
  expect(read.faults, calls).toEqual([]);
  return makeRiff('r', 'r', { events: calledToEvents(read, new Set()), ...frame });
};
const afterSilence = (samples: Float32Array): Float32Array => {
  const out = new Float32Array(samples.length + 4410);
  out.set(samples, 4410);
  return out;
};
const played = (riff: Riff, quarters = 4, extra: Partial<Parameters<typeof renderRiff>[3]> = {}): Float32Array =>
  renderRiff(riff, setup, tempo, {
    rate: RATE,
    speed: 1,
    from: ZERO,
    to: quarter(quarters),
    click: false,
    countIn: 0,
    seed: 3,
    ...extra,
  }).samples;

describe('writing in sound', () => {
  it('a bend is released, or bent before it is struck', () => {
    const released = played(called('on 3 7 for half bend whole released'), 2);
    expect(Math.abs(hearTone(released, RATE, 0.75, 1) - 64)).toBeLessThan(0.05);
    expect(Math.abs(hearTone(released, RATE, 1.7, 1.95) - 62)).toBeLessThan(0.05);
    const pre = played(called('on 3 7 for half prebend half released'), 2);
    expect(Math.abs(hearTone(pre, RATE, 0.1, 0.5) - 63)).toBeLessThan(0.05);
    expect(Math.abs(hearTone(pre, RATE, 1.6, 1.95) - 62)).toBeLessThan(0.05);
  });
  it('vibrato shakes as wide as it says, around its pitch', () => {
    const shaken = played(called('on 3 7 for half vibrato of 60'), 2);
    const listening = Array.from(
      { length: 40 },
      (_, i) => hearTone(shaken, RATE, 0.4 + i * 0.03, 0.44 + i * 0.03) - 62,
    );
    expect(Math.max(...listening)).toBeGreaterThan(0.3);
    expect(Math.min(...listening)).toBeLessThan(-0.3);
    expect(Math.max(...listening.map(Math.abs))).toBeLessThan(0.75);
  });
  it('palm mutes and staccato are short, each in its way; ringing under goes on', () => {
    const plain = energy(played(called('on 5 3 for whole')), 0.5, 1);
    expect(energy(played(called('on 5 3 for whole palm')), 0.5, 1)).toBeLessThan(plain * 0.02);
    expect(energy(played(called('on 5 3 for quarter cut 30')), 0.45, 0.9)).toBeLessThan(plain * 1e-3);
    const under = called('on 5 3 for quarter under rest for half rest for quarter');
    expect(energy(played(under), 2, 3)).toBeGreaterThan(0.2);
    expect(energy(played(called('on 5 3 for quarter rest for half rest for quarter')), 2, 3)).toBeLessThan(1e-3);
  });
  it('swing moves the off-beats, a slowing moves everything after it, clicks come as asked', () => {
    const straight = onsetsIn(played(called('eighths on 5 3 5 3 5')), RATE);
    const swung = onsetsIn(
      played(called('eighths on 5 3 5 3 5', { feel: [{ at: ZERO, swing: 66, unit: '1/2' }] })),
      RATE,
    );
    expect(straight.slice(0, 4).map((one) => Math.round(one * 20))).toEqual([0, 10, 20, 30]);
    expect((swung[1] ?? 0) - (straight[1] ?? 0)).toBeCloseTo(0.16, 1);
    expect((swung[2] ?? 0) - (straight[2] ?? 0)).toBeCloseTo(0, 1);
    // A moment of silence first, so that the click at once is heard to begin.
    const clicks = (click: number): number =>
      onsetsIn(
        afterSilence(
          renderRiff(called('rest for whole', { click }), setup, tempo, {
            rate: RATE,
            speed: 1,
            from: ZERO,
            to: quarter(4),
            click: true,
            countIn: 0,
            seed: 1,
          }).samples,
        ),
        RATE,
      ).length;
    expect([clicks(1), clicks(2), clicks(0.5)]).toEqual([4, 8, 2]);
  });
  it('a grace note sounds before its beat, a rolled chord string by string, a tremolo again and again', () => {
    const grace = onsetsIn(played(called('rest for quarter grace on 3 5 on 2 8 for quarter')), RATE);
    expect(grace[0]).toBeLessThan(0.93);
    expect(grace[0]).toBeGreaterThan(0.8);
    expect(onsetsIn(played(called('on 5 3 for half tremolo eighth')), RATE)).toHaveLength(4);
    const rolled = played(called('rest for quarter on 5 3 + on 3 5 + on 1 8 for half rolled thick-first'));
    expect(hearTone(rolled, RATE, 1.005, 1.04)).toBeLessThan(50);
  });
  it('slides come from nowhere and go off; a tapped note is heard; a hit and a scrape are noises, a hole is silence', () => {
    const from = played(called('on 3 7 for half from-lower'), 2);
    expect(hearTone(from, RATE, 0.005, 0.04)).toBeLessThan(61.5);
    expect(Math.abs(hearTone(from, RATE, 0.4, 0.9) - 62)).toBeLessThan(0.05);
    const off = played(called('on 3 7 for quarter off-lower'), 2);
    expect(hearTone(off, RATE, 0.95, 0.99)).toBeLessThan(61.5);
    const noises = played(called('quarters hit scrape hole'));
    expect(energy(noises, 0, 0.1)).toBeGreaterThan(0.1);
    expect(energy(noises, 1.2, 1.8)).toBeGreaterThan(0.1);
    expect(energy(noises, 2.1, 3)).toBeLessThan(1e-6);
    expect(Math.abs(hearTone(played(called('on 1 12 tapped for half'), 2), RATE, 0.2, 0.8) - 76)).toBeLessThan(0.05);
  });
  it('a slap of the pick clicks with its note: louder at its onset, the same note behind it', () => {
    const plain = played(called('on 3 5 for half'), 2);
    const slapped = played(called('on 3 5 for half pick-slap'), 2);
    expect(energy(slapped, 0, 0.03)).toBeGreaterThan(1.1 * energy(plain, 0, 0.03));
    expect(hearTone(slapped, RATE, 0.3, 0.8)).toBeCloseTo(hearTone(plain, RATE, 0.3, 0.8), 1);
  });
  it('every riff one can write renders without clipping or silence out of place', () => {
    const riff = called(
      'sixteenths on 5 open palm accent 3 hammer 5 heavy on 4 2 ghost on 3 7 bend whole again volume ff on 2 8 pinched on 3 5 raked on 1 5 + on 2 5 rolled thin-first on 4 5 shift 9 quick on 5 5 stroke slap for half',
    );
    const all = played(riff);
    expect(all.reduce((most, x) => Math.max(most, Math.abs(x)), 0)).toBeLessThanOrEqual(1);
    expect(all.every((x) => Number.isFinite(x))).toBe(true);
    expect(energy(all, 0, 2)).toBeGreaterThan(1);
  });
});

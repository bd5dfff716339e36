import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { Ear, type EarReading } from '../listen';
import { makeSetup, type Setup } from '../instrument';
import { frequency } from '../pitch';
import {
  capoSharpening,
  IN_TUNE,
  judgeLog,
  Needle,
  renderPluck,
  setCapo,
  simulate,
  soundsNow,
  targetsOf,
  turnPeg,
  withCapos,
  type Shown,
  type TunerReading,
} from './index';

const setupOf = (capo: Parameters<typeof makeSetup>[0]['capo'] = 0, tuning?: string): Setup =>
  must(makeSetup({ instrument: 'guitar-6', tuning, capo })).setup;
const guitar = setupOf();
const at = (hz: number, sinceAttack = 0.3): EarReading => ({ at: 0, hz, clarity: 1, sinceAttack });
const off = (midi: number, cents: number): number => frequency(midi, cents);

describe('targets', () => {
  it('follow the school: with the capo on, or open', () => {
    const setup = setupOf([{ fret: 2, strings: [5, 4, 3] }], 'drop-d');
    expect(targetsOf(setup, true, 440).map((target) => [target.string, target.midi])).toEqual([
      [6, 38],
      [5, 47],
      [4, 52],
      [3, 57],
      [2, 59],
      [1, 64],
    ]);
    expect(targetsOf(setup, false, 440).map((target) => target.midi)).toEqual([38, 45, 50, 55, 59, 64]);
    expect(targetsOf(setup, false, 430)[1]?.hz).toBeCloseTo(107.5, 6);
    expect(
      targetsOf(must(makeSetup({ instrument: 'guitar-6', tuning: 'x A2 D3 G3 B3 E4' })).setup, true, 440).map(
        (target) => target.string,
      ),
    ).toEqual([5, 4, 3, 2, 1]);
  });
});

describe('the needle', () => {
  const needle = (): Needle => new Needle(targetsOf(guitar, true, 440));
  const feed = (one: Needle, hz: number, times: number): Shown => {
    let shown = one.hear(at(hz));
    for (let i = 1; i < times; i++) shown = one.hear(at(hz));
    return shown;
  };
  it('guesses the string and says how far and which way', () => {
    expect(feed(needle(), off(45, -14), 5)).toMatchObject({ string: 5, verdict: 'flat' });
    expect(feed(needle(), off(45, -14), 5).cents).toBeCloseTo(-14, 6);
    expect(feed(needle(), off(64, 30), 5)).toMatchObject({ string: 1, verdict: 'sharp', steady: true });
    expect(feed(needle(), off(80, 0), 5)).toMatchObject({ string: null, verdict: 'far' });
  });
  it('does not flicker at the edge of in tune', () => {
    const one = needle();
    expect(feed(one, off(50, IN_TUNE.enter + 1), 8).verdict).toBe('sharp');
    expect(feed(one, off(50, IN_TUNE.enter - 0.2), 8).verdict).toBe('in tune');
    expect(feed(one, off(50, IN_TUNE.enter + 1), 8).verdict).toBe('in tune');
    expect(feed(one, off(50, IN_TUNE.leave + 0.5), 8).verdict).toBe('sharp');
  });
  it('is not thrown by one odd reading, nor leaves a string for a flash of another', () => {
    const one = needle();
    feed(one, off(50, 3), 7);
    expect(Math.abs(one.hear(at(off(50, 9))).cents - 3)).toBeLessThan(0.01);
    expect(one.hear(at(off(59, 0))).string).toBe(4);
    expect(one.hear(at(off(50, 3))).string).toBe(4);
    expect(feed(one, off(59, 0), 3).string).toBe(2);
    expect(one.hear(at(off(45, 0), 0.06)).string).toBe(5);
  });
  it('stays on a string fixed by hand, and takes new targets', () => {
    const one = needle();
    one.fix(6);
    expect(feed(one, off(45, 0), 3)).toMatchObject({ string: 6, verdict: 'sharp' });
    one.fix(null);
    one.setTargets(targetsOf(setupOf(3), true, 440));
    expect(feed(one, off(48, 0), 4)).toMatchObject({ string: 5, verdict: 'in tune' });
  });
});

describe('a simulated instrument', () => {
  it('starts out of tune, follows its pegs, and is the same for a seed', () => {
    const a = simulate(guitar, 440, 4, 0);
    expect(simulate(guitar, 440, 4, 0)).toEqual(a);
    expect(simulate(guitar, 440, 5, 0)).not.toEqual(a);
    for (const s of [1, 2, 3, 4, 5, 6]) expect(Math.abs(soundsNow(a, s, 0).cents)).toBeGreaterThan(5);
    const before = soundsNow(a, 3, 0).cents;
    const turned = must(turnPeg(a, 3, -before, 0));
    expect(soundsNow(turned, 3, 0).cents).toBeCloseTo(0, 9);
    expect(soundsNow(turned, 4, 0).cents).toBe(soundsNow(a, 4, 0).cents);
  });
  it('gives back part of a raise as it settles, and nothing of a slackening', () => {
    const start = simulate(guitar, 440, 4, 0);
    const up = must(turnPeg(start, 6, 20, 0));
    expect(soundsNow(up, 6, 120).cents).toBeLessThan(soundsNow(up, 6, 0).cents - 1);
    const down = must(turnPeg(start, 6, -20, 0));
    expect(Math.abs(soundsNow(down, 6, 20).cents - soundsNow(down, 6, 0).cents)).toBeLessThan(0.2);
    const later = must(turnPeg(up, 6, 0, 60));
    expect(soundsNow(later, 6, 60).cents).toBeCloseTo(soundsNow(up, 6, 60).cents, 9);
  });
  it('goes sharp under a capo, thick strings more', () => {
    const capoed = simulate(setupOf(3), 440, 1, 0);
    const bare = setCapo(capoed, false);
    for (const s of [1, 2, 3, 4, 5, 6]) {
      expect(soundsNow(capoed, s, 0).midi).toBe(soundsNow(bare, s, 0).midi + 3);
      expect(soundsNow(capoed, s, 0).cents - soundsNow(bare, s, 0).cents).toBeGreaterThan(0.5);
    }
    expect(capoSharpening(guitar.instrument, 6, 40, 3)).toBeGreaterThan(capoSharpening(guitar.instrument, 1, 64, 3));
    expect(capoSharpening(guitar.instrument, 6, 40, 0)).toBe(0);
    for (const i of ['guitar-6', 'acoustic-6', 'nylon-6', 'bass-4']) {
      const { setup } = must(makeSetup({ instrument: i }));
      setup.open.forEach((midi, index) =>
        expect(capoSharpening(setup.instrument, setup.open.length - index, midi, 2)).toBeLessThan(16),
      );
    }
    expect(setCapo(simulate(guitar, 440, 1, 0), true).capoOn).toBe(false);
  });
  it('goes 5 to 20 cents sharp with a capo at fret 7, every string in its own way', () => {
    const { setup: capoed } = must(makeSetup({ instrument: 'guitar-6', capo: 7 }));
    for (const seed of [1, 2, 3, 4]) {
      const made = simulate(capoed, 440, seed, 0);
      const sharp = [6, 5, 4, 3, 2, 1].map(
        (string) => soundsNow(made, string, 0).cents - soundsNow(setCapo(made, false), string, 0).cents,
      );
      for (const cents of sharp) {
        expect(cents).toBeGreaterThanOrEqual(5);
        expect(cents).toBeLessThanOrEqual(20);
      }
      expect(Math.max(...sharp) - Math.min(...sharp)).toBeGreaterThan(4);
    }
  });
  it('stays as it was tuned when a capo is put on', () => {
    const tuned = must(turnPeg(simulate(guitar, 440, 1, 0), 3, 10, 0));
    const { setup: capoed } = must(makeSetup({ instrument: 'guitar-6', capo: 2 }));
    const after = withCapos(tuned, capoed.capos, true);
    expect(after.strings).toEqual(tuned.strings);
    expect(after.capoOn).toBe(true);
    expect(soundsNow(after, 3, 0).midi).toBe(soundsNow(tuned, 3, 0).midi + 2);
  });
  it('refuses to break a string', () => {
    expect(turnPeg(simulate(guitar, 440, 1, 0), 9, 1, 0)).toMatchObject({ ok: false, error: { rule: 'no-string' } });
    expect(turnPeg(simulate(guitar, 440, 1, 0), 1, 900, 0)).toMatchObject({ ok: false, error: { rule: 'far-turn' } });
    const tight = must(turnPeg(must(turnPeg(simulate(guitar, 440, 1, 0), 1, 100, 0)), 1, 60, 0));
    expect(turnPeg(tight, 1, 190, 0)).toMatchObject({ ok: false, error: { rule: 'would-snap' } });
  });
  it('is heard and tuned to green by the same ear and needle as a real one', () => {
    let sim = simulate(setupOf(2, 'drop-d'), 440, 21, 0);
    const targets = targetsOf(sim.setup, true, 440);
    let now = 0;
    const tune = (string: number): { hearing: Shown | null; truth: number } => {
      const ear = new Ear(24_000);
      const needle = new Needle(targets);
      let shown: Shown | null = null;
      const sound = renderPluck(soundsNow(sim, string, now).hz, 0.5, 24_000, 3);
      for (let i = 0; i < sound.length; i += 1000)
        for (const one of ear.push(sound.subarray(i, i + 1000))) shown = needle.hear(one);
      return { hearing: shown, truth: soundsNow(sim, string, now).cents };
    };
    for (const { string } of targets) {
      for (let turns = 0; turns < 8; turns++) {
        const { hearing: listening, truth } = tune(string);
        expect(listening?.string).toBe(string);
        expect(Math.abs((listening?.cents ?? 99) - truth)).toBeLessThan(0.5);
        if (listening?.verdict === 'in tune') break;
        sim = must(turnPeg(sim, string, -(listening?.cents ?? 0), now));
        now += 4;
      }
      expect(tune(string).hearing?.verdict).toBe('in tune');
    }
  });
});

describe('the tuner log', () => {
  let n = 0;
  const read = (
    string: number,
    kind: TunerReading['kind'],
    cents: number,
    atSecond: number,
    capo = 0,
  ): TunerReading => ({ id: `t${n++}`, string, kind, capo, cents, at: atSecond });

  it('finds how sharp a capo presses, by string and on the whole', () => {
    const report = judgeLog([
      read(6, 'open', 1, 0),
      read(6, 'capo', 8, 10, 3),
      read(1, 'open', 0, 20),
      read(1, 'capo', 2, 30, 3),
      read(6, 'open', 1, 9000),
      read(6, 'capo', 10, 9010, 3),
    ]);
    expect(report.sharpening).toEqual([
      { string: 6, capo: 3, cents: 8, pairs: 2 },
      { string: 1, capo: 3, cents: 2, pairs: 1 },
    ]);
    expect(report.mean).toEqual([{ capo: 3, cents: 5, strings: 2 }]);
    expect(report.words[0]).toBe(
      'With the capo at fret 3 this instrument goes 5.0 cents sharp on the whole, string 6 most (8.0).',
    );
    expect(judgeLog([read(6, 'open', 1, 0), read(6, 'capo', 8, 9999, 3)]).sharpening).toEqual([]);
  });
  it('finds strings that drift, not those that wander', () => {
    const flat = [0, -5, -9, -15].map((c, i) => read(2, 'open', c, i * 600));
    const wander = [0, 4, -4, 3].map((c, i) => read(3, 'open', c, i * 600));
    const report = judgeLog([...flat, ...wander]);
    expect(report.drifting).toEqual([{ string: 2, each: -5, readings: 4 }]);
    expect(report.words.join(' ')).toContain('a new or worn string, or a peg that slips');
  });
  it('finds readings that can’t both be true', () => {
    const why = (...readings: TunerReading[]): string =>
      judgeLog(readings)
        .contradictions.map((one) => one.why)
        .join(' ');
    expect(why(read(4, 'open', 0, 0), read(4, 'open', 12, 30))).toContain('12.0 cents apart');
    expect(why(read(4, 'open', 0, 0), read(4, 'open', 12, 3000))).toBe('');
    expect(why(read(4, 'open', 6, 0), read(4, 'capo', 0, 20, 2))).toContain("can't flatten");
    expect(why(read(4, 'open', 0, 0), read(4, 'harmonic12', 9, 20))).toContain('same length of string');
    expect(why(read(4, 'open', 0, 0), read(3, 'open', 40, 20))).toBe('');
  });
  it('reads the 12th-fret check and knows when it is a repairer’s', () => {
    const check = (...cents: number[]): string =>
      judgeLog(
        cents.flatMap((c, i) => [read(i + 1, 'harmonic12', 0, i * 200), read(i + 1, 'stopped12', c, i * 200 + 20)]),
      ).words.join(' ');
    expect(check(1, -2)).toBe('The octaves at the 12th fret are true.');
    expect(check(6)).toContain('too short; its saddle belongs further back');
    expect(check(-6)).toContain('too long; its saddle belongs further forward');
    expect(check(6)).not.toContain('repairer');
    expect(check(14)).toContain('qualified repairer');
    expect(check(4, 5, 6)).toContain('qualified repairer');
  });
  it('does not depend on the order it was given in', () => {
    const readings = [
      read(6, 'open', 1, 0),
      read(6, 'capo', 8, 10, 3),
      read(5, 'open', 0, 20),
      read(5, 'open', 20, 40),
      read(5, 'capo', 2, 60, 3),
      read(1, 'harmonic12', 0, 80),
      read(1, 'stopped12', 5, 90),
    ];
    fc.assert(
      fc.property(fc.shuffledSubarray(readings, { minLength: readings.length }), (mixed) => {
        expect(judgeLog(mixed)).toEqual(judgeLog(readings));
      }),
    );
    expect(judgeLog([])).toEqual({
      sharpening: [],
      mean: [],
      drifting: [],
      contradictions: [],
      octaves: [],
      words: [],
    });
  });
});

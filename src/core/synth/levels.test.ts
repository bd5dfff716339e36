import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { makeEvent, makeNote, makePlace, makeRiff } from '../score';
import { quarter, toNumber, ZERO } from '../time';
import { Stream } from './index';
import { applyGain, gainPoints } from './levels';

describe('levels along the way', () => {
  const steps = [
    { at: ZERO, gain: 1 },
    { at: quarter(2), gain: 0.5 },
    { at: quarter(4), gain: 0.5, ramp: true as const },
    { at: quarter(6), gain: 0 },
  ];
  it('hold, step softly and change evenly; a pass that begins late has what holds there', () => {
    const points = gainPoints(steps, ZERO, (at) => 1000 * toNumber(at));
    const out = new Float32Array(7000).fill(1);
    applyGain(out, 0, points);
    expect(
      [out[0], out[1999], out[3000], out[5000], out[6500]].map((value) => Math.round((value ?? 0) * 100) / 100),
    ).toEqual([1, 1, 0.5, 0.25, 0]);
    // No step from one sample to the next is heard as a click.
    for (let i = 1; i < out.length; i++) expect(Math.abs((out[i] ?? 0) - (out[i - 1] ?? 0))).toBeLessThan(0.002);
    expect(gainPoints(steps, quarter(3), (at) => 1000 * (toNumber(at) - 3))[0]).toMatchObject({ gain: 0.5, at: -1000 });
    const untouched = new Float32Array(10).fill(1);
    applyGain(untouched, 0, []);
    expect([...untouched]).toEqual(Array(10).fill(1));
  });
  it('are the same whatever the sizes of the blocks, and silence a part where they say so', () => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
    const riff = makeRiff('r', 'r', {
      events: [0, 1, 2, 3].map((at) =>
        makeEvent(`e${at}`, quarter(at), quarter(1), [
          makeNote(`n${at}`, 45, 'instructor', { place: makePlace(5, 0, 'instructor') }),
        ]),
      ),
    });
    const levels = [
      { at: ZERO, gain: 1 },
      { at: quarter(2), gain: 0 },
    ];
    const played = (frames: number): number[] => {
      const stream = new Stream({
        ...{
          rate: 8000,
          tempo: [{ at: ZERO, bpm: 120 }],
          from: ZERO,
          to: quarter(4),
          begin: ZERO,
          countIn: 0,
          double: false,
          seed: 1,
        },
        tracks: [{ setup, versions: [riff], levels }],
        rungs: [{ speed: 1, times: 1 }],
      });
      const out: number[] = [];
      for (let block = stream.next(frames); block; block = stream.next(frames)) out.push(...(block.tracks[0] ?? []));
      return out;
    };
    const [whole, pieces] = [played(100_000), played(777)];
    expect(pieces).toEqual(whole);
    const loud = (from: number, to: number): number => Math.max(...whole.slice(from, to).map(Math.abs));
    expect(loud(0, 8000)).toBeGreaterThan(0.05);
    expect(loud(9000, 16_000)).toBe(0);
  });
});

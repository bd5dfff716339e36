import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { hearTone } from '../listen/test-support/tone';
import { makeEvent, makeNote, makePlace, makeRiff, riffEnd, type Riff } from '../score';
import { quarter, toNumber, ZERO } from '../time';
import {
  backingTrack,
  chordsOf,
  goneRound,
  ladderRungs,
  mixed,
  quartersIn,
  renderRiff,
  Stream,
  type Block,
  type StreamPlan,
} from './index';

const RATE = 44_100;
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const bass = must(makeSetup({ instrument: 'bass-4' })).setup;
const tempo = [{ at: ZERO, bpm: 120 }];
const riffOf = (midis: readonly number[], each = quarter(1), extra: Partial<Riff> = {}): Riff =>
  makeRiff('r', 'r', {
    events: midis.map((midi, i) =>
      makeEvent(`e${i}`, quarter(i * toNumber(each) * 4, 4), each, [
        makeNote(`n${i}`, midi, 'instructor', { place: makePlace(6 - (i % 6), 0, 'instructor') }),
      ]),
    ),
    ...extra,
  });
const plan = (extra: Partial<StreamPlan> = {}): StreamPlan => ({
  rate: RATE,
  tempo,
  tracks: [{ setup, versions: [riffOf([52, 55, 57, 59])] }],
  from: ZERO,
  to: quarter(4),
  begin: ZERO,
  countIn: 0,
  double: false,
  rungs: [{ speed: 1, times: 1 }],
  seed: 3,
  ...extra,
});
function drawn(
  stream: Stream,
  size: () => number,
  most = 40 * RATE,
): { blocks: Block[]; track: Float32Array; click: Float32Array } {
  const blocks: Block[] = [];
  let frames = 0;
  for (let block = stream.next(size()); block && frames < most; block = stream.next(size())) {
    blocks.push(block);
    frames += block.click.length;
  }
  const joined = (of: (b: Block) => Float32Array): Float32Array => {
    const out = new Float32Array(frames);
    let at = 0;
    for (const b of blocks) {
      out.set(of(b).subarray(0, frames - at), at);
      at += b.click.length;
    }
    return out;
  };
  return { blocks, track: joined((b) => b.tracks[0] as Float32Array), click: joined((b) => b.click) };
}
/** The pitch class heard: a listener may take a tone an octave down. */
const classOf = (samples: Float32Array, from: number, to: number): number =>
  Math.round(hearTone(samples, RATE, from, to)) % 12;
const loudest = (samples: Float32Array, from: number, to: number): number =>
  samples.subarray(Math.round(from * RATE), Math.round(to * RATE)).reduce((top, v) => Math.max(top, Math.abs(v)), 0);

describe('a stream of parts', () => {
  it('is the same whatever the sizes of its blocks, and the same as rendered in one go', () => {
    const riff = riffOf([52, 55, 57, 59]);
    const whole = renderRiff(riff, setup, tempo, {
      rate: RATE,
      speed: 1,
      from: ZERO,
      to: quarter(4),
      click: false,
      countIn: 0,
      seed: 3,
    });
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 30_000 }), { minLength: 1, maxLength: 9 }), (sizes) => {
        let i = 0;
        const { track } = drawn(new Stream(plan()), () => sizes[i++ % sizes.length] ?? 1000);
        expect(track.length).toBe(whole.samples.length);
        for (let s = 0; s < track.length; s += 97)
          if (track[s] !== whole.samples[s]) throw new Error(`differs at sample ${s}`);
      }),
      { numRuns: 12 },
    );
  });

  it('counts in once, and every pass begins where the tempo says, without drift over a hundred of them', () => {
    // 121 in a minute: a pass is no whole number of samples.
    const odd = [{ at: ZERO, bpm: 121 }];
    const { blocks } = drawn(
      new Stream(plan({ tempo: odd, countIn: 4, rungs: [{ speed: 1, times: 100 }] })),
      () => RATE * 3,
      Infinity,
    );
    const beat = 60 / 121;
    expect(blocks[0]?.at).toBeCloseTo(-4 * beat, 6);
    let frames = 0;
    for (const block of blocks) {
      if (block.at === 0) expect(Math.abs(frames / RATE - (4 * beat + block.pass * 4 * beat))).toBeLessThan(1 / RATE);
      frames += block.click.length;
    }
    expect(Math.abs(frames / RATE - 404 * beat)).toBeLessThan(1 / RATE);
  });

  it('climbs a ladder of tempi', () => {
    expect(ladderRungs(0.5, 1, 0.2, 2)).toEqual([
      { speed: 0.5, times: 2 },
      { speed: 0.7, times: 2 },
      { speed: 0.9, times: 2 },
      { speed: 1, times: Infinity },
    ]);
    expect(ladderRungs(1, 0.7, 0.1, 1).map((rung) => rung.speed)).toEqual([1, 0.9, 0.8, 0.7]);
    expect(() => ladderRungs(0.5, 1, 0, 1)).toThrow(RangeError);
    const { blocks } = drawn(new Stream(plan({ rungs: ladderRungs(0.5, 1, 0.25, 2) })), () => RATE, 25 * RATE);
    const speeds = [...new Map(blocks.map((b) => [b.pass, b.speed])).values()];
    expect(speeds.slice(0, 6)).toEqual([0.5, 0.5, 0.75, 0.75, 1, 1]);
  });

  it('plays one version and then the other, as heard', () => {
    const { track, blocks } = drawn(
      new Stream(
        plan({ tracks: [{ setup, versions: [riffOf([52]), riffOf([53])] }], rungs: [{ speed: 1, times: 4 }] }),
      ),
      () => RATE,
    );
    const hearing = [0, 1, 2, 3].map((pass) => classOf(track, pass * 2 + 0.1, pass * 2 + 0.4));
    expect(hearing).toEqual([4, 5, 4, 5]);
    expect(new Set(blocks.map((b) => b.version))).toEqual(new Set([0, 1]));
  });

  it('lets a shorter part go round again, pickup and all, and sounds each part by itself', () => {
    const short = makeRiff('s', 's', {
      bars: 1,
      pickup: quarter(1),
      events: [
        makeEvent('p', quarter(-1), quarter(1), [makeNote('pn', 43, 'instructor')]),
        makeEvent('a', ZERO, quarter(3), [makeNote('an', 40, 'instructor')]),
      ],
    });
    const round = goneRound(short, quarter(12));
    expect(round.events.map((event) => toNumber(event.at))).toEqual([-1, 0, 3, 4, 7, 8, 11, 12]);
    expect(new Set(round.events.map((event) => event.id)).size).toBe(8);
    expect(goneRound(short, quarter(4))).toBe(short);
    const stream = new Stream(
      plan({
        to: quarter(8),
        tracks: [
          { setup, versions: [riffOf([52, 55, 57, 59, 52, 55, 57, 59], quarter(1), { bars: 2 })] },
          { setup: bass, versions: [riffOf([28], quarter(4))] },
        ],
      }),
    );
    const seen: Float32Array[] = [];
    for (let b = stream.next(RATE); b; b = stream.next(RATE)) seen.push(b.tracks[1] as Float32Array);
    const second = Float32Array.from(seen.flatMap((b) => [...b]));
    expect(classOf(second, 2.2, 2.9)).toBe(4);
  });

  it('lets strings ring over the end into the next pass, and damps those that end', () => {
    const ring = riffOf([52], quarter(4), {});
    const ringing = { ...ring, events: ring.events.map((event) => ({ ...event, dur: quarter(2), letRing: true })) };
    const later = { ...ringing, events: [] };
    const tracks = (first: Riff) => [{ setup, versions: [first, later] }];
    const on = drawn(new Stream(plan({ tracks: tracks(ringing), rungs: [{ speed: 1, times: 2 }] })), () => 5000).track;
    expect(loudest(on, 2.1, 2.3)).toBeGreaterThan(0.004);
    const off = drawn(
      new Stream(plan({ tracks: tracks(riffOf([52], quarter(4))), rungs: [{ speed: 1, times: 2 }] })),
      () => 5000,
    ).track;
    expect(loudest(off, 2.1, 2.3)).toBeLessThan(0.0005);
    // No step where the passes meet.
    const at = 2 * RATE;
    for (let i = at - 20; i < at + 20; i++) expect(Math.abs((on[i] ?? 0) - (on[i - 1] ?? 0))).toBeLessThan(0.08);
  });

  it('clicks twice as often when asked, apart from the parts', () => {
    const hits = (double: boolean): number => {
      const { click } = drawn(new Stream(plan({ double })), () => 7000);
      let n = 0;
      for (let t = 0; t < 2; t += 0.25) if (loudest(click, t, t + 0.05) > 0.1) n++;
      return n;
    };
    expect([hits(false), hits(true)]).toEqual([4, 8]);
  });

  it('begins within the stretch and comes back to its beginning', () => {
    const { blocks } = drawn(
      new Stream(plan({ begin: quarter(5, 2), rungs: [{ speed: 1, times: 2 }] })),
      () => RATE * 4,
    );
    expect(blocks.map((b) => [toNumber(b.from), b.click.length])).toEqual([
      [2.5, 0.75 * RATE],
      [0, 2 * RATE],
    ]);
  });

  it('is refused where there is nothing to play', () => {
    expect(() => new Stream(plan({ tracks: [] }))).toThrow(/nothing to play/);
    expect(() => new Stream(plan({ to: ZERO }))).toThrow(/between/);
    expect(() => new Stream(plan({ rungs: [{ speed: 2, times: 1 }] }))).toThrow(/speed/);
  });
});

describe('a mix', () => {
  it('is one channel in the middle, two where something lies aside, and silent where it is muted', () => {
    const two = plan({
      tracks: [
        { setup, versions: [riffOf([52, 52, 52, 52])] },
        { setup: bass, versions: [riffOf([33, 33, 33, 33])] },
      ],
    });
    const middle = mixed(
      two,
      [
        { level: 1, pan: 0 },
        { level: 0, pan: 0 },
        { level: 0, pan: 0 },
      ],
      60,
    );
    expect(middle.length).toBe(1);
    expect(classOf(middle[0] as Float32Array, 0.1, 0.45)).toBe(4);
    const wide = mixed(
      two,
      [
        { level: 1, pan: -1 },
        { level: 1, pan: 1 },
        { level: 0, pan: 0 },
      ],
      60,
    );
    expect(wide.map((samples) => classOf(samples, 0.1, 0.45))).toEqual([4, 9]);
    expect(
      mixed(
        two,
        [
          { level: 0, pan: 0 },
          { level: 0, pan: 0 },
          { level: 0, pan: 0 },
        ],
        60,
      )[0]?.every((v) => v === 0),
    ).toBe(true);
  });

  it('must end, and soon enough', () => {
    expect(() => mixed(plan({ rungs: [{ speed: 1, times: Infinity }] }), [], 60)).toThrow(/must end/);
    expect(() => mixed(plan({ rungs: [{ speed: 1, times: 60 }] }), [], 60)).toThrow(/too long/);
  });
});

describe('where the music is', () => {
  it('follows a tempo that changes and a swung feel, and never runs past the end', () => {
    const changing = [
      { at: ZERO, bpm: 120, ramp: true as const },
      { at: quarter(4), bpm: 60 },
    ];
    const riff = riffOf([52, 52, 52, 52]);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 0.25, max: 1.5, noNaN: true }),
        (seconds, speed) => {
          const at = quartersIn(changing, [{ at: ZERO, swing: 66, unit: '1/2' }], ZERO, riffEnd(riff), speed, seconds);
          expect(at).toBeGreaterThanOrEqual(0);
          expect(at).toBeLessThanOrEqual(4);
        },
      ),
    );
    expect(quartersIn(tempo, undefined, ZERO, quarter(4), 0.5, 2)).toBeCloseTo(2, 9);
  });
});

describe('a backing', () => {
  const lead = riffOf([45, 52, 48, 45, 43, 47, 50, 43], quarter(1), { bars: 2 });
  const chords = chordsOf([lead], { tonic: 'A', mode: 'minor' });

  it('plays the roots on the bass and holds the chords, bar by bar, over the whole of the riff', () => {
    const bassLine = backingTrack(lead, chords, 'bass').versions[0] as Riff;
    expect(bassLine.events.map((event) => [toNumber(event.at), event.notes[0]?.pitch.midi])).toEqual([
      [0, 33],
      [2, 33],
      [4, 31],
      [6, 31],
    ]);
    const held = backingTrack(lead, chords, 'chords').versions[0] as Riff;
    expect(
      held.events.map((event) => [toNumber(event.at), toNumber(event.dur), event.notes.map((note) => note.pitch.midi)]),
    ).toEqual([
      [0, 4, [57, 60, 64]],
      [4, 4, [55, 59, 62]],
    ]);
  });

  it('sounds beside the part', () => {
    const stream = new Stream(
      plan({ to: quarter(8), tracks: [{ setup, versions: [lead] }, backingTrack(lead, chords, 'bass')] }),
    );
    const block = stream.next(RATE);
    expect(classOf(block?.tracks[1] as Float32Array, 0.1, 0.9)).toBe(9);
  });

  it('leaves out dead notes, and is nothing where nothing sounds', () => {
    expect(chordsOf([makeRiff('r', 'r')], null)).toEqual([]);
    expect(backingTrack(makeRiff('r', 'r'), [], 'chords').versions[0]?.events).toEqual([]);
  });
});

import type { Cents, Seconds } from '../base';
import type { LevelStep } from '../form';
import type { Setup } from '../instrument';
import { riffEnd, type Riff } from '../score';
import { add, cmp, sub, toNumber, type Quarter, type TempoStep } from '../time';
import { playSeconds, playSecondsTo } from './clock';
import { checkSpeed, clicksOf, leadOf, Sounding } from './render';
import { applyGain, gainPoints, type GainPoint } from './levels';
import { layShots, soften, type Shot } from './shots';
import { Strings } from './strings';

/** One instrument of a mix. With several versions one pass plays the first, the next the second, and round again. */
export interface Track {
  readonly setup: Setup;
  readonly versions: readonly Riff[];
  /** How loud it is along the way; as it is where nothing is said. */
  readonly levels?: readonly LevelStep[];
}

/** So many passes at a speed; `times` may be Infinity. */
export interface Rung {
  readonly speed: number;
  readonly times: number;
}

export interface StreamPlan {
  readonly rate: number;
  readonly tempo: readonly TempoStep[];
  /**
   * The first leads: its bars, beats and feel are everybody's. The others begin with it and go round again where they
   * are shorter.
   */
  readonly tracks: readonly Track[];
  readonly from: Quarter;
  readonly to: Quarter;
  /** Where the first pass begins, within the stretch. */
  readonly begin: Quarter;
  /** Beats counted before the first pass. */
  readonly countIn: number;
  /** Whether the click sounds twice as often as the riff says. */
  readonly double: boolean;
  readonly rungs: readonly Rung[];
  readonly seed: number;
  /** How far all of it is tuned from A 440. */
  readonly cents?: Cents;
}

/** What sounds next, a voice a track and the click apart, so that their balance stays with who listens. */
export interface Block {
  readonly tracks: readonly Float32Array[];
  readonly click: Float32Array;
  readonly pass: number;
  readonly speed: number;
  /** Which version of the first track sounds. */
  readonly version: number;
  /** The pass begins at this time of the riff, */
  readonly from: Quarter;
  /** and the block so many seconds after that; negative while it is counted in. */
  readonly at: Seconds;
  /** Seconds of count-in before the pass. */
  readonly lead: Seconds;
}

/**
 * Passes up and down a ladder of tempi: from one speed to another by steps, each so many times, the last for as long
 * as it is wished.
 */
export function ladderRungs(from: number, to: number, step: number, times: number): Rung[] {
  if (!(step > 0)) throw new RangeError('a ladder needs steps above 0');
  const up = to >= from ? 1 : -1;
  const count = Math.ceil(Math.abs(to - from) / step - 1e-9);
  const speeds = Array.from({ length: count }, (_, i) => from + up * i * step);
  return [...speeds.map((speed) => ({ speed: Math.round(speed * 1e4) / 1e4, times })), { speed: to, times: Infinity }];
}

/** A riff that goes round again until a time: its events laid end to end by its bars. */
export function goneRound(riff: Riff, until: Quarter): Riff {
  const length = riffEnd(riff);
  if (cmp(length, until) >= 0) return riff;
  const events = [...riff.events];
  for (let shift = length, k = 1; cmp(sub(shift, riff.pickup), until) < 0; shift = add(shift, length), k++) {
    events.push(...riff.events.map((event) => ({ ...event, id: `${event.id}~${k}`, at: add(event.at, shift) })));
  }
  // A pickup may reach before the end of the round before it.
  return { ...riff, events: events.sort((a, b) => cmp(a.at, b.at)) };
}

interface Pass {
  readonly sounding: readonly Sounding[];
  /** Gains of each track, by samples of the pass. */
  readonly gains: readonly (readonly GainPoint[])[];
  readonly clicks: readonly Shot[];
  readonly first: number;
  readonly end: number;
  readonly speed: number;
  readonly version: number;
  readonly from: Quarter;
  readonly lead: Seconds;
}

/**
 * Several parts sounding together, drawn a block at a time for as long as they are wished: passes
 * over a stretch, with click and count-in, at the speeds of a ladder. Strings ring on from pass to
 * pass as they do under hands. Deterministic for a plan, whatever the sizes of its blocks. Throws
 * RangeError where a speed lies outside 0.25-1.5 or nothing lies between `from` and `to`.
 */
export class Stream {
  private readonly strings: readonly Strings[];
  private readonly tracks: readonly Track[];
  private pass: Pass | null = null;
  private passes = 0;
  private position = 0;
  private seconds: Seconds = 0;

  constructor(private readonly plan: StreamPlan) {
    for (const rung of plan.rungs) checkSpeed(rung.speed);
    const [lead] = plan.tracks;
    if (!lead?.versions[0] || plan.rungs.length === 0) throw new RangeError('there is nothing to play');
    if (cmp(plan.from, plan.to) >= 0 || cmp(plan.begin, plan.to) >= 0)
      throw new RangeError('there is nothing between the beginning and the end');
    this.strings = plan.tracks.map(
      (track) => new Strings(plan.rate, track.setup, 440 * 2 ** ((plan.cents ?? 0) / 1200)),
    );
    const { feel } = lead.versions[0];
    this.tracks = plan.tracks.map((track) => ({
      ...track,
      versions: track.versions.map((riff) => ({ ...goneRound(riff, plan.to), feel })),
    }));
  }

  /** The next block, of `frames` samples or fewer where a pass ends; null after the last pass. */
  next(frames: number): Block | null {
    this.pass ??= this.begun();
    const { pass, position, plan } = this;
    if (!pass) return null;
    const count = Math.min(frames, pass.end - position);
    const tracks = pass.sounding.map((sounding, i) => {
      const out = new Float32Array(count);
      sounding.fill(out);
      applyGain(out, position - pass.first, pass.gains[i] ?? []);
      soften(out);
      return out;
    });
    const click = new Float32Array(count);
    layShots(click, position - pass.first, pass.clicks);
    this.position += count;
    if (this.position >= pass.end) {
      for (const sounding of pass.sounding) sounding.finish();
      this.pass = null;
    }
    return {
      tracks,
      click,
      pass: this.passes - 1,
      speed: pass.speed,
      version: pass.version,
      from: pass.from,
      at: (position - pass.first) / plan.rate - pass.lead,
      lead: pass.lead,
    };
  }

  private begun(): Pass | null {
    const { plan, passes } = this;
    const rung = rungAt(plan.rungs, passes);
    const [leader] = this.tracks;
    if (!rung || !leader) return null;
    this.passes++;
    const version = passes % leader.versions.length;
    const riff = leader.versions[version] as Riff;
    const options = {
      rate: plan.rate,
      speed: rung.speed,
      from: passes === 0 ? plan.begin : plan.from,
      to: plan.to,
      click: true,
      countIn: passes === 0 ? plan.countIn : 0,
      seed: plan.seed,
    };
    const lead = leadOf(riff, plan.tempo, options);
    const first = this.position;
    this.seconds += lead + playSeconds(plan.tempo, options.from, options.to, rung.speed, riff.feel);
    return {
      sounding: this.tracks.map(
        (track, i) =>
          new Sounding(
            track.versions[passes % track.versions.length] as Riff,
            track.setup,
            plan.tempo,
            { ...options, seed: plan.seed + i },
            lead,
            this.strings[i] as Strings,
          ),
      ),
      gains: this.tracks.map(({ levels = [] }) =>
        gainPoints(levels, options.from, (at) =>
          Math.round((lead + playSeconds(plan.tempo, options.from, at, rung.speed, riff.feel)) * plan.rate),
        ),
      ),
      clicks: clicksOf(riff, plan.tempo, options, lead, plan.double),
      // Ends are rounded from the whole, so that no pass drifts from the next.
      first,
      end: Math.max(first + 1, Math.round(this.seconds * plan.rate)),
      speed: rung.speed,
      version,
      from: options.from,
      lead,
    };
  }
}

function rungAt(rungs: readonly Rung[], pass: number): Rung | null {
  let before = 0;
  for (const rung of rungs) {
    before += rung.times;
    if (pass < before) return rung;
  }
  return null;
}

/** How loud a track is, and where between left (-1) and right (1). */
export interface Balance {
  readonly level: number;
  readonly pan: number;
}

/**
 * A plan played to its end, mixed: one channel where everything lies in the middle, else two.
 * @param balance of each track, and of the click last
 * @throws RangeError where it never ends, or lasts longer than `limit` seconds
 */
export function mixed(plan: StreamPlan, balance: readonly Balance[], limit: Seconds): Float32Array[] {
  const [first] = plan.tracks[0]?.versions ?? [];
  const passes = plan.rungs.reduce((n, rung) => n + rung.times, 0);
  const each = playSeconds(
    plan.tempo,
    plan.from,
    plan.to,
    Math.min(...plan.rungs.map((rung) => rung.speed)),
    first?.feel,
  );
  if (!(passes * each <= limit))
    throw new RangeError(
      Number.isFinite(passes)
        ? `${passes} passes of ${Math.round(each)} s are too long to save`
        : 'what is saved must end',
    );
  const stream = new Stream(plan);
  const wide = balance.some((b) => b.pan !== 0);
  const blocks: Float32Array[][] = [];
  for (let block = stream.next(plan.rate); block; block = stream.next(plan.rate)) {
    const voices = [...block.tracks, block.click];
    const sides = (wide ? [-1, 1] : [0]).map((side) => {
      const out = new Float32Array(block.click.length);
      voices.forEach((voice, index) => {
        const { level, pan } = balance[index] ?? { level: 0, pan: 0 };
        // Equal power to either side, as much in the middle as alone.
        const gain = level * (side === 0 ? 1 : Math.sqrt(1 + side * pan));
        if (gain > 0) for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + gain * (voice[i] as number);
      });
      soften(out);
      return out;
    });
    blocks.push(sides);
  }
  return (wide ? [0, 1] : [0]).map((c) => {
    const out = new Float32Array(blocks.reduce((n, b) => n + (b[c]?.length ?? 0), 0));
    let at = 0;
    for (const block of blocks) {
      out.set(block[c] as Float32Array, at);
      at += block[c]?.length ?? 0;
    }
    return out;
  });
}

/**
 * Where the music is, in quarters, so many seconds after a pass began at `from`: the inverse of its clock, by
 * halving.
 */
export function quartersIn(
  tempo: readonly TempoStep[],
  feel: Riff['feel'],
  from: Quarter,
  to: Quarter,
  speed: number,
  seconds: Seconds,
): number {
  const [single] = tempo;
  const start = toNumber(from);
  if (tempo.length === 1 && single && !feel) return Math.min(toNumber(to), start + (seconds * speed * single.bpm) / 60);
  let low = start;
  let high = toNumber(to);
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (playSecondsTo(tempo, start, middle, speed, feel) < seconds) low = middle;
    else high = middle;
  }
  return low;
}

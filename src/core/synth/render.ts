import type { Setup } from '../instrument';
import type { Riff } from '../score';
import { add, barOf, barStart, cmp, maxQuarter, meterAt, mul, quarter, ZERO, type TempoStep } from '../time';
import { actionsOf, noisesOf, type Action } from './actions';
import { clockOf, playSeconds, type RenderOptions } from './clock';
import { layShots, noiseShot, soften, tick, type Shot } from './shots';
import { Strings } from './strings';

export interface Rendered {
  readonly samples: Float32Array;
  readonly rate: number;
  /** Seconds of count-in before the music. A loop repeats from there. */
  readonly lead: number;
  /** Seconds from the start of the music to its end. */
  readonly length: number;
}

export const SPEED_LIMITS = { min: 0.25, max: 1.5 } as const;
/** The longest stretch rendered in one go, in seconds. */
export const RENDER_SECONDS = 900;

/** A repeatable source of noise in [-1, 1) (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2147483648 - 1;
  };
}

/**
 * One riff over one stretch, sounded a block at a time: techniques as strikes, glides and damps at
 * their samples, one voice a string. Notes without a place borrow strings of their own. The strings
 * may be those of the pass before, so that what rings is stopped by the hand and not by the cut.
 */
export class Sounding {
  private readonly actions: readonly Action[];
  private readonly shots: readonly Shot[];
  private next = 0;
  private done = 0;

  /** @param lead seconds before the music starts */
  constructor(
    riff: Riff,
    setup: Setup,
    tempo: readonly TempoStep[],
    private readonly options: RenderOptions,
    lead: number,
    private readonly strings: Strings,
  ) {
    const random = seeded(options.seed);
    const clock = clockOf(riff, tempo, options, lead);
    this.actions = actionsOf(riff, setup, options, clock, random, strings).sort(
      (a, b) => a.at - b.at || a.order - b.order,
    );
    this.shots = noisesOf(riff, options, clock).map((one) => noiseShot(one, options.rate, random));
  }

  /** Adds the next samples, as many as `out` has. */
  fill(out: Float32Array): void {
    const { rate } = this.options;
    const begin = this.done;
    const end = begin + out.length;
    const to = (sample: number): void => {
      if (sample <= this.done) return;
      this.strings.render(out, this.done - begin, sample - this.done);
      this.done = sample;
    };
    for (
      let action = this.actions[this.next];
      action && Math.round(action.at * rate) < end;
      action = this.actions[++this.next]
    ) {
      to(Math.round(action.at * rate));
      action.run();
    }
    to(end);
    layShots(out, begin, this.shots);
  }

  /** Does what is left to do where the stretch ends: hands laid on strings that stop there. */
  finish(): void {
    for (let action = this.actions[this.next]; action; action = this.actions[++this.next])
      if (action.order === 0) action.run();
  }
}

/** Quarters of a riff's beat at a time. */
const beatAt = (riff: Riff, bar: number) => quarter(4, meterAt(riff.meters, Math.max(0, bar)).unit);

/** Seconds of count-in before a stretch. */
export function leadOf(riff: Riff, tempo: readonly TempoStep[], { from, speed, countIn }: RenderOptions): number {
  const start = maxQuarter(from, ZERO);
  return countIn * playSeconds(tempo, start, add(start, beatAt(riff, barOf(riff.meters, from).bar)), speed);
}

/** The click of a stretch, the count-in before it included. `double` clicks twice as often as the riff says. */
export function clicksOf(
  riff: Riff,
  tempo: readonly TempoStep[],
  options: RenderOptions,
  lead: number,
  double = false,
): Shot[] {
  const { from, to, speed, rate } = options;
  const first = Math.max(0, barOf(riff.meters, from).bar);
  const start = maxQuarter(from, ZERO);
  const unitSeconds = playSeconds(tempo, start, add(start, beatAt(riff, first)), speed);
  const shots = Array.from({ length: options.countIn }, (_, i) =>
    tick(lead - (options.countIn - i) * unitSeconds, rate, i === 0),
  );
  if (!options.click) return shots;
  for (let bar = first; ; bar++) {
    const start = barStart(riff.meters, bar);
    if (cmp(start, to) >= 0) return shots;
    const meter = meterAt(riff.meters, bar);
    const clicks = (riff.click ?? 1) * (double ? 2 : 1);
    const step = clicks < 1 ? mul(quarter(4, meter.unit), 2) : mul(quarter(4, meter.unit), 1, clicks);
    const count = Math.ceil(meter.beats * clicks);
    for (let b = 0; b < count; b++) {
      const at = add(start, mul(step, b));
      if (cmp(at, from) >= 0 && cmp(at, to) < 0)
        shots.push(tick(lead + playSeconds(tempo, from, at, speed, riff.feel), rate, b === 0));
    }
  }
}

/** Throws RangeError for a speed the player does not play at. */
export function checkSpeed(speed: number): void {
  if (!(speed >= SPEED_LIMITS.min && speed <= SPEED_LIMITS.max))
    throw new RangeError(`speed ${speed} is outside 0.25-1.5`);
}

/**
 * Renders a stretch of a riff in one go, with click and count-in. Deterministic for a seed. Throws
 * RangeError for a speed outside 0.25-1.5 or a stretch longer than RENDER_SECONDS.
 */
export function renderRiff(riff: Riff, setup: Setup, tempo: readonly TempoStep[], options: RenderOptions): Rendered {
  const { rate, speed, from, to } = options;
  checkSpeed(speed);
  const lead = leadOf(riff, tempo, options);
  const length = playSeconds(tempo, from, to, speed, riff.feel);
  if (length + lead > RENDER_SECONDS)
    throw new RangeError(`a stretch of ${Math.round(length)} s is too long to render at once`);
  const samples = new Float32Array(Math.ceil((lead + length) * rate));
  new Sounding(riff, setup, tempo, options, lead, new Strings(rate, setup)).fill(samples);
  layShots(samples, 0, clicksOf(riff, tempo, options, lead));
  soften(samples);
  return { samples, rate, lead, length };
}

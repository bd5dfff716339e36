import type { Hertz, Seconds } from '../base';
import { fitString } from './partials';
import { PeriodFinder } from './period';

/** What the ear hears at one moment of a single string. */
export interface EarReading {
  /** Seconds since the ear began to listen. */
  readonly at: Seconds;
  readonly hz: Hertz;
  /** 0-1: how periodic the sound is. */
  readonly clarity: number;
  /** Seconds since the string was struck. */
  readonly sinceAttack: Seconds;
}

export const EAR_LIMITS = { minHz: 26, maxHz: 1500 } as const;

/** Seconds: between looks, skipped after a pluck, kept, the longest stretch looked at. */
const HOP = 0.02;
const PLUCK = 0.012;
const KEEP = 0.45;
const SEARCH = 0.17;
/** A jump of the level by this factor within 40 ms is a new stroke. */
const ATTACK = 2.2;
/** Compared with the loudest of the last 30 ms, so that the beating of low partials is no stroke. */
const jumps = (now: number, before: readonly number[]): boolean =>
  before.length === 0 ? now > 0 : now > ATTACK * Math.max(...before.slice(-3), 1e-9);
/** Below this the string has died away. */
const SILENCE = 1e-4;
/** Aperiodicity above which a string that rang for a while is heard no more. */
const FADING = 0.2;
/** Inside, sound goes on at about this rate: enough samples a period of the highest note for its dip to be seen. */
const INNER_RATE = 22_000;

/**
 * A tuner's ear: takes sound in blocks as it comes and says what one string sounds, many times a
 * second. A period is found by YIN over the sound since the last stroke, only when there is enough
 * of it to tell a note from its octave; then the lowest partials are measured and the string's
 * stiffness taken out. Keeps the last half second only; the same for microphone, file and simulation.
 */
export class Ear {
  private readonly factor: number;
  private readonly rate: number;
  private readonly low: LowPass;
  private readonly kept: Float64Array;
  private readonly finder = new PeriodFinder();
  private count = 0;
  private phase = 0;
  private sinceLook = 0;
  private attackAt = 0;
  private levels: number[] = [];
  private energy = 0;
  private energyCount = 0;
  private bright = 0;
  private before = 0;
  private brights: number[] = [];

  /** @param rate samples a second of what is pushed, 8,000 to 192,000 */
  constructor(rate: number) {
    if (!(rate >= 8000 && rate <= 192_000)) throw new RangeError(`a sample rate of ${rate} is outside 8000-192000`);
    this.factor = Math.max(1, Math.floor(rate / INNER_RATE));
    this.rate = rate / this.factor;
    this.low = new LowPass(Math.min(4000, this.rate * 0.42) / rate);
    this.kept = new Float64Array(Math.ceil(KEEP * this.rate));
  }

  /** Takes a block of samples (-1 to 1) and gives what was heard in it, in order. */
  push(block: Float32Array): EarReading[] {
    const out: EarReading[] = [];
    for (let i = 0; i < block.length; i++) {
      const raw = block[i] as number;
      const y = this.low.step(Number.isFinite(raw) ? raw : 0);
      if (++this.phase < this.factor) continue;
      this.phase = 0;
      this.kept[this.count % this.kept.length] = y;
      this.count++;
      this.energy += y * y;
      // Brightness: what a stroke adds and a ringing string has lost.
      this.bright += (y - this.before) ** 2;
      this.before = y;
      if (++this.energyCount >= this.rate * 0.01) this.level();
      if (++this.sinceLook >= this.rate * HOP) {
        this.sinceLook = 0;
        const hearing = this.look();
        if (hearing) out.push(hearing);
      }
    }
    return out;
  }

  /** Level and brightness of the last 10 ms; a clear jump of either is a new stroke. */
  private level(): void {
    const now = Math.sqrt(this.energy / this.energyCount);
    const bright = Math.sqrt(this.bright / this.energyCount);
    this.energy = this.energyCount = this.bright = 0;
    if (now > SILENCE && (jumps(now, this.levels) || jumps(bright, this.brights)))
      this.attackAt = this.count - Math.round(this.rate * 0.01);
    for (const [list, value] of [
      [this.levels, now],
      [this.brights, bright],
    ] as const) {
      list.push(value);
      if (list.length > 8) list.shift();
    }
  }

  private look(): EarReading | null {
    const loud = this.levels.at(-1) ?? 0;
    if (loud < SILENCE) return null;
    const since = this.count - this.attackAt;
    const clean = Math.min(since - Math.round(PLUCK * this.rate), this.kept.length);
    if (clean < this.rate * 0.03) return null;
    const search = this.last(Math.min(clean, Math.round(SEARCH * this.rate)));
    const maxLag = Math.min(Math.ceil(this.rate / EAR_LIMITS.minHz), Math.floor(search.length * 0.48));
    const minLag = Math.max(3, Math.floor(this.rate / EAR_LIMITS.maxHz));
    const period = this.finder.find(search, search.length - maxLag - 1, minLag, maxLag);
    if (!period) return null;
    // Until twice the period could be looked at, a low note may pass for its octave.
    if (2.05 * period.lag > maxLag && maxLag < Math.ceil(this.rate / EAR_LIMITS.minHz)) return null;
    // A string dying away into the noise may show any of its partials.
    if (period.dip > FADING && since > this.rate * 0.4) return null;
    const rough = this.rate / period.lag;
    // The longest stretch of one stroke, but no more than some forty periods: strings glide while they ring.
    const span = Math.min(clean, Math.round(Math.max(0.12, Math.min(0.4, 40 / rough)) * this.rate));
    const fit = fitString(this.last(span), this.rate, rough);
    const hz = fit && Math.abs(fit.hz / rough - 1) < 0.02 ? fit.hz : rough;
    return { at: this.count / this.rate, hz, clarity: Math.max(0, 1 - period.dip), sinceAttack: since / this.rate };
  }

  private last(length: number): Float64Array {
    const out = new Float64Array(length);
    const size = this.kept.length;
    for (let i = 0; i < length; i++) out[i] = this.kept[(this.count - length + i + size) % size] as number;
    return out;
  }
}

/** Fourth-order Butterworth low-pass as two biquads (bilinear transform). */
class LowPass {
  private readonly stages: { b: number; a1: number; a2: number; x1: number; x2: number; y1: number; y2: number }[];

  constructor(cut: number) {
    const k = Math.tan(Math.PI * Math.min(0.49, cut));
    this.stages = [0.5411961, 1.306563].map((q) => {
      const norm = 1 / (1 + k / q + k * k);
      return {
        b: k * k * norm,
        a1: 2 * (k * k - 1) * norm,
        a2: (1 - k / q + k * k) * norm,
        x1: 0,
        x2: 0,
        y1: 0,
        y2: 0,
      };
    });
  }

  step(x: number): number {
    let v = x;
    for (const one of this.stages) {
      const y = one.b * (v + 2 * one.x1 + one.x2) - one.a1 * one.y1 - one.a2 * one.y2;
      one.x2 = one.x1;
      one.x1 = v;
      one.y2 = one.y1;
      one.y1 = y;
      v = y;
    }
    return v;
  }
}

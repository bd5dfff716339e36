import { frequency } from '../pitch';
import type { Hertz, Midi } from '../base';

/** Where the noise of a stroke begins to fall off: at so many times the pitch, and no lower than so many hertz. */
const EDGE = { soft: 3, hard: 9, least: 500 } as const;
/** How loud a stroke is, as the noise's share of full scale. */
const LOUD = 0.4;

/**
 * One plucked string: an extended Karplus-Strong loop (Karplus and Strong 1983; Jaffe and Smith
 * 1983) of a delay line with Lagrange interpolation, a one-zero loss filter whose phase delay is
 * compensated, and a pluck-position comb on the noise burst. A string plays one note at a time;
 * a new note stops the old one.
 */
export class StringVoice {
  private readonly line: Float64Array;
  private write = 0;
  private delay = 0;
  private loss = 0.5;
  private keep = 0;
  private last = 0;
  private level = 0;
  private fade = 1;
  private fadeStep = 0;
  private glide = 0;
  private glideLeft = 0;

  /** @param rate samples a second @param lowest the lowest pitch this string will be asked for */
  constructor(
    private readonly rate: number,
    lowest: Midi,
    private readonly a4: Hertz = 440,
  ) {
    this.line = new Float64Array(Math.ceil(rate / frequency(lowest - 1, 0, a4)) + 16);
  }

  /**
   * Strikes the string.
   * @param strength 0-1, also how bright
   * @param random numbers in [-1, 1), seeded by the caller so that renders repeat exactly
   * @param sustain share of its usual time that it rings: 1 free, less under a damping hand, which also takes its
   * brightness
   */
  pluck(pitch: Midi, strength: number, random: () => number, sustain = 1): void {
    const f0 = frequency(pitch, 0, this.a4);
    this.setPitch(f0, sustain);
    const period = Math.max(2, Math.round(this.rate / f0));
    const point = Math.max(1, Math.round(period * 0.18));
    const burst = new Float64Array(period);
    // Partials of a plucked string fall off from its own pitch up, the sooner the softer it is struck: so does the
    // noise.
    const edge = Math.max(EDGE.least, f0 * (EDGE.soft + EDGE.hard * strength)) * (sustain < 1 ? 0.4 : 1);
    const share = 1 - Math.exp((-2 * Math.PI * edge) / this.rate);
    let smooth = 0;
    // Twice round, so that its end meets its beginning.
    for (let i = -period; i < period; i++) {
      if (i < 0) burst[i + period] = random();
      smooth += share * ((burst[(i + period) % period] ?? 0) - smooth);
      if (i >= 0) burst[i] = smooth;
    }
    let mean = 0;
    for (let i = 0; i < period; i++) mean += (burst[i] ?? 0) / period;
    let power = 0;
    for (let i = 0; i < period; i++) power += ((burst[i] ?? 0) - mean) ** 2 / period;
    const even = LOUD / Math.sqrt(power || 1);
    // Where the string is plucked, partials with a node there are missing: a comb over the burst.
    this.line.fill(0);
    for (let i = 0; i < period; i++) {
      const combed = (burst[i] ?? 0) - (burst[(i - point + period) % period] ?? 0) * 0.8;
      this.line[(this.write - period + i + 4 * this.line.length) % this.line.length] =
        even * (combed - mean * 0.2) * strength;
    }
    this.last = 0;
    this.level = 1;
    this.fade = 1;
    this.fadeStep = 0;
    this.glideLeft = 0;
  }

  /** Changes the sounding pitch without a new attack: hammer-on, pull-off (at once) or slide (over `seconds`). */
  retune(pitch: Midi, seconds: number): void {
    const target = this.delayFor(frequency(pitch, 0, this.a4));
    if (seconds <= 0) {
      this.delay = target;
      this.glideLeft = 0;
      return;
    }
    this.glideLeft = Math.max(1, Math.round(seconds * this.rate));
    this.glide = (target - this.delay) / this.glideLeft;
  }

  /** Lays a finger on the string: it falls silent over some milliseconds, without a click. */
  damp(seconds = 0.025): void {
    this.fadeStep = 1 / Math.max(1, seconds * this.rate);
  }

  private setPitch(f0: Hertz, sustain: number): void {
    // Low strings ring longer and darker than high ones: T60 of 6 s at E2, 2.5 s at E4.
    const t60 = Math.min(8, Math.max(1.2, 6 * (82 / f0) ** 0.6)) * sustain;
    this.keep = 10 ** (-3 / (t60 * f0));
    this.loss = Math.min(0.5, 0.08 + f0 / 4000);
    this.delay = this.delayFor(f0);
  }

  /** Line length in samples: the period less the loss filter's phase delay at the fundamental. */
  private delayFor(f0: Hertz): number {
    const w = (2 * Math.PI * f0) / this.rate;
    const s = this.loss;
    const phase = Math.atan2(s * Math.sin(w), 1 - s + s * Math.cos(w)) / w;
    return this.rate / f0 - phase;
  }

  get silent(): boolean {
    return this.level < 1e-4;
  }

  /** Adds `count` samples to `out` from `from` on. */
  render(out: Float32Array, from: number, count: number, gain: number): void {
    const { line } = this;
    const size = line.length;
    for (let i = 0; i < count; i++) {
      if (this.level < 1e-4) return;
      if (this.glideLeft > 0) {
        this.delay += this.glide;
        this.glideLeft--;
      }
      const whole = Math.floor(this.delay);
      const x = this.delay - whole;
      const base = this.write - whole + 2 * size;
      // Third-order Lagrange interpolation around the fractional delay.
      const y0 = line[(base + 1) % size] ?? 0;
      const y1 = line[base % size] ?? 0;
      const y2 = line[(base - 1) % size] ?? 0;
      const y3 = line[(base - 2) % size] ?? 0;
      const read =
        (-x * (x - 1) * (x - 2) * y0) / 6 +
        ((x + 1) * (x - 1) * (x - 2) * y1) / 2 -
        ((x + 1) * x * (x - 2) * y2) / 2 +
        ((x + 1) * x * (x - 1) * y3) / 6;
      const filtered = this.keep * ((1 - this.loss) * read + this.loss * this.last);
      this.last = read;
      line[this.write % size] = filtered;
      this.write = (this.write + 1) % size;
      if (this.fadeStep > 0) {
        this.fade -= this.fadeStep;
        if (this.fade <= 0) {
          this.level = 0;
          return;
        }
      }
      this.level = Math.max(Math.abs(filtered), this.level * 0.9999);
      out[from + i] = (out[from + i] ?? 0) + filtered * gain * this.fade;
    }
  }
}

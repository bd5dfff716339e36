import type { Cents, StringNumber } from '../base';
import type { EarReading } from '../listen';
import type { Target } from './types';

/** What the tuner shows. */
export interface Shown {
  /** The string it takes the sound for; null where nothing near is to be tuned. */
  readonly string: StringNumber | null;
  /** From the target of that string, steadied; sharp above 0. */
  readonly cents: Cents;
  readonly hz: number;
  readonly verdict: 'in tune' | 'flat' | 'sharp' | 'far';
  /** True when the last readings agree: fit for the log. */
  readonly steady: boolean;
}

/** Within this a string comes to be in tune, and beyond the other it ceases to be: no flicker at the edge. */
export const IN_TUNE: { readonly enter: Cents; readonly leave: Cents } = { enter: 2, leave: 4 };
/** A sound further than this from every target is not taken for a string. */
const NEAR: Cents = 550;
/** Readings that are steadied together, and how far they may differ to be called steady. */
const WINDOW = 7;
const STEADY: Cents = 1.2;
/** Another string has to be heard this many times running before the needle goes to it. */
const SWITCH = 3;

const cents = (hz: number, target: number): Cents => 1200 * Math.log2(hz / target);

/**
 * The needle over the ear: guesses the string, steadies the cents by the median of the last
 * readings, and keeps "in tune" with hysteresis. A string may be fixed by hand.
 */
export class Needle {
  private string: StringNumber | null = null;
  private wish: StringNumber | null = null;
  private wished = 0;
  private recent: number[] = [];
  private inTune = false;
  private fixed: StringNumber | null = null;

  constructor(private targets: readonly Target[]) {}

  /** Other targets, as when the capo goes on; what was heard is forgotten. */
  setTargets(targets: readonly Target[]): void {
    this.targets = targets;
    this.forget();
    this.string = null;
  }

  /** Tunes one string whatever is heard; null lets the needle guess again. */
  fix(string: StringNumber | null): void {
    this.fixed = string;
    this.forget();
  }

  private forget(): void {
    this.recent = [];
    this.inTune = false;
    this.wish = null;
    this.wished = 0;
  }

  hear(hearing: EarReading): Shown {
    const guess = this.guess(hearing.hz);
    if (guess === null) return { string: null, cents: 0, hz: hearing.hz, verdict: 'far', steady: false };
    if (guess !== this.string) {
      this.wished = guess === this.wish ? this.wished + 1 : 1;
      this.wish = guess;
      if (this.string === null || this.wished >= SWITCH || hearing.sinceAttack < 0.12) {
        this.string = guess;
        this.forget();
      } else {
        return this.show(hearing.hz);
      }
    } else {
      this.wished = 0;
    }
    const target = this.targets.find((target) => target.string === this.string);
    if (!target) return { string: null, cents: 0, hz: hearing.hz, verdict: 'far', steady: false };
    const off = cents(hearing.hz, target.hz);
    // A peg that was turned is followed at once: what was read before does not hold any more.
    const middle = median(this.recent);
    if (this.recent.length > 0 && Math.abs(off - middle) > 12) this.recent = [];
    this.recent.push(off);
    if (this.recent.length > WINDOW) this.recent.shift();
    return this.show(hearing.hz);
  }

  private show(hz: number): Shown {
    const off = median(this.recent);
    this.inTune = Math.abs(off) <= (this.inTune ? IN_TUNE.leave : IN_TUNE.enter);
    const steady = this.recent.length >= 5 && Math.max(...this.recent) - Math.min(...this.recent) <= STEADY;
    return {
      string: this.string,
      cents: off,
      hz,
      verdict: this.inTune ? 'in tune' : off < 0 ? 'flat' : 'sharp',
      steady,
    };
  }

  private guess(hz: number): StringNumber | null {
    if (this.fixed !== null) return this.fixed;
    let best: Target | null = null;
    for (const target of this.targets)
      if (best === null || Math.abs(cents(hz, target.hz)) < Math.abs(cents(hz, best.hz))) best = target;
    return best !== null && Math.abs(cents(hz, best.hz)) <= NEAR ? best.string : null;
  }
}

function median(values: readonly number[]): number {
  if (values.length === 0) return 0;
  const sorted = [...values].sort((a, b) => a - b);
  const mid = sorted.length >> 1;
  return sorted.length % 2 === 1
    ? (sorted[mid] as number)
    : ((sorted[mid - 1] as number) + (sorted[mid] as number)) / 2;
}

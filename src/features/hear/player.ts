import { wrap, type Remote } from 'comlink';
import { writeWav } from '@/core/formats/wav';
import { quartersIn, type Balance, type Block, type Rung, type StreamPlan, type Track } from '@/core/synth';
import { cmp, maxQuarter, quarter, type FeelStep, type Quarter, type TempoStep } from '@/core/time';
import type { SynthDoor } from '@/workers/synth.worker';
import { Deck, RATE } from './deck';

export interface PlayRequest {
  /** The first leads. */
  readonly tracks: readonly Track[];
  readonly tempo: readonly TempoStep[];
  readonly feel: readonly FeelStep[] | undefined;
  readonly from: Quarter;
  readonly to: Quarter;
  readonly rungs: readonly Rung[];
  readonly double: boolean;
  readonly countIn: number;
}

type Mark = Omit<Block, 'tracks' | 'click'> & { readonly request: PlayRequest };

/** What sounds now. */
export interface Now {
  /** Quarters of the riff; null while it is counted in. */
  readonly at: number | null;
  /** Share of the count-in gone by, 0 to 1; null once it plays. */
  readonly counted: number | null;
  readonly speed: number;
  readonly pass: number;
  readonly version: number;
}

/**
 * Sounds a stretch of riffs: drawn from a worker as it is heard, followed by a playhead. Voices are the tracks in
 * order, then the click.
 */
export class Player {
  private readonly worker: Worker;
  private readonly door: Remote<SynthDoor>;
  private readonly deck: Deck<Mark>;
  private opened = 0;

  constructor(onChange: (playing: boolean) => void, onFault: (reason: unknown) => void = () => undefined) {
    this.worker = new Worker(new URL('../../workers/synth.worker.ts', import.meta.url), { type: 'module' });
    this.door = wrap<SynthDoor>(this.worker);
    // Well below full scale: headphones are close to the ear.
    this.deck = new Deck(onChange, onFault);
  }

  private plan({ tracks, tempo, from, to, rungs, double, countIn }: PlayRequest, begin: Quarter): StreamPlan {
    return { rate: RATE, tracks, tempo, from, to, begin, rungs, double, countIn, seed: 1 };
  }

  /**
   * Plays, from `begin` on where it is given; throws what the renderer says where there is nothing to play. A second
   * call replaces the first.
   */
  async play(request: PlayRequest, begin: number | null = null): Promise<void> {
    const id = ++this.opened;
    const start = begin === null ? request.from : maxQuarter(request.from, quarter(Math.round(begin * 960), 960));
    const plan = this.plan(request, cmp(start, request.to) < 0 ? start : request.from);
    let first = true;
    await this.deck.start(async (frames) => {
      const block = await (first ? this.door.open(id, plan, frames) : this.door.next(id, frames));
      first = false;
      if (!block) return null;
      const { tracks, click, ...mark } = block;
      return { voices: [...tracks.map((samples) => [samples]), [click]], mark: { ...mark, request } };
    });
  }

  setBalance(balance: readonly Balance[]): void {
    this.deck.setBalance(balance);
  }

  /** What would sound, as a WAV file: without count-in, its last passes once. */
  async saved(request: PlayRequest, balance: readonly Balance[]): Promise<Uint8Array> {
    const rungs = request.rungs.map((rung) => ({
      ...rung,
      times: Number.isFinite(rung.times) ? rung.times : (request.tracks[0]?.versions.length ?? 1),
    }));
    return writeWav({
      rate: RATE,
      channels: await this.door.mix(this.plan({ ...request, rungs, countIn: 0 }, request.from), balance),
    });
  }

  stop(): void {
    this.deck.stop();
  }

  now(): Now | null {
    const now = this.deck.now();
    if (!now) return null;
    const { request, from, at, speed, lead, pass, version } = now.mark;
    const seconds = at + now.seconds;
    const counting = lead > 0 && seconds < 0;
    return {
      at: counting ? null : quartersIn(request.tempo, request.feel, from, request.to, speed, Math.max(0, seconds)),
      counted: counting ? 1 + seconds / lead : null,
      speed,
      pass,
      version,
    };
  }

  close(): void {
    this.deck.close();
    this.worker.terminate();
  }
}

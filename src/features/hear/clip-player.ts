import { wrap, type Remote } from 'comlink';
import type { BarMap } from '@/core/hearing';
import type { Setup } from '@/core/instrument';
import type { Band, Channels } from '@/core/listen';
import type { Riff } from '@/core/score';
import { quarter } from '@/core/time';
import type { SynthDoor } from '@/workers/synth.worker';
import { Deck, RATE, type Passage } from './deck';
import type { ClipSound } from './clip-sound';

/** How the recording and what is written are heard against each other. */
export const COMPARISONS = ['recording', 'together', 'sides', 'turn'] as const;
export type Comparison = (typeof COMPARISONS)[number];

export interface HearRequest {
  readonly from: number;
  readonly to: number;
  readonly loop: boolean;
  /** Percent. */
  readonly speed: number;
  readonly semitones: number;
  readonly channels: Channels;
  readonly band: Band;
  /** What is written, laid on the recording by its bars, to be heard beside it. */
  readonly beside: {
    readonly riff: Riff;
    readonly setup: Setup;
    readonly bars: BarMap;
    readonly cents: number;
    readonly how: Exclude<Comparison, 'recording'>;
  } | null;
}

interface Mark {
  readonly request: HearRequest;
  /** Seconds of the recording where the passage begins. */
  readonly at: number;
  readonly written: boolean;
}

/** Drawn out in shares of so many seconds of sound, the first short, so that it is heard soon. */
const FIRST_SHARE = 2;
const SHARE = 8;
/** Shares of a loop are kept, up to so many seconds of sound. */
const KEPT = 120;
/** Sound is taken up and let go over so long where a stretch begins and ends. */
const EDGE = Math.round(0.003 * RATE);

interface Share {
  readonly channels: readonly Float32Array[];
  readonly to: number;
}

/** Sounds a recording: as it is from the decoded buffer, or drawn out by the worker; alone, or with what is written. */
export class ClipPlayer {
  private readonly deck: Deck<Mark>;
  private synth: { readonly worker: Worker; readonly door: Remote<SynthDoor> } | null = null;
  private opened = 0;

  constructor(
    private readonly sound: ClipSound,
    onChange: (playing: boolean) => void,
    onFault: (reason: unknown) => void,
  ) {
    this.deck = new Deck(onChange, onFault);
  }

  setLevel(level: number): void {
    this.deck.setVolume(level * 0.8);
  }

  /** Plays from `start`; a loop comes back to its beginning. */
  async play(request: HearRequest, start = request.from): Promise<void> {
    const { beside } = request;
    const aside = beside?.how === 'sides';
    this.deck.setBalance([
      { level: 1, pan: aside ? -1 : 0 },
      { level: beside?.how === 'together' ? 0.8 : 1, pan: aside ? 1 : 0 },
    ]);
    await this.deck.start(this.source(request, Math.max(request.from, Math.min(start, request.to - 0.02))));
  }

  private source(request: HearRequest, start: number): (frames: number) => Promise<Passage<Mark> | null> {
    const { beside } = request;
    const kept = new Map<number, Share>();
    let keptSeconds = 0;
    let at = start;
    let pass = 0;
    let passStart = start;
    let written: ((frames: number) => Promise<Float32Array>) | null = null;
    const speed = request.speed / 100;
    /**
     * Samples from the beginning of the pass to a time of the recording: rounded from the whole, so that nothing
     * drifts.
     */
    const framesTo = (time: number): number => Math.round(((time - passStart) / speed) * RATE);
    return async (frames) => {
      if (at >= request.to - 1e-4) {
        if (!request.loop && !(beside?.how === 'turn' && pass === 0)) return null;
        at = passStart = request.from;
        pass++;
        written = null;
      }
      const turned = beside?.how === 'turn' && pass % 2 === 1;
      const from = at;
      let share = kept.get(from);
      if (!share) {
        share = await this.share(request, from, from === start ? FIRST_SHARE : SHARE, frames);
        if (request.loop && keptSeconds < KEPT) {
          kept.set(from, share);
          keptSeconds += (share.to - from) / speed;
        }
      }
      at = share.to;
      const count = Math.max(1, framesTo(share.to) - framesTo(from));
      const recording = share.channels.map((samples) =>
        fitted(
          samples,
          turned ? 0 : count,
          count,
          (from === start && pass === 0) || from === request.from,
          at >= request.to - 1e-4,
        ),
      );
      const voices: Float32Array[][] = [recording];
      if (beside && (beside.how !== 'turn' || turned)) {
        written ??= this.written(request, from);
        voices.push([await written(count)]);
      }
      return { voices, mark: { request, at: from, written: turned } };
    };
  }

  /** The next share of the recording, as it is to be heard. */
  private async share(request: HearRequest, from: number, seconds: number, frames: number): Promise<Share> {
    const { channels, band, semitones } = request;
    const speed = request.speed / 100;
    if (
      speed === 1 &&
      semitones === 0 &&
      channels === 'both' &&
      band === 'all' &&
      this.sound.sound.channels.length <= 2
    ) {
      const { channels: samples } = this.sound.sound;
      const to = Math.min(request.to, from + frames / RATE);
      await this.sound.until(to);
      return { to, channels: samples.map((samples) => samples.slice(Math.round(from * RATE), Math.round(to * RATE))) };
    }
    const upTo = Math.min(request.to, from + seconds * speed);
    await this.sound.until(upTo + 1);
    return this.sound.door.cut({ from, upTo, goesOn: upTo < request.to, speed, semitones, channels, band });
  }

  /** What is written, from a time of the recording on, by the recording's own bars. */
  private written(
    { beside, to, speed, semitones }: HearRequest,
    from: number,
  ): (frames: number) => Promise<Float32Array> {
    const id = ++this.opened;
    if (!this.synth) {
      const worker = new Worker(new URL('../../workers/synth.worker.ts', import.meta.url), { type: 'module' });
      this.synth = { worker, door: wrap<SynthDoor>(worker) };
    }
    const { door } = this.synth;
    let first = true;
    const exact = (seconds: number) => quarter(Math.round((beside?.bars.quarters(seconds) ?? 0) * 9600), 9600);
    return async (frames) => {
      const out = new Float32Array(frames);
      for (let got = 0; beside && got < frames;) {
        const block = first
          ? await door.open(
              id,
              {
                rate: RATE,
                tracks: [{ setup: beside.setup, versions: [beside.riff] }],
                tempo: beside.bars.tempo(),
                from: exact(from),
                to: exact(to),
                begin: exact(from),
                countIn: 0,
                double: false,
                rungs: [{ speed: speed / 100, times: 1 }],
                seed: 1,
                cents: beside.cents + 100 * semitones,
              },
              frames,
            )
          : await door.next(id, frames - got);
        first = false;
        const [samples] = block?.tracks ?? [];
        if (!samples) break;
        out.set(samples, got);
        got += samples.length;
      }
      return out;
    };
  }

  /** Another sound over what plays, or alone: the candidate pitch. */
  async sounding(samples: Float32Array): Promise<void> {
    await this.deck.sound(samples);
  }

  stop(): void {
    this.deck.stop();
  }

  /** Seconds of the recording that sound now, null in silence. */
  at(): number | null {
    const now = this.deck.now();
    return now && Math.min(now.mark.request.to, now.mark.at + (now.seconds * now.mark.request.speed) / 100);
  }

  /** Whether what is written sounds now in the recording's turn. */
  turned(): boolean {
    return this.deck.now()?.mark.written ?? false;
  }

  /** Level of what sounds, in decibels under full scale; null in silence. */
  level(): number | null {
    return this.deck.level();
  }

  close(): void {
    this.deck.close();
    this.synth?.worker.terminate();
  }
}

/**
 * Samples brought to a length, silent after `sounding` of them, and taken up or let go softly at the ends of a
 * stretch.
 */
function fitted(samples: Float32Array, sounding: number, length: number, begins: boolean, ends: boolean): Float32Array {
  const out = new Float32Array(length);
  out.set(samples.subarray(0, Math.min(sounding, length)));
  for (let i = 0; i < Math.min(EDGE, length / 2); i++) {
    if (begins) out[i] = ((out[i] as number) * i) / EDGE;
    if (ends) out[length - 1 - i] = ((out[length - 1 - i] as number) * i) / EDGE;
  }
  return out;
}

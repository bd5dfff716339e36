import { openMicrophone, type Microphone } from '@/features/hear/microphone';
import { wrap, type Remote } from 'comlink';
import type { Shown, Target } from '@/core/tuner';
import type { TunerDoor } from '@/workers/tuner.worker';

const RATE = 44_100;
const BLOCK = 1024;
const PLUCK_SECONDS = 2.6;
/** The simulated string reaches the ear as fast as it would sound, in pieces of this many milliseconds. */
const FEED_MS = 46;

export type Source = 'none' | 'microphone' | 'simulated';

/** What keeps a microphone from being heard, in words with the mend. */
export function microphoneFault(reason: unknown): string {
  const name = reason instanceof DOMException ? reason.name : '';
  if (name === 'NotAllowedError')
    return 'The browser may not use the microphone. Allow it in the address bar, or tune the simulated instrument.';
  if (name === 'NotFoundError') return 'No microphone was found. Plug one in, or tune the simulated instrument.';
  if (name === 'NotReadableError') return 'The microphone is in use by another program. Close that one and try again.';
  return `The microphone can't be used: ${reason instanceof Error ? reason.message : String(reason)}`;
}

/**
 * Sound to needle: owns the worker with ear and needle, the microphone, and the loudspeaker for
 * reference tones and the simulated instrument.
 */
export class TunerSession {
  private readonly worker: Worker;
  private readonly door: Remote<TunerDoor>;
  private context: AudioContext | null = null;
  private microphone: Microphone | null = null;
  private playing: AudioBufferSourceNode | null = null;
  private feed: ReturnType<typeof setInterval> | null = null;
  private source: Source = 'none';
  private targets: readonly Target[] = [];
  private seed = 1;
  private ended = false;

  constructor(private readonly onShown: (shown: Shown | null) => void) {
    this.worker = new Worker(new URL('../../workers/tuner.worker.ts', import.meta.url), { type: 'module' });
    this.door = wrap<TunerDoor>(this.worker);
  }

  private audio(): AudioContext {
    this.context ??= new AudioContext({ sampleRate: RATE, latencyHint: 'interactive' });
    return this.context;
  }

  aim(targets: readonly Target[]): void {
    this.targets = targets;
    void this.door.aim(targets);
  }

  fix(string: number | null): void {
    void this.door.fix(string);
  }

  /** Listens to the microphone; throws what the browser says. */
  async listen(): Promise<void> {
    this.stopSource();
    const context = this.audio();
    let begun = false;
    const microphone = await openMicrophone(context, (block) => {
      if (begun) this.hear(block);
    });
    if (this.ended) return microphone.stop();
    await this.door.begin(context.sampleRate, this.targets);
    begun = true;
    this.microphone = microphone;
    this.source = 'microphone';
  }

  /** Makes ready for the simulated instrument. */
  async simulate(): Promise<void> {
    this.stopSource();
    await this.door.begin(RATE, this.targets);
    this.source = 'simulated';
  }

  /** Strikes a string of the simulated instrument: the ear hears it, and so does the room where wished. */
  async strike(hz: number, aloud: boolean): Promise<void> {
    if (this.source !== 'simulated') return;
    const sound = await this.door.pluck(hz, PLUCK_SECONDS, RATE, this.seed++);
    if (this.feed !== null) clearInterval(this.feed);
    if (aloud) this.play(sound);
    let at = 0;
    const begun = performance.now();
    this.feed = setInterval(() => {
      const until = Math.min(sound.length, Math.round(((performance.now() - begun) / 1000) * RATE));
      for (; at + BLOCK <= until; at += BLOCK) this.hear(sound.slice(at, at + BLOCK));
      if (at + BLOCK > sound.length && this.feed !== null) {
        clearInterval(this.feed);
        this.feed = null;
      }
    }, FEED_MS);
  }

  /** Sounds a reference tone. */
  async tone(hz: number): Promise<void> {
    const sound = await this.door.pluck(hz, 3, RATE, 1);
    this.play(sound);
  }

  private play(sound: Float32Array): void {
    const context = this.audio();
    void context.resume();
    this.playing?.stop();
    const buffer = context.createBuffer(1, sound.length, RATE);
    buffer.getChannelData(0).set(sound);
    const node = context.createBufferSource();
    const gain = context.createGain();
    // Well below full scale: headphones are close to the ear.
    gain.gain.value = 0.4;
    node.buffer = buffer;
    node.connect(gain).connect(context.destination);
    node.start();
    this.playing = node;
  }

  private hear(block: Float32Array): void {
    void this.door.push(block).then((shown) => {
      // What was under way when listening stopped is not shown any more.
      if (!this.ended && this.source !== 'none' && shown) this.onShown(shown);
    });
  }

  private stopSource(): void {
    if (this.feed !== null) clearInterval(this.feed);
    this.feed = null;
    this.microphone?.stop();
    this.microphone = null;
    this.source = 'none';
  }

  stop(): void {
    this.stopSource();
    this.onShown(null);
  }

  end(): void {
    this.ended = true;
    this.stopSource();
    this.playing?.stop();
    void this.context?.close();
    this.worker.terminate();
  }
}

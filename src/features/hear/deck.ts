import type { Balance } from '@/core/synth';

/** What sounds next: voices of one length, each of one channel or two. `mark` comes back from `now` while it sounds. */
export interface Passage<M> {
  readonly voices: readonly (readonly Float32Array[])[];
  readonly mark: M;
}

/** Gives passages one after the other, about as many frames as asked for; null at the end. */
export type Source<M> = (frames: number) => Promise<Passage<M> | null>;

export const RATE = 44_100;
/** Starts a little ahead, so that the first sample is not late. */
const AHEAD = 0.05;
/** A short first passage is heard soon; then as much is kept waiting as a page in the background needs. */
const FIRST = 0.3;
const EACH = 1;
const KEPT = 2.5;
const LOOK_MS = 120;
/** Sound is let go over so long where it is cut off. */
const RELEASE = 0.012;

interface Run<M> {
  readonly source: Source<M>;
  readonly out: GainNode;
  readonly voices: { readonly gain: GainNode; readonly pan: StereoPannerNode }[];
  readonly sounding: Set<AudioBufferSourceNode>;
  readonly passages: { readonly at: number; readonly until: number; readonly mark: M }[];
  until: number;
  ended: boolean;
}

/**
 * Lays passages end to end on the audio clock, sample to sample, drawing them from a source as they
 * are needed. The balance of voices may change at any time and begins nothing anew. A new start
 * replaces what sounds only when its first passage is there.
 */
export class Deck<M> {
  private context: AudioContext | null = null;
  private master: GainNode | null = null;
  private analyser: AnalyserNode | null = null;
  private run: Run<M> | null = null;
  private balance: readonly Balance[] = [];
  private volume = 0.5;
  /** Grows with each request: answers to older ones are dropped. */
  private turn = 0;

  constructor(
    private readonly onChange: (playing: boolean) => void,
    private readonly onFault: (reason: unknown) => void,
  ) {}

  private ready(): { context: AudioContext; master: GainNode } {
    const context = (this.context ??= new AudioContext({ sampleRate: RATE, latencyHint: 'interactive' }));
    if (!this.master) {
      this.master = context.createGain();
      this.master.gain.value = this.volume;
      this.analyser = context.createAnalyser();
      this.analyser.fftSize = 2048;
      this.master.connect(this.analyser).connect(context.destination);
    }
    return { context, master: this.master };
  }

  /** Sounds a source from its beginning; throws what it throws for its first passage. */
  async start(source: Source<M>): Promise<void> {
    const turn = ++this.turn;
    const { context, master } = this.ready();
    const [first] = await Promise.all([source(Math.round(FIRST * RATE)), context.resume()]);
    if (turn !== this.turn) return;
    this.letGo();
    if (!first) return this.onChange(false);
    const out = context.createGain();
    out.connect(master);
    const run: Run<M> = {
      source,
      out,
      voices: [],
      sounding: new Set(),
      passages: [],
      until: Math.ceil((context.currentTime + AHEAD) * RATE) / RATE,
      ended: false,
    };
    this.run = run;
    this.lay(run, context, first);
    this.onChange(true);
    void this.keep(run, context);
  }

  /** Lays passages ahead for as long as the run is this deck's. */
  private async keep(run: Run<M>, context: AudioContext): Promise<void> {
    try {
      while (this.run === run) {
        if (run.ended && context.currentTime >= run.until) return this.stop();
        if (!run.ended && run.until - context.currentTime < KEPT) {
          const passage = await run.source(Math.round(EACH * RATE));
          if (this.run !== run) return;
          if (passage) this.lay(run, context, passage);
          else run.ended = true;
        } else await new Promise((wake) => setTimeout(wake, LOOK_MS));
      }
    } catch (reason) {
      if (this.run !== run) return;
      this.stop();
      this.onFault(reason);
    }
  }

  private lay(run: Run<M>, context: AudioContext, { voices, mark }: Passage<M>): void {
    // Where the source could not keep up there is a gap, and time goes on from now.
    if (run.until < context.currentTime + 0.005) run.until = Math.ceil((context.currentTime + AHEAD) * RATE) / RATE;
    const frames = voices[0]?.[0]?.length ?? 0;
    if (frames === 0) return;
    voices.forEach((channels, index) => {
      run.voices[index] ??= this.voice(context, run.out, index);
      const buffer = context.createBuffer(channels.length, frames, RATE);
      channels.forEach((samples, index) => buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, index));
      const node = context.createBufferSource();
      node.buffer = buffer;
      node.connect(run.voices[index].gain);
      node.onended = () => {
        run.sounding.delete(node);
        node.disconnect();
      };
      run.sounding.add(node);
      node.start(run.until);
    });
    run.passages.push({ at: run.until, until: run.until + frames / RATE, mark });
    run.until += frames / RATE;
    while (run.passages.length > 1 && (run.passages[0]?.until ?? 0) < context.currentTime - 1) run.passages.shift();
  }

  private voice(context: AudioContext, out: GainNode, v: number): Run<M>['voices'][number] {
    const gain = context.createGain();
    const pan = context.createStereoPanner();
    gain.connect(pan).connect(out);
    const { level, pan: side } = this.balance[v] ?? { level: 1, pan: 0 };
    gain.gain.value = level;
    pan.pan.value = side;
    return { gain, pan };
  }

  setBalance(balance: readonly Balance[]): void {
    this.balance = balance;
    const now = this.context?.currentTime ?? 0;
    this.run?.voices.forEach(({ gain, pan }, index) => {
      gain.gain.setTargetAtTime(balance[index]?.level ?? 1, now, 0.008);
      pan.pan.setTargetAtTime(balance[index]?.pan ?? 0, now, 0.008);
    });
  }

  /** Of everything, 0 to 1. */
  setVolume(volume: number): void {
    this.volume = volume;
    if (this.master) this.master.gain.value = volume;
  }

  /** One sound over what plays, or alone. */
  async sound(samples: Float32Array): Promise<void> {
    const { context, master } = this.ready();
    await context.resume();
    const buffer = context.createBuffer(1, samples.length, RATE);
    buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, 0);
    const node = context.createBufferSource();
    node.buffer = buffer;
    node.connect(master);
    node.onended = () => node.disconnect();
    node.start();
  }

  stop(): void {
    this.turn++;
    this.letGo();
    this.onChange(false);
  }

  private letGo(): void {
    const { run, context } = this;
    this.run = null;
    if (!run || !context) return;
    run.out.gain.setTargetAtTime(0, context.currentTime, RELEASE / 3);
    for (const node of run.sounding) node.stop(context.currentTime + 2 * RELEASE);
    setTimeout(() => run.out.disconnect(), 1000 * 3 * RELEASE);
  }

  /** What sounds now and how many seconds of it are gone; null in silence. */
  now(): { readonly mark: M; readonly seconds: number } | null {
    const { run, context } = this;
    if (!run || !context) return null;
    const at = context.currentTime;
    const passage = run.passages.find((one) => at < one.until) ?? run.passages.at(-1);
    return passage ? { mark: passage.mark, seconds: Math.max(0, Math.min(passage.until, at) - passage.at) } : null;
  }

  /** Level of what sounds, in decibels under full scale; null in silence. */
  level(): number | null {
    if (!this.analyser || !this.run) return null;
    const samples = new Float32Array(this.analyser.fftSize);
    this.analyser.getFloatTimeDomainData(samples);
    let sum = 0;
    for (const v of samples) sum += v * v;
    return 10 * Math.log10(sum / samples.length + 1e-10);
  }

  close(): void {
    this.turn++;
    this.letGo();
    void this.context?.close();
  }
}

import type { Band, Channels } from '@/core/listen';
import type { ClipSound } from './clip-sound';

export interface HearRequest {
  readonly from: number;
  readonly to: number;
  readonly loop: boolean;
  /** Percent. */
  readonly speed: number;
  readonly semitones: number;
  readonly channels: Channels;
  readonly band: Band;
  /** Volume, 0 to 1. */
  readonly level: number;
}

/** The longest stretch drawn out at once, in seconds of the recording; a longer one goes on by itself. */
const AT_ONCE = 24;
const AHEAD = 0.04;

/** Sounds a recording: as it is from the decoded buffer, or a stretch of it made by the worker. Follows the audio clock. */
export class ClipPlayer {
  private context: AudioContext | null = null;
  private gain: GainNode | null = null;
  private analyser: AnalyserNode | null = null;
  private source: AudioBufferSourceNode | null = null;
  private playing: { readonly request: HearRequest; readonly startedAt: number; readonly from: number; readonly span: number; readonly speed: number } | null = null;
  private turn = 0;

  constructor(private readonly sound: ClipSound, private readonly onChange: (playing: boolean) => void) {}

  private ready(level: number): { context: AudioContext; gain: GainNode } {
    this.context ??= new AudioContext({ sampleRate: this.sound.buffer.sampleRate, latencyHint: 'interactive' });
    if (!this.gain) {
      this.gain = this.context.createGain();
      this.analyser = this.context.createAnalyser();
      this.analyser.fftSize = 2048;
      this.gain.connect(this.analyser).connect(this.context.destination);
    }
    this.gain.gain.value = level * 0.8;
    return { context: this.context, gain: this.gain };
  }

  setLevel(level: number): void {
    if (this.gain) this.gain.gain.value = level * 0.8;
  }

  /** Plays from `start`; a loop comes back to its beginning. */
  async play(request: HearRequest, start = request.from): Promise<void> {
    const turn = ++this.turn;
    const { context, gain } = this.ready(request.level);
    await context.resume();
    const plain = request.speed === 100 && request.semitones === 0 && request.channels === 'both' && request.band === 'all';
    const from = request.loop && !plain ? request.from : start;
    const to = plain || request.loop ? request.to : Math.min(request.to, from + AT_ONCE);
    let buffer = this.sound.buffer;
    if (!plain) {
      const samples = await this.sound.door.cut({ from, to, speed: request.speed / 100, semitones: request.semitones, channels: request.channels, band: request.band });
      if (turn !== this.turn) return;
      buffer = context.createBuffer(1, Math.max(1, samples.length), this.sound.buffer.sampleRate);
      buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, 0);
    }
    this.halt();
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.loop = request.loop;
    const startedAt = context.currentTime + AHEAD;
    source.connect(gain);
    const speed = plain ? 1 : request.speed / 100;
    if (plain) {
      source.loopStart = request.from;
      source.loopEnd = request.to;
      if (request.loop) source.start(startedAt, start);
      else source.start(startedAt, start, Math.max(0.01, to - start));
    } else {
      source.loopEnd = buffer.duration;
      source.start(startedAt, request.loop ? Math.max(0, start - request.from) / speed : 0);
    }
    const playing = { request, startedAt, from: plain || request.loop ? start : from, span: to - request.from, speed };
    this.playing = playing;
    this.source = source;
    source.onended = () => {
      if (this.playing !== playing) return;
      if (!plain && !request.loop && to < request.to - 0.01) void this.play(request, to);
      else this.stop();
    };
    this.onChange(true);
  }

  /** Another sound over what plays, or alone: the candidate pitch. */
  async sounding(samples: Float32Array, level: number): Promise<void> {
    const { context, gain } = this.ready(level);
    await context.resume();
    const buffer = context.createBuffer(1, samples.length, this.sound.buffer.sampleRate);
    buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, 0);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(gain);
    source.start();
  }

  stop(): void {
    this.turn++;
    this.halt();
    this.onChange(false);
  }

  private halt(): void {
    if (this.source) {
      this.source.onended = null;
      this.source.stop();
      this.source.disconnect();
    }
    this.source = null;
    this.playing = null;
  }

  /** Seconds of the recording that sound now, null in silence. */
  at(): number | null {
    if (!this.playing || !this.context) return null;
    const { request, startedAt, from, span, speed } = this.playing;
    const gone = Math.max(0, this.context.currentTime - startedAt) * speed;
    const at = from + gone;
    if (!request.loop) return Math.min(at, request.to);
    return request.from + ((((at - request.from) % span) + span) % span);
  }

  /** Level of what sounds, in decibels under full scale; null in silence. */
  level(): number | null {
    if (!this.analyser || !this.playing) return null;
    const samples = new Float32Array(this.analyser.fftSize);
    this.analyser.getFloatTimeDomainData(samples);
    let sum = 0;
    for (const v of samples) sum += v * v;
    return 10 * Math.log10(sum / samples.length + 1e-10);
  }

  close(): void {
    this.halt();
    void this.context?.close();
  }
}

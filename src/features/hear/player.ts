import { wrap, type Remote } from 'comlink';
import { writeWav } from '@/core/formats/wav';
import type { Setup } from '@/core/instrument';
import type { Riff } from '@/core/score';
import { playSecondsTo } from '@/core/synth';
import { toNumber, type Quarter, type TempoStep } from '@/core/time';
import type { SynthDoor } from '@/workers/synth.worker';

export interface PlayRequest {
  readonly riff: Riff;
  readonly setup: Setup;
  readonly tempo: readonly TempoStep[];
  readonly from: Quarter;
  readonly to: Quarter;
  readonly speed: number;
  readonly click: boolean;
  readonly countIn: number;
  readonly loop: boolean;
}

interface Playing {
  readonly source: AudioBufferSourceNode;
  readonly request: PlayRequest;
  readonly startedAt: number;
  readonly lead: number;
  readonly length: number;
}

const RATE = 44_100;
/** Start a little ahead, so that the first sample is not late. */
const AHEAD = 0.06;

/** Sounds a stretch of a riff: rendered in a worker, looped by the audio clock, followed by a playhead. */
export class Player {
  private context: AudioContext | null = null;
  private gain: GainNode | null = null;
  private readonly worker: Worker;
  private readonly door: Remote<SynthDoor>;
  private playing: Playing | null = null;
  /** Grows with each request: answers to older ones are dropped. */
  private turn = 0;

  constructor(private readonly onChange: (playing: boolean) => void) {
    this.worker = new Worker(new URL('../../workers/synth.worker.ts', import.meta.url), { type: 'module' });
    this.door = wrap<SynthDoor>(this.worker);
  }

  /** Plays; throws what the renderer says when the stretch is too long. A second call replaces the first. */
  async play(request: PlayRequest): Promise<void> {
    const turn = ++this.turn;
    this.context ??= new AudioContext({ sampleRate: RATE, latencyHint: 'interactive' });
    if (!this.gain) {
      this.gain = this.context.createGain();
      // Well below full scale: headphones are close to the ear.
      this.gain.gain.value = 0.5;
      this.gain.connect(this.context.destination);
    }
    await this.context.resume();
    const { riff, setup, tempo, from, to, speed, click, countIn } = request;
    const rendered = await this.door.render(riff, setup, tempo, { rate: RATE, speed, from, to, click, countIn, seed: 1 });
    if (turn !== this.turn) return;
    this.halt();
    const buffer = this.context.createBuffer(1, rendered.samples.length, rendered.rate);
    buffer.copyToChannel(rendered.samples as Float32Array<ArrayBuffer>, 0);
    const source = this.context.createBufferSource();
    source.buffer = buffer;
    source.loop = request.loop;
    source.loopStart = rendered.lead;
    source.loopEnd = rendered.lead + rendered.length;
    source.connect(this.gain);
    const startedAt = this.context.currentTime + AHEAD;
    source.start(startedAt);
    const playing = { source, request, startedAt, lead: rendered.lead, length: rendered.length };
    source.onended = () => {
      if (this.playing === playing) this.stop();
    };
    this.playing = playing;
    this.onChange(true);
  }

  /** What would sound, as a WAV file: without count-in, once through. */
  async bounced({ riff, setup, tempo, from, to, speed, click }: PlayRequest): Promise<Uint8Array> {
    const { samples, rate } = await this.door.render(riff, setup, tempo, { rate: RATE, speed, from, to, click, countIn: 0, seed: 1 });
    return writeWav({ rate, channels: [samples] });
  }

  stop(): void {
    this.turn++;
    this.halt();
    this.onChange(false);
  }

  private halt(): void {
    if (!this.playing) return;
    this.playing.source.onended = null;
    this.playing.source.stop();
    this.playing.source.disconnect();
    this.playing = null;
  }

  /** Where the music is, in quarters of the riff; null in silence and during the count-in. */
  at(): number | null {
    const { playing, context } = this;
    if (!playing || !context) return null;
    let seconds = context.currentTime - playing.startedAt - playing.lead;
    if (seconds < 0 || playing.length <= 0) return null;
    if (playing.request.loop) seconds %= playing.length;
    return quartersAt(playing.request, Math.min(seconds, playing.length));
  }

  close(): void {
    this.halt();
    this.worker.terminate();
    void this.context?.close();
  }
}

/** The inverse of the tempo map by halving: exact to well under a pixel. */
function quartersAt({ tempo, from, to, speed, riff }: PlayRequest, seconds: number): number {
  const [single] = tempo;
  if (tempo.length === 1 && single && !riff.feel) return toNumber(from) + (seconds * speed * single.bpm) / 60;
  let low = toNumber(from);
  let high = toNumber(to);
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (playSecondsTo(tempo, toNumber(from), middle, speed, riff.feel) < seconds) low = middle;
    else high = middle;
  }
  return low;
}

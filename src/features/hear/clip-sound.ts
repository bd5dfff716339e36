import { proxy, transfer, wrap, type Remote } from 'comlink';
import { fail, ok, type Result } from '@/core/base';
import { CLIP_LIMITS } from '@/core/heard';
import type { Channels, Listened, ListenOptions } from '@/core/listen';
import type { ListenDoor } from '@/workers/listen.worker';

/** Sound is decoded to this rate: what the player runs at. */
export const RATE = 44_100;

const makeWorker = (): Worker => new Worker(new URL('../../workers/listen.worker.ts', import.meta.url), { type: 'module' });

/** Decodes a recording. What the browser can't read, and what is too long, is said. */
export async function decoded(bytes: ArrayBuffer, name: string): Promise<Result<AudioBuffer>> {
  const context = new OfflineAudioContext(1, 1, RATE);
  let buffer: AudioBuffer;
  try {
    buffer = await context.decodeAudioData(bytes);
  } catch {
    return fail('unreadable', `“${name}” can't be decoded: it is cut short, damaged, or in a kind this browser does not read. Save it as WAV or FLAC.`, name);
  }
  if (!(buffer.duration > 0.05)) return fail('too-short', `“${name}” holds no sound.`, name);
  if (buffer.duration > CLIP_LIMITS.seconds) return fail('too-long', `“${name}” lasts ${Math.round(buffer.duration / 60)} minutes; ${CLIP_LIMITS.seconds / 60} at most. Cut out the part you work on.`, name);
  return ok(buffer);
}

/** A decoded recording and the worker that answers about it. Long listening has a worker of its own, so that it can be ended. */
export class ClipSound {
  readonly door: Remote<ListenDoor>;
  private readonly worker: Worker;
  private listening: Worker | null = null;

  constructor(readonly buffer: AudioBuffer) {
    this.worker = makeWorker();
    this.door = wrap<ListenDoor>(this.worker);
    void this.load(this.door);
  }

  private load(door: Remote<ListenDoor>): Promise<void> {
    const channels = Array.from({ length: this.buffer.numberOfChannels }, (_, c) => this.buffer.getChannelData(c).slice());
    return door.load(transfer(channels, channels.map((c) => c.buffer)), this.buffer.sampleRate);
  }

  /** Listens to a stretch; null when it was ended meanwhile. */
  async listen(from: number, to: number, channels: Channels, options: Omit<ListenOptions, 'progress'>, progress: (share: number) => void): Promise<Listened | null> {
    this.stopListening();
    const worker = makeWorker();
    this.listening = worker;
    const door = wrap<ListenDoor>(worker);
    const ended = new Promise<null>((resolve) => { this.end = () => resolve(null); });
    await this.load(door);
    const heard = await Promise.race([door.listen(from, to, channels, options, proxy(progress)), ended]);
    if (this.listening === worker) this.stopListening();
    return heard as Listened | null;
  }

  private end: () => void = () => undefined;

  stopListening(): void {
    this.listening?.terminate();
    this.listening = null;
    this.end();
  }

  close(): void {
    this.stopListening();
    this.worker.terminate();
  }
}

import { proxy, transfer, wrap, type Remote } from 'comlink';
import { fail, ok, type Result } from '@/core/base';
import { WavIntake } from '@/core/formats/wav';
import { packedLength } from '@/core/formats/packed';
import { CLIP_LIMITS, clipKind } from '@/core/hearing';
import type { Channels, Listened, ListenOptions } from '@/core/listen';
import type { ListenDoor } from '@/workers/listen.worker';

/** Sound is decoded to this rate: what the player runs at. */
export const RATE = 44_100;

const makeWorker = (): Worker =>
  new Worker(new URL('../../workers/listen.worker.ts', import.meta.url), { type: 'module' });

/** Samples a recording has grown by when it is told again. */
const PART = RATE;

/** A recording as samples, each channel from -1 to 1. */
export interface Decoded {
  readonly channels: readonly Float32Array[];
  readonly seconds: number;
}

function checked(channels: readonly Float32Array[], name: string): Result<Decoded> {
  const seconds = (channels[0]?.length ?? 0) / RATE;
  if (!(seconds > 0.05)) return fail('too-short', `“${name}” holds no sound.`, name);
  if (seconds > CLIP_LIMITS.seconds) return tooLong(seconds, name);
  return ok({ channels, seconds });
}

const tooLong = (seconds: number, name: string) =>
  fail(
    'too-long',
    `“${name}” lasts ${Math.round(seconds / 60)} minutes; ${CLIP_LIMITS.seconds / 60} at most. Cut out the part you work on.`,
    name,
  );

async function decoded(bytes: ArrayBuffer, name: string): Promise<Result<Decoded>> {
  const packed = new Uint8Array(bytes);
  const kind = clipKind(packed.subarray(0, 16));
  // Before it is unpacked: the memory for some hours of silence is not there.
  const length = kind === null || kind === 'wav' ? null : packedLength(packed, kind);
  if (length && length.seconds > CLIP_LIMITS.seconds) return tooLong(length.seconds, name);
  try {
    const buffer = await new OfflineAudioContext(1, 1, RATE).decodeAudioData(bytes);
    return checked(
      Array.from({ length: buffer.numberOfChannels }, (_, c) => buffer.getChannelData(c)),
      name,
    );
  } catch {
    return fail(
      'unreadable',
      `“${name}” can't be decoded: it is cut short, damaged, or in a kind this browser does not read. Save it as WAV or FLAC.`,
      name,
    );
  }
}

/**
 * Decodes a recording as it comes in. A WAV at the player's own rate is read while it is under way;
 * anything else is the browser's to decode. What can't be read, and what is too long, is said.
 * @param total bytes of the whole @param onPart told of what is there so far, in samples
 */
export async function decodedFrom(
  stream: ReadableStream<Uint8Array>,
  total: number,
  name: string,
  onPart: (sound: Decoded, frames: number) => void = () => undefined,
): Promise<Result<Decoded>> {
  const reader = stream.getReader();
  const intake = new WavIntake(total);
  const parts: Uint8Array[] = [];
  let ours = true;
  let told = 0;
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    if (ours) ours = intake.push(next.value).ok && (intake.rate ?? RATE) === RATE;
    // The bytes themselves are needed only where the browser will have to read them.
    if (!ours || intake.rate === null) parts.push(next.value);
    else {
      parts.length = 0;
      const sofar = ours ? intake.sofar : null;
      const sound = sofar && checked(sofar.channels, name);
      if (sofar && sound?.ok && sofar.frames - told > PART) onPart(sound.value, (told = sofar.frames));
    }
  }
  const wav = ours && intake.rate === RATE ? intake.done() : null;
  if (wav?.ok) return checked(wav.value.channels, name);
  return decoded(await new Blob(parts as Uint8Array<ArrayBuffer>[]).arrayBuffer(), name);
}

/**
 * A recording, which may still be coming in, and the worker that answers about it. Long listening has a worker of its
 * own, so that it can be ended.
 */
export class ClipSound {
  readonly door: Remote<ListenDoor>;
  private readonly worker: Worker;
  private listening: Worker | null = null;
  private frames = 0;
  private waiting: { readonly frames: number; readonly go: () => void }[] = [];

  constructor(readonly sound: Decoded) {
    this.worker = makeWorker();
    this.door = wrap<ListenDoor>(this.worker);
    void this.door.begin(sound.channels.length, sound.channels[0]?.length ?? 0, RATE);
  }

  /** More of it is there: the worker is told, and whoever waits for it. */
  arrived(frames: number): void {
    const from = this.frames;
    if (frames <= from) return;
    this.frames = frames;
    const parts = this.sound.channels.map((samples) => samples.slice(from, frames));
    void this.door.append(
      from,
      transfer(
        parts,
        parts.map((samples) => samples.buffer),
      ),
    );
    this.waiting.filter((one) => one.frames <= frames).forEach((one) => one.go());
    this.waiting = this.waiting.filter((one) => one.frames > frames);
  }

  complete(): void {
    this.arrived(this.sound.channels[0]?.length ?? 0);
  }

  get whole(): boolean {
    return this.frames === (this.sound.channels[0]?.length ?? 0);
  }

  /** Waits until the recording is there up to a time. */
  async until(seconds: number): Promise<void> {
    const frames = Math.min(Math.round(seconds * RATE), this.sound.channels[0]?.length ?? 0);
    if (frames > this.frames) await new Promise<void>((go) => this.waiting.push({ frames, go }));
  }

  /** Listens to a stretch; null when it was ended meanwhile. */
  async listen(
    from: number,
    to: number,
    channels: Channels,
    options: Omit<ListenOptions, 'progress'>,
    progress: (share: number) => void,
  ): Promise<Listened | null> {
    this.stopListening();
    const worker = makeWorker();
    this.listening = worker;
    const door = wrap<ListenDoor>(worker);
    const ended = new Promise<null>((resolve) => {
      this.end = () => resolve(null);
    });
    const copies = this.sound.channels.map((samples) => samples.slice());
    await door.load(
      transfer(
        copies,
        copies.map((samples) => samples.buffer),
      ),
      RATE,
    );
    const sounding = await Promise.race([door.listen(from, to, channels, options, proxy(progress)), ended]);
    if (this.listening === worker) this.stopListening();
    return sounding as Listened | null;
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

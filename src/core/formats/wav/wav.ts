import { fail, ok, type Result } from '../../base';

/** RIFF/WAVE, read and written: PCM of 8 to 32 bits and 32-bit float, as the format's specification lays it out. */

export interface Wav {
  readonly rate: number;
  /** One array a channel, -1 to 1. */
  readonly channels: readonly Float32Array[];
}

export const WAV_LIMITS = { bytes: 512 * 1024 * 1024, channels: 16, minRate: 8000, maxRate: 192_000 } as const;

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;

/** What the sound of a file is made of. */
interface Layout {
  readonly format: number;
  readonly bits: number;
  readonly channels: number;
  readonly rate: number;
  /** The first byte of the sound. */
  readonly body: number;
  readonly frames: number;
}

const tag = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

/** The layout told by the first bytes of a file of `total` bytes; null where more of it must be seen first. */
function layoutOf(bytes: Uint8Array, total: number): Result<Layout | null> {
  if (bytes.length < 44 && total > bytes.length) return ok(null);
  if (total < 44) return fail('not-wav', 'The file is too short to be a WAV.', 'file');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (tag(bytes, 0) !== 'RIFF' || tag(bytes, 8) !== 'WAVE')
    return fail('not-wav', 'The file is no WAV (no RIFF/WAVE at its start). Save it as WAV first.', { byte: 0 });
  let format = 0;
  let channels = 0;
  let rate = 0;
  let bits = 0;
  for (let at = 12; at + 8 <= total;) {
    if (at + 8 > bytes.length) return ok(null);
    const size = view.getUint32(at + 4, true);
    const body = at + 8;
    if (tag(bytes, at) === 'fmt ' && body + 16 <= total) {
      if (body + Math.min(size, 40) > bytes.length && bytes.length < total) return ok(null);
      format = view.getUint16(body, true);
      channels = view.getUint16(body + 2, true);
      rate = view.getUint32(body + 4, true);
      bits = view.getUint16(body + 14, true);
      if (format === EXTENSIBLE && size >= 40 && body + 26 <= bytes.length) format = view.getUint16(body + 24, true);
    } else if (tag(bytes, at) === 'data') {
      if (channels === 0)
        return fail('bad-wav', 'The sound comes before its description. Save the file anew.', { byte: at });
      if (!readable(format, bits))
        return fail(
          'wav-format',
          `Format ${format} with ${bits} bits is none this program reads: save it as PCM of 16 or 24 bits, or as 32-bit float.`,
          'fmt',
        );
      if (channels > WAV_LIMITS.channels)
        return fail('bad-wav', `${channels} channels: ${WAV_LIMITS.channels} at most.`, 'fmt');
      if (rate < WAV_LIMITS.minRate || rate > WAV_LIMITS.maxRate)
        return fail(
          'bad-wav',
          `${rate} samples a second: ${WAV_LIMITS.minRate} to ${WAV_LIMITS.maxRate} are read.`,
          'fmt',
        );
      return ok({
        format,
        bits,
        channels,
        rate,
        body,
        frames: Math.floor(Math.min(size, total - body) / ((bits / 8) * channels)),
      });
    }
    at = body + size + (size % 2);
  }
  return fail('bad-wav', 'The file holds no sound (no data chunk).', { byte: total });
}

/**
 * Takes a WAV file in parts as they come in, and turns them into samples at once: what is read of a
 * long file is ready when its last byte is. Faults name the place in the file, the reason and a mend.
 */
export class WavIntake {
  private head: Uint8Array = new Uint8Array(0);
  private layout: Layout | null = null;
  private out: Float32Array[] = [];
  private frames = 0;
  private got = 0;

  /** @param total bytes of the whole file */
  constructor(private readonly total: number) {}

  /** Samples a second, once the beginning has come in; null before. */
  get rate(): number | null {
    return this.layout?.rate ?? null;
  }

  /**
   * What is there so far: the channels at their full length, and how many frames of them have come in. Null before
   * the beginning has.
   */
  get sofar(): (Wav & { readonly frames: number }) | null {
    return this.layout && { rate: this.layout.rate, channels: this.out, frames: this.frames };
  }

  /** Takes the next part; a fault ends it. */
  push(part: Uint8Array): Result<true> {
    if (this.total > WAV_LIMITS.bytes)
      return fail(
        'too-large',
        `The file has ${Math.round(this.total / 1048576)} MB; ${WAV_LIMITS.bytes / 1048576} MB at most.`,
        'file',
      );
    this.got += part.length;
    // What is not yet whole frames waits for the next part.
    const bytes = this.head.length === 0 ? part : joined(this.head, part);
    let at = 0;
    if (!this.layout) {
      const layout = layoutOf(bytes, this.total);
      if (!layout.ok) return layout;
      if (!layout.value) {
        this.head = bytes.slice();
        return ok(true);
      }
      this.layout = layout.value;
      at = layout.value.body;
      this.out = Array.from({ length: layout.value.channels }, () => new Float32Array(layout.value?.frames ?? 0));
    }
    const { bits, channels, frames } = this.layout;
    const step = (bits / 8) * channels;
    const count = Math.min(frames - this.frames, Math.max(0, Math.floor((bytes.length - at) / step)));
    converted(
      this.layout,
      new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
      at,
      count,
      this.out,
      this.frames,
    );
    this.frames += count;
    this.head = this.frames < frames ? bytes.slice(at + count * step) : new Uint8Array(0);
    return ok(true);
  }

  /** What came in; a file cut short is given as far as it went. */
  done(): Result<Wav> {
    const { layout } = this;
    if (!layout)
      return this.got < 44
        ? fail('not-wav', 'The file is too short to be a WAV.', 'file')
        : fail('bad-wav', 'The file holds no sound (no data chunk).', { byte: this.got });
    return ok({
      rate: layout.rate,
      channels: this.frames < layout.frames ? this.out.map((samples) => samples.slice(0, this.frames)) : this.out,
    });
  }
}

/**
 * Reads a WAV file. Faults name the place in the file, the reason and a mend; a file cut short is read as far as it
 * goes.
 */
export function readWav(bytes: Uint8Array): Result<Wav> {
  const intake = new WavIntake(bytes.length);
  const taken = intake.push(bytes);
  return taken.ok ? intake.done() : taken;
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array {
  const out = new Uint8Array(a.length + b.length);
  out.set(a);
  out.set(b, a.length);
  return out;
}

const readable = (format: number, bits: number): boolean =>
  (format === FLOAT && bits === 32) || (format === PCM && [8, 16, 24, 32].includes(bits));

/** Turns `count` frames from `at` on into samples of each channel from frame `first` on. */
function converted(
  { format, bits, channels }: Layout,
  view: DataView,
  at: number,
  count: number,
  out: readonly Float32Array[],
  first: number,
): void {
  const width = bits / 8;
  const step = width * channels;
  for (let c = 0; c < channels; c++) {
    const samples = out[c] as Float32Array;
    let place = at + c * width;
    if (format === FLOAT)
      for (let f = 0; f < count; f++, place += step) samples[first + f] = view.getFloat32(place, true);
    else if (bits === 8)
      for (let f = 0; f < count; f++, place += step) samples[first + f] = (view.getUint8(place) - 128) / 128;
    else if (bits === 16)
      for (let f = 0; f < count; f++, place += step) samples[first + f] = view.getInt16(place, true) / 32768;
    else if (bits === 24)
      for (let f = 0; f < count; f++, place += step)
        samples[first + f] =
          (view.getUint8(place) | (view.getUint8(place + 1) << 8) | (view.getInt8(place + 2) << 16)) / 8388608;
    else for (let f = 0; f < count; f++, place += step) samples[first + f] = view.getInt32(place, true) / 2147483648;
  }
}

/** Writes a WAV of 16 bits; samples beyond -1 and 1 are cut. Throws RangeError for channels of unlike length. */
export function writeWav({ rate, channels }: Wav): Uint8Array {
  const frames = channels[0]?.length ?? 0;
  if (channels.some((samples) => samples.length !== frames)) throw new RangeError('channels of unlike length');
  const bytes = new Uint8Array(44 + frames * channels.length * 2);
  const view = new DataView(bytes.buffer);
  const put = (at: number, text: string): void =>
    [...text].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)));
  put(0, 'RIFF');
  view.setUint32(4, bytes.length - 8, true);
  put(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, PCM, true);
  view.setUint16(22, channels.length, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * channels.length * 2, true);
  view.setUint16(32, channels.length * 2, true);
  view.setUint16(34, 16, true);
  put(36, 'data');
  view.setUint32(40, frames * channels.length * 2, true);
  for (let f = 0; f < frames; f++) {
    for (let c = 0; c < channels.length; c++) {
      const v = Math.max(-1, Math.min(1, channels[c]?.[f] ?? 0));
      view.setInt16(44 + (f * channels.length + c) * 2, Math.round(v < 0 ? v * 32768 : v * 32767), true);
    }
  }
  return bytes;
}

/** All channels as one, by their mean. */
export function mono({ channels }: Wav): Float32Array {
  const out = new Float32Array(channels[0]?.length ?? 0);
  for (const channel of channels)
    for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + (channel[i] as number) / channels.length;
  return out;
}

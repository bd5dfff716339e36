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

/** Reads a WAV file. Faults name the place in the file, the reason and a mend; a file cut short is read as far as it goes. */
export function readWav(bytes: Uint8Array): Result<Wav> {
  if (bytes.length > WAV_LIMITS.bytes) return fail('too-large', `The file has ${Math.round(bytes.length / 1048576)} MB; ${WAV_LIMITS.bytes / 1048576} MB at most.`, 'file');
  if (bytes.length < 44) return fail('not-wav', 'The file is too short to be a WAV.', 'file');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tag = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (tag(0) !== 'RIFF' || tag(8) !== 'WAVE') return fail('not-wav', 'The file is no WAV (no RIFF/WAVE at its start). Save it as WAV first.', 'byte 0');
  let format = 0;
  let channels = 0;
  let rate = 0;
  let bits = 0;
  for (let at = 12; at + 8 <= bytes.length; ) {
    const size = view.getUint32(at + 4, true);
    const body = at + 8;
    if (tag(at) === 'fmt ' && body + 16 <= bytes.length) {
      format = view.getUint16(body, true);
      channels = view.getUint16(body + 2, true);
      rate = view.getUint32(body + 4, true);
      bits = view.getUint16(body + 14, true);
      if (format === EXTENSIBLE && size >= 40 && body + 26 <= bytes.length) format = view.getUint16(body + 24, true);
    } else if (tag(at) === 'data') {
      if (channels === 0) return fail('bad-wav', 'The sound comes before its description. Save the file anew.', `byte ${at}`);
      const sample = sampler(format, bits, view);
      if (!sample) return fail('wav-format', `Format ${format} with ${bits} bits is none this program reads: save it as PCM of 16 or 24 bits, or as 32-bit float.`, 'fmt');
      if (channels > WAV_LIMITS.channels) return fail('bad-wav', `${channels} channels: ${WAV_LIMITS.channels} at most.`, 'fmt');
      if (rate < WAV_LIMITS.minRate || rate > WAV_LIMITS.maxRate) return fail('bad-wav', `${rate} samples a second: ${WAV_LIMITS.minRate} to ${WAV_LIMITS.maxRate} are read.`, 'fmt');
      const step = bits / 8;
      const frames = Math.floor(Math.min(size, bytes.length - body) / (step * channels));
      const out = Array.from({ length: channels }, () => new Float32Array(frames));
      for (let f = 0; f < frames; f++) for (let c = 0; c < channels; c++) (out[c] as Float32Array)[f] = sample(body + (f * channels + c) * step);
      return ok({ rate, channels: out });
    }
    at = body + size + (size % 2);
  }
  return fail('bad-wav', 'The file holds no sound (no data chunk).', `byte ${bytes.length}`);
}

function sampler(format: number, bits: number, view: DataView): ((at: number) => number) | null {
  if (format === FLOAT && bits === 32) return (at) => view.getFloat32(at, true);
  if (format !== PCM) return null;
  switch (bits) {
    case 8:
      return (at) => (view.getUint8(at) - 128) / 128;
    case 16:
      return (at) => view.getInt16(at, true) / 32768;
    case 24:
      return (at) => (view.getUint8(at) | (view.getUint8(at + 1) << 8) | (view.getInt8(at + 2) << 16)) / 8388608;
    case 32:
      return (at) => view.getInt32(at, true) / 2147483648;
    default:
      return null;
  }
}

/** Writes a WAV of 16 bits; samples beyond -1 and 1 are cut. Throws RangeError for channels of unlike length. */
export function writeWav({ rate, channels }: Wav): Uint8Array {
  const frames = channels[0]?.length ?? 0;
  if (channels.some((c) => c.length !== frames)) throw new RangeError('channels of unlike length');
  const bytes = new Uint8Array(44 + frames * channels.length * 2);
  const view = new DataView(bytes.buffer);
  const tag = (at: number, text: string): void => [...text].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  tag(0, 'RIFF');
  view.setUint32(4, bytes.length - 8, true);
  tag(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, PCM, true);
  view.setUint16(22, channels.length, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * channels.length * 2, true);
  view.setUint16(32, channels.length * 2, true);
  view.setUint16(34, 16, true);
  tag(36, 'data');
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
  for (const channel of channels) for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + (channel[i] as number) / channels.length;
  return out;
}

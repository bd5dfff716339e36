import { locusWords } from '@/core/base';
import { readWav, type Wav } from '@/core/formats/wav';
import { packedLength } from '@/core/formats/packed';
import { CLIP_LIMITS, clipKind } from '@/core/hearing';
import { CliFault } from '../schemas';

interface Sound {
  readonly channelData: Float32Array[];
  readonly samplesDecoded: number;
  readonly sampleRate: number;
}

/**
 * What the three decoders have in common. `decodeFile` gives the end of a file as well, where a decoder holds it
 * back.
 */
interface Decoder {
  readonly ready: Promise<void>;
  decode(bytes: Uint8Array): Promise<Sound> | Sound;
  decodeFile?(bytes: Uint8Array): Promise<Sound>;
  free(): void;
}

/** Optional packages: they bring a parser under the LGPL along, and who may not have that goes without. */
const DECODERS: Readonly<Record<'flac' | 'mp3' | 'ogg', () => Promise<Decoder>>> = {
  flac: async () => new (await import('@wasm-audio-decoders/flac')).FLACDecoder() as unknown as Decoder,
  mp3: async () => new (await import('mpg123-decoder')).MPEGDecoder() as unknown as Decoder,
  ogg: async () => new (await import('@wasm-audio-decoders/ogg-vorbis')).OggVorbisDecoder() as unknown as Decoder,
};

/** Reads a sound file by what its first bytes say it is. */
export async function readSound(bytes: Uint8Array): Promise<Wav> {
  const kind = clipKind(bytes.subarray(0, 16));
  if (kind === null)
    throw new CliFault(
      'not-sound',
      'The file is no WAV, FLAC, MP3 or Ogg. Save the recording as one of these.',
      'byte 0',
    );
  if (kind === 'm4a')
    throw new CliFault('no-m4a', 'M4A is read in the browser only. Save the recording as WAV or FLAC.', 'byte 4');
  if (kind === 'wav') {
    const wav = readWav(bytes);
    if (!wav.ok) throw new CliFault(wav.error.rule, wav.error.words, locusWords(wav.error.locus) || undefined);
    return wav.value;
  }
  const length = packedLength(bytes, kind);
  if (length && length.seconds > CLIP_LIMITS.seconds)
    throw new CliFault(
      'too-long',
      `The file lasts ${Math.round(length.seconds / 60)} minutes unpacked; ${CLIP_LIMITS.seconds / 60} at most. Cut out the part you work on.`,
      'file',
    );
  const decoder = await DECODERS[kind]().catch((): never => {
    throw new CliFault(
      'no-decoder',
      `The package that reads ${kind.toUpperCase()} is not installed. Save the recording as WAV, or run npm ci.`,
      'file',
    );
  });
  try {
    await decoder.ready;
    const { channelData, samplesDecoded, sampleRate } = await (decoder.decodeFile?.(bytes) ?? decoder.decode(bytes));
    if (!(samplesDecoded > 0) || channelData.length === 0)
      throw new CliFault(
        'unreadable',
        `The ${kind.toUpperCase()} file holds no sound that can be decoded: it is cut short or damaged. Save it anew.`,
        'file',
      );
    return { rate: sampleRate, channels: channelData };
  } finally {
    decoder.free();
  }
}

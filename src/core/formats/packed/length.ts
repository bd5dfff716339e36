/**
 * How long a packed recording is when it is unpacked, told by its frames before anything is unpacked: a file of some
 * kilobytes can hold hours of silence and the memory for them. What a header claims is not believed. Linear in the
 * bytes; sources: RFC 9639 (FLAC), ISO 11172-3 (MPEG audio), the Vorbis I specification, ISO 14496-12 (MP4).
 */

export type PackedKind = 'flac' | 'mp3' | 'ogg' | 'm4a';

/** Seconds at most, and channels, as unpacked; null where no frame is found. */
export interface PackedLength {
  readonly seconds: number;
  readonly channels: number;
}

export function packedLength(bytes: Uint8Array, kind: PackedKind): PackedLength | null {
  return { flac, mp3, ogg, m4a }[kind](bytes);
}

const at = (bytes: Uint8Array, i: number): number => bytes[i] ?? 0;
const big = (bytes: Uint8Array, i: number, size: 2 | 3 | 4): number => {
  let value = 0;
  for (let k = 0; k < size; k++) value = value * 256 + at(bytes, i + k);
  return value;
};
const little32 = (bytes: Uint8Array, i: number): number =>
  at(bytes, i) + at(bytes, i + 1) * 256 + at(bytes, i + 2) * 65_536 + at(bytes, i + 3) * 16_777_216;
const isText = (bytes: Uint8Array, i: number, text: string): boolean =>
  [...text].every((sign, k) => at(bytes, i + k) === sign.charCodeAt(0));

/** CRC-8 of the polynomial x^8 + x^2 + x + 1, as over a FLAC frame's header. */
const CRC8 = Uint8Array.from({ length: 256 }, (_, n) => {
  let crc = n;
  for (let bit = 0; bit < 8; bit++) crc = crc & 0x80 ? ((crc << 1) ^ 0x07) & 0xff : (crc << 1) & 0xff;
  return crc;
});

/** Every frame says its own number of samples: their sum is the length. */
function flac(bytes: Uint8Array): PackedLength | null {
  if (bytes.length < 26) return null;
  const rate = big(bytes, 18, 3) >> 4;
  const channels = ((at(bytes, 20) >> 1) & 7) + 1;
  let samples = 0;
  for (let i = 42; i + 6 < bytes.length; i++) {
    if (at(bytes, i) !== 0xff || (at(bytes, i + 1) & 0xfe) !== 0xf8) continue;
    const frame = flacFrame(bytes, i);
    if (frame > 0) samples += frame;
  }
  return rate > 0 && samples > 0 ? { seconds: samples / rate, channels } : null;
}

/** Samples of the frame whose header begins at `start`; 0 where it is none. */
function flacFrame(bytes: Uint8Array, start: number): number {
  const code = at(bytes, start + 2) >> 4;
  const rateCode = at(bytes, start + 2) & 15;
  if (code === 0 || rateCode === 15) return 0;
  // The number of the frame is coded as a letter of UTF-8 is, in up to seven bytes.
  let i = start + 4;
  const lead = at(bytes, i);
  const more = lead < 0x80 ? 0 : Math.clz32(~(lead << 24)) - 1;
  if (more < 0 || more > 6) return 0;
  i += 1 + more;
  let samples = 0;
  if (code === 1) samples = 192;
  else if (code <= 5) samples = 576 << (code - 2);
  else if (code === 6) samples = at(bytes, i++) + 1;
  else if (code === 7) {
    samples = big(bytes, i, 2) + 1;
    i += 2;
  } else samples = 256 << (code - 8);
  if (rateCode === 12) i += 1;
  else if (rateCode >= 13) i += 2;
  let crc = 0;
  for (let k = start; k < i; k++) crc = CRC8[crc ^ at(bytes, k)] ?? 0;
  return crc === at(bytes, i) ? samples : 0;
}

const RATES_MPEG1 = [44_100, 48_000, 32_000];
const KBITS: Readonly<Record<string, readonly number[]>> = {
  '1-1': [32, 64, 96, 128, 160, 192, 224, 256, 288, 320, 352, 384, 416, 448],
  '1-2': [32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384],
  '1-3': [32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320],
  '2-1': [32, 48, 56, 64, 80, 96, 112, 128, 144, 160, 176, 192, 224, 256],
  '2-2': [8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160],
};

/** Frame after frame by the sizes they say. */
function mp3(bytes: Uint8Array): PackedLength | null {
  let i = isText(bytes, 0, 'ID3')
    ? 10 + at(bytes, 6) * 2_097_152 + at(bytes, 7) * 16_384 + at(bytes, 8) * 128 + at(bytes, 9)
    : 0;
  let seconds = 0;
  let channels = 1;
  while (i + 4 < bytes.length) {
    const frame = mp3Frame(bytes, i);
    if (!frame) {
      i++;
      continue;
    }
    seconds += frame.seconds;
    channels = Math.max(channels, frame.channels);
    i += frame.size;
  }
  return seconds > 0 ? { seconds, channels } : null;
}

function mp3Frame(bytes: Uint8Array, i: number): (PackedLength & { readonly size: number }) | null {
  if (at(bytes, i) !== 0xff || (at(bytes, i + 1) & 0xe0) !== 0xe0) return null;
  const version = (at(bytes, i + 1) >> 3) & 3;
  const layer = 4 - ((at(bytes, i + 1) >> 1) & 3);
  const rateCode = (at(bytes, i + 2) >> 2) & 3;
  if (version === 1 || layer === 4 || rateCode === 3) return null;
  const first = version === 3;
  const kbits = KBITS[`${first ? 1 : 2}-${first || layer === 1 ? layer : 2}`]?.[(at(bytes, i + 2) >> 4) - 1];
  const rate = (RATES_MPEG1[rateCode] ?? 0) / (first ? 1 : version === 2 ? 2 : 4);
  if (kbits === undefined || rate === 0) return null;
  const samples = layer === 1 ? 384 : layer === 3 && !first ? 576 : 1152;
  const padding = (at(bytes, i + 2) >> 1) & 1;
  const size =
    layer === 1
      ? (Math.floor((12_000 * kbits) / rate) + padding) * 4
      : Math.floor((samples * 125 * kbits) / rate) + padding;
  return { seconds: samples / rate, channels: at(bytes, i + 3) >> 6 === 3 ? 1 : 2, size: Math.max(4, size) };
}

/** No packet holds more than a long block; where a page says when it ends, and the packets allow it, that counts. */
function ogg(bytes: Uint8Array): PackedLength | null {
  let rate = 0;
  let channels = 0;
  let longBlock = 0;
  let packets = 0;
  let said = 0;
  for (let i = 0; i + 27 < bytes.length;) {
    if (!isText(bytes, i, 'OggS')) {
      i++;
      continue;
    }
    const segments = at(bytes, i + 26);
    const body = i + 27 + segments;
    let size = 0;
    for (let k = 0; k < segments; k++) {
      const lacing = at(bytes, i + 27 + k);
      size += lacing;
      if (lacing < 255) packets++;
    }
    if (rate === 0 && at(bytes, body) === 1 && isText(bytes, body + 1, 'vorbis')) {
      channels = at(bytes, body + 11);
      rate = little32(bytes, body + 12);
      longBlock = 1 << (at(bytes, body + 28) >> 4);
    }
    // All ones mean that no packet ends on the page.
    const granule = little32(bytes, i + 6) + little32(bytes, i + 10) * 4_294_967_296;
    if (granule < 2 ** 62) said = Math.max(said, granule);
    i = body + size;
  }
  if (rate === 0 || packets <= 3) return null;
  const most = ((packets - 3) * longBlock) / 2;
  // A true end lies close to what the packets hold; one far below is not believed.
  const samples = said > 0 && said <= most && said * 10 >= most ? said : most;
  return { seconds: samples / rate, channels };
}

/** Samples in the table of sizes times the longest frame of AAC; at the lowest rate it may have. */
function m4a(bytes: Uint8Array): PackedLength | null {
  let frames = 0;
  let rate = 0;
  let channels = 2;
  for (let i = 4; i + 20 < bytes.length; i++) {
    if (at(bytes, i) !== 0x73 && at(bytes, i) !== 0x6d) continue;
    if (isText(bytes, i, 'stsz')) frames += big(bytes, i + 12, 4);
    else if (isText(bytes, i, 'mp4a') && rate === 0) {
      channels = Math.max(1, big(bytes, i + 20, 2));
      rate = big(bytes, i + 28, 2);
    }
  }
  return frames > 0 ? { seconds: (frames * 1024) / (rate > 0 ? rate : 44_100), channels } : null;
}

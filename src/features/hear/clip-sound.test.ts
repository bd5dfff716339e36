import { describe, expect, it, vi } from 'vitest';
import { writeWav } from '@/core/formats/wav';
import { decodedFrom, RATE } from './clip-sound';

vi.mock('comlink', () => ({ wrap: () => ({}), proxy: (one: unknown) => one, transfer: (one: unknown) => one }));

const tone = Float32Array.from({ length: 3 * RATE }, (_, i) => 0.4 * Math.sin(i / 9));
/** A file as it comes over a line, in parts of so many bytes. */
const coming = (bytes: Uint8Array, size: number): ReadableStream<Uint8Array> => {
  let at = 0;
  return new ReadableStream({
    pull: (one) => {
      if (at >= bytes.length) return one.close();
      one.enqueue(bytes.slice(at, at + size));
      at += size;
    },
  });
};

describe('a recording that comes in', () => {
  const wav = writeWav({ rate: RATE, channels: [tone, tone.map((v) => -v)] });

  it('is there from its beginning, and whole at its end', async () => {
    const told: number[] = [];
    const got = await decodedFrom(coming(wav, 50_001), wav.length, 'take', (sound, frames) => {
      told.push(frames);
      // What is told of is there, whatever is still to come.
      expect(Math.abs((sound.channels[0]?.[frames - 1] ?? 9) - (tone[frames - 1] ?? 0))).toBeLessThan(1e-4);
      expect(sound.seconds).toBe(3);
    });
    expect(told.length).toBeGreaterThan(1);
    expect(told).toEqual([...told].sort((a, b) => a - b));
    if (!got.ok) throw new Error(got.error.words);
    expect(got.value.channels.map((samples) => samples.length)).toEqual([tone.length, tone.length]);
    expect(Math.abs((got.value.channels[1]?.[5000] ?? 9) + (tone[5000] ?? 0))).toBeLessThan(1e-4);
  });

  it('is left to the browser where it is of another rate or kind, whole', async () => {
    const seen: number[] = [];
    vi.stubGlobal(
      'OfflineAudioContext',
      class {
        decodeAudioData = async (bytes: ArrayBuffer) => {
          seen.push(bytes.byteLength);
          return { numberOfChannels: 1, getChannelData: () => new Float32Array(RATE) };
        };
      },
    );
    const other = writeWav({ rate: 48_000, channels: [tone] });
    expect((await decodedFrom(coming(other, 70_000), other.length, 'take')).ok).toBe(true);
    const flac = Uint8Array.from({ length: 5000 }, (_, i) => i % 251);
    expect((await decodedFrom(coming(flac, 900), flac.length, 'take')).ok).toBe(true);
    expect(seen).toEqual([other.length, flac.length]);
    vi.unstubAllGlobals();
  });

  it('is refused in words where it can’t be read, holds nothing, or is too long', async () => {
    vi.stubGlobal(
      'OfflineAudioContext',
      class {
        decodeAudioData = async () => {
          throw new Error('no');
        };
      },
    );
    const junk = new Uint8Array(500);
    expect(await decodedFrom(coming(junk, 100), 500, 'letter')).toMatchObject({
      ok: false,
      error: { rule: 'unreadable', words: expect.stringContaining('“letter”') },
    });
    const short = writeWav({ rate: RATE, channels: [new Float32Array(100)] });
    expect(await decodedFrom(coming(short, 100), short.length, 'blip')).toMatchObject({
      ok: false,
      error: { rule: 'too-short' },
    });
    vi.stubGlobal(
      'OfflineAudioContext',
      class {
        decodeAudioData = async () => ({ numberOfChannels: 1, getChannelData: () => ({ length: RATE * 1000 }) });
      },
    );
    expect(await decodedFrom(coming(junk, 100), 500, 'opera')).toMatchObject({
      ok: false,
      error: { rule: 'too-long' },
    });
    vi.unstubAllGlobals();
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { mono, readWav, WavIntake, writeWav } from './index';

const tone = Float32Array.from({ length: 1000 }, (_, i) => 0.5 * Math.sin(i / 7));
const file = writeWav({ rate: 44_100, channels: [tone, tone.map((v) => -v)] });

/** A WAV of another sample format, written by hand. */
function made(format: number, bits: number, put: (view: DataView, at: number) => void, extensible = false): Uint8Array {
  const head = extensible ? 68 : 44;
  const bytes = new Uint8Array(head + bits / 8);
  bytes.set(file.subarray(0, 36));
  const view = new DataView(bytes.buffer);
  view.setUint32(16, extensible ? 40 : 16, true);
  view.setUint16(20, extensible ? 0xfffe : format, true);
  view.setUint16(22, 1, true);
  view.setUint16(34, bits, true);
  if (extensible) view.setUint16(44, format, true);
  bytes.set(file.subarray(36, 40), head - 8);
  view.setUint32(head - 4, bits / 8, true);
  put(view, head);
  return bytes;
}

describe('WAV files', () => {
  it('are read as they were written, to 16 bits', () => {
    const { rate, channels } = must(readWav(file));
    expect([rate, channels.length]).toEqual([44_100, 2]);
    tone.forEach((v, i) => expect(Math.abs((channels[0]?.[i] ?? 9) - v)).toBeLessThan(1 / 32_000));
    expect(Math.max(...mono({ rate, channels }))).toBeLessThan(1e-4);
    expect(writeWav({ rate, channels: [Float32Array.of(3, -3)] }).slice(44)).toEqual(
      Uint8Array.of(0xff, 0x7f, 0, 0x80),
    );
    expect(() => writeWav({ rate, channels: [tone, tone.subarray(1)] })).toThrow(RangeError);
  });

  it('are read in 8, 24 and 32 bits, in float, and by the longer header', () => {
    const first = (bytes: Uint8Array): number => must(readWav(bytes)).channels[0]?.[0] ?? NaN;
    expect(first(made(1, 8, (one, at) => one.setUint8(at, 192)))).toBe(0.5);
    expect(
      first(
        made(1, 24, (one, at) => {
          one.setUint8(at, 0);
          one.setUint8(at + 1, 0);
          one.setInt8(at + 2, -64);
        }),
      ),
    ).toBe(-0.5);
    expect(first(made(1, 32, (one, at) => one.setInt32(at, 2 ** 30, true)))).toBe(0.5);
    expect(first(made(3, 32, (one, at) => one.setFloat32(at, 0.25, true)))).toBe(0.25);
    expect(first(made(1, 16, (one, at) => one.setInt16(at, 16384, true), true))).toBe(0.5);
  });

  it('that are none, or broken, give a reason', () => {
    const why = (bytes: Uint8Array): string => {
      const read = readWav(bytes);
      return read.ok ? 'ok' : read.error.words;
    };
    expect(why(new Uint8Array(10))).toContain('too short');
    expect(why(new Uint8Array(100))).toContain('no RIFF/WAVE');
    expect(why(made(85, 16, () => undefined))).toContain('Format 85');
    expect(why(file.slice(0, 44).fill(0x20, 36, 40))).toContain('no sound');
    const rate = file.slice();
    new DataView(rate.buffer).setUint32(24, 100, true);
    expect(why(rate)).toContain('100 samples a second');
    expect(must(readWav(file.subarray(0, 60))).channels[0]?.length).toBe(4);
  });

  it('never hang or crash, whatever the bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 0, maxLength: 200 }), fc.integer({ min: 0, max: 60 }), (noise, at) => {
        const bytes = file.slice(0, 300);
        bytes.set(noise.subarray(0, Math.min(noise.length, 240)), at);
        readWav(bytes);
        readWav(noise);
      }),
    );
  });
});

describe('a WAV that comes in parts', () => {
  it('is the same however it is cut, byte by byte through its head and its frames', () => {
    const whole = must(readWav(file));
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 900 }), { minLength: 1, maxLength: 12 }), (sizes) => {
        const intake = new WavIntake(file.length);
        for (let at = 0, i = 0; at < file.length; i++) {
          const size = sizes[i % sizes.length] ?? 1;
          expect(intake.push(file.slice(at, at + size)).ok).toBe(true);
          at += size;
        }
        expect(must(intake.done())).toEqual(whole);
      }),
      { numRuns: 40 },
    );
  });

  it('tells its rate as soon as its head is there, and is given as far as it went', () => {
    const intake = new WavIntake(file.length);
    intake.push(file.slice(0, 30));
    expect(intake.rate).toBeNull();
    intake.push(file.slice(30, 1044));
    expect(intake.rate).toBe(44_100);
    expect(must(intake.done()).channels.map((samples) => samples.length)).toEqual([250, 250]);
    expect(new WavIntake(100).done()).toMatchObject({ ok: false, error: { rule: 'not-wav' } });
    expect(new WavIntake(1000).push(new Uint8Array(500))).toMatchObject({ ok: false, error: { rule: 'not-wav' } });
    expect(new WavIntake(600 * 1048576).push(file)).toMatchObject({ ok: false, error: { rule: 'too-large' } });
  });
});

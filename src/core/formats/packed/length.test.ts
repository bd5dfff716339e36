import { readFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packedLength, type PackedKind } from './index';

const fixture = (kind: PackedKind): Uint8Array =>
  new Uint8Array(readFileSync(path.resolve(import.meta.dirname, `../../../../e2e/fixtures/three-notes.${kind}`)));
const KINDS = ['flac', 'mp3', 'ogg', 'm4a'] as const;

/** CRC-8 as over a FLAC header, bit by bit. */
const crc8 = (bytes: readonly number[]): number =>
  bytes.reduce((crc, byte) => {
    let c = crc ^ byte;
    for (let bit = 0; bit < 8; bit++) c = c & 0x80 ? ((c << 1) ^ 0x07) & 0xff : (c << 1) & 0xff;
    return c;
  }, 0);

describe('the length of a packed recording', () => {
  it('is told of every kind by its frames, to a tenth', () => {
    const told = KINDS.map((kind) => packedLength(fixture(kind), kind)?.seconds ?? 0);
    const flac = told[0] ?? 0;
    expect(flac).toBeGreaterThan(0.5);
    for (const seconds of told) expect(Math.abs(seconds - flac) / flac).toBeLessThan(0.1);
    // An MP4 commonly writes two, however many there are.
    expect(KINDS.map((kind) => packedLength(fixture(kind), kind)?.channels)).toEqual([1, 1, 1, 2]);
  });

  it('is that of the frames, whatever the header claims: hours in some kilobytes are seen', () => {
    const head = fixture('flac').slice(0, 42);
    // The claimed number of samples: a second.
    head.set([0, 0, 0, 0xac, 0x44], 21);
    const frame = (n: number): number[] => {
      const header = [0xff, 0xf8, 0x79, 0x08, n & 0x7f, 0xff, 0xff];
      return [...header, crc8(header), 0, 0, 0, 0];
    };
    const bomb = Uint8Array.from([...head, ...Array.from({ length: 5000 }, (_, n) => frame(n)).flat()]);
    expect(bomb.length).toBeLessThan(100_000);
    expect(packedLength(bomb, 'flac')?.seconds ?? 0).toBeGreaterThan(6 * 900);
  });

  it('of an Ogg file that says it is short is that of its packets', () => {
    const bytes = fixture('ogg');
    const honest = packedLength(bytes, 'ogg')?.seconds ?? 0;
    const lying = bytes.slice();
    for (let i = 0; i + 27 < lying.length; i++)
      if (String.fromCharCode(...lying.subarray(i, i + 4)) === 'OggS') lying.set([1, 0, 0, 0, 0, 0, 0, 0], i + 6);
    expect(packedLength(lying, 'ogg')?.seconds ?? 0).toBeGreaterThanOrEqual(honest);
  });

  it('of any bytes is a number or nothing, in no time', () => {
    const sources = KINDS.map((kind) => [kind, fixture(kind)] as const);
    fc.assert(
      fc.property(
        fc.constantFrom(...sources),
        fc.array(fc.tuple(fc.nat(), fc.nat({ max: 255 })), { maxLength: 40 }),
        fc.nat(),
        ([kind, bytes], changes, cut) => {
          const broken = bytes.slice(0, cut % (bytes.length + 1));
          for (const [i, byte] of changes) if (broken.length > 0) broken[i % broken.length] = byte;
          const length = packedLength(broken, kind);
          expect(length === null || (length.seconds > 0 && Number.isFinite(length.seconds))).toBe(true);
        },
      ),
      { numRuns: 150 },
    );
  });
});

import { expose, transfer } from 'comlink';
import { withSomeForm } from '@/core/command';
import { levelsOf, mapOf, resolve } from '@/core/form';
import { FORMATS, type MusicFormat, type WriteOptions } from '@/core/formats/registry';
import { writeWav } from '@/core/formats/wav';
import { placePiece } from '@/core/place';
import type { Piece } from '@/core/score';
import { mixed, RENDER_SECONDS, type Track } from '@/core/synth';
import { ZERO } from '@/core/time';

const RATE = 44_100;

/** The door to what writes files: music in the open formats, and its sound. */
const door = {
  /** A piece as a file. What has no place yet is placed first where the format shows places. */
  write(piece: Piece, format: MusicFormat, options: WriteOptions, extension: string): Uint8Array {
    const whole = format === 'json' || format === 'midi' ? piece : placePiece(piece).piece;
    const bytes = FORMATS[format].write(whole, options, extension);
    return transfer(bytes, [bytes.buffer as ArrayBuffer]);
  },

  /** Chosen parts as the form plays them, mixed, as a WAV. `speed`: 1 is as written. */
  sound(given: Piece, parts: readonly string[], speed: number, click: boolean): Uint8Array {
    const piece = withSomeForm(placePiece(given).piece);
    const map = mapOf(piece);
    const tracks = parts.flatMap((id): Track[] => {
      const line = resolve(piece, id);
      return line ? [{ setup: line.part.setup, versions: [line.riff], levels: levelsOf(map, id) }] : [];
    });
    const level = 1 / Math.sqrt(Math.max(1, tracks.length));
    const plan = {
      ...{ rate: RATE, tempo: map.tempo, tracks, from: ZERO, to: map.end, begin: ZERO, countIn: 0, double: false },
      ...{ rungs: [{ speed, times: 1 }], seed: 1 },
    };
    const balance = [...tracks.map(() => ({ level, pan: 0 })), { level: click ? 0.5 : 0, pan: 0 }];
    const bytes = writeWav({ rate: RATE, channels: mixed(plan, balance, RENDER_SECONDS) });
    return transfer(bytes, [bytes.buffer as ArrayBuffer]);
  },
};

export type ExportDoor = typeof door;
expose(door);

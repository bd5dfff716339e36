import { expose } from 'comlink';
import { fail, type Result, type Finding } from '@/core/base';
import {
  bestShift,
  midiToPart,
  notesInRange,
  readMidi,
  type Imported,
  type ImportOptions,
  type MidiSong,
} from '@/core/formats/midi';
import type { Setup } from '@/core/instrument';

let song: MidiSong | null = null;

/** The door to core/formats/midi. The file stays here; the page sees what it shows. */
const door = {
  read(bytes: Uint8Array): Result<MidiSummary> {
    const read = readMidi(bytes);
    song = read.ok ? read.value : null;
    if (!read.ok) return read;
    const parts = read.value.parts.map(({ notes, ...part }) => ({ ...part, count: notes.length }));
    return {
      ok: true,
      value: { title: read.value.title, remarks: read.value.remarks, bpm: read.value.tempo[0]?.bpm ?? 120, parts },
    };
  },
  /** The best octave shift for a part on a set-up, and how many notes each shift puts in range. */
  shifts(index: number, setup: Setup): { best: number; inRange: Record<number, number> } {
    const part = song?.parts[index];
    if (!part) return { best: 0, inRange: {} };
    return {
      best: bestShift(part, setup),
      inRange: Object.fromEntries([-24, -12, 0, 12, 24].map((s) => [s, notesInRange(part, setup, s)])),
    };
  },
  toPart(index: number, setup: Setup, options: ImportOptions, partId: string): Result<Imported> {
    const part = song?.parts[index];
    if (!song || !part) return fail('no-part', 'Choose a part first.');
    return midiToPart(song, part, setup, options, partId);
  },
};

export interface MidiSummary {
  readonly title: string;
  readonly bpm: number;
  readonly remarks: readonly Finding[];
  readonly parts: readonly (Omit<MidiSong['parts'][number], 'notes'> & { readonly count: number })[];
}

export type MidiDoor = typeof door;
expose(door);

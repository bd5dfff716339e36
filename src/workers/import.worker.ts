import { expose } from 'comlink';
import { fail, ok, type Finding, type Result } from '@/core/base';
import {
  bestShift,
  guessSetup,
  notesInRange,
  rangeOf,
  SHIFTS,
  takeIn,
  type Answers,
  type LeftOut,
  type PartChoice,
  type Progress,
  type Question,
  type Reading,
  type TakenIn,
} from '@/core/formats/music';
import {
  FORMATS,
  partQuestions,
  readMusic,
  readWhole,
  sniff,
  textOf,
  type FileKind,
  type MusicFormat,
} from '@/core/formats/registry';
import type { TabReading } from '@/core/formats/texttab';
import type { Setup } from '@/core/instrument';
import type { Grid } from '@/core/rhythm';
import type { Piece } from '@/core/score';

/** What a file holds, as the page shows it; the music itself stays here until it is taken. */
export interface FileSummary {
  readonly kind: MusicFormat;
  readonly kindName: string;
  readonly title: string;
  readonly bars: number;
  readonly repeats: number;
  readonly marks: readonly string[];
  readonly bpm: number;
  readonly questions: readonly Question[];
  readonly leftOut: readonly LeftOut[];
  readonly remarks: readonly Finding[];
  /** Of a text: the text itself and what of it is in doubt, each with its stretch. */
  readonly text: string | null;
  readonly doubts: readonly Finding[];
  readonly parts: readonly PartSummary[];
  /** A piece file is opened whole. */
  readonly piece: Piece | null;
}

export interface PartSummary {
  readonly name: string;
  readonly kind: 'guitar' | 'bass' | 'other' | 'drums';
  readonly notes: number;
  readonly low: number | null;
  readonly high: number | null;
  /** Most notes struck together. */
  readonly chord: number;
  readonly placed: boolean;
  readonly setup: Setup;
  readonly assumed: string | null;
}

/** What depends on the set-up a part is to be played on. */
export interface OnSetup {
  readonly questions: readonly Question[];
  readonly best: number;
  readonly inRange: Readonly<Record<number, number>>;
}

const readings = new Map<string, Reading>();

const summaryOf = (kind: MusicFormat, reading: Reading | TabReading, text: string | null): FileSummary => {
  const { music } = reading;
  return {
    ...{ kind, kindName: FORMATS[kind].name, title: music.title, bars: music.bars, repeats: music.repeats.length },
    marks: music.marks.map((mark) => mark.name),
    bpm: music.tempo[0]?.bpm ?? 120,
    ...{ questions: reading.questions, leftOut: reading.leftOut, remarks: reading.remarks, text, piece: null },
    doubts: 'doubts' in reading ? reading.doubts : [],
    parts: music.parts.map((part): PartSummary => ({
      ...{ name: part.name, kind: part.kind, placed: part.placed, ...guessSetup(part) },
      ...(rangeOf(part) ?? { low: null, high: null }),
      notes: part.stats?.notes ?? part.events.reduce((sum, event) => sum + event.notes.length, 0),
      chord: part.stats?.chord ?? part.events.reduce((most, event) => Math.max(most, event.notes.length), 0),
    })),
  };
};

/** The door to core/formats: files by an id of the page's, kept until they are read anew or the worker ends. */
const door = {
  /** What a file is by what it holds; null where nothing here takes it. */
  kind(bytes: Uint8Array): FileKind | null {
    return sniff(bytes);
  },
  read(
    id: string,
    bytes: Uint8Array,
    options: { readonly grid: Grid; readonly answers: Answers },
    progress: Progress,
  ): Result<FileSummary> {
    readings.delete(id);
    const kind = sniff(bytes);
    if (kind === null || !(kind in FORMATS))
      return fail(
        'unknown-kind',
        'This is no music the program reads: MusicXML (plain or compressed), a Standard MIDI file, text tab, or a piece of Intonazione.',
        'file',
      );
    const format = kind as MusicFormat;
    if (format === 'json') {
      const piece = readWhole(bytes);
      if (!piece.ok) return piece;
      return ok(wholeSummary(piece.value));
    }
    const reading = readMusic(format, bytes, { ...options, progress });
    if (!reading.ok) return reading;
    readings.set(id, reading.value);
    return ok(summaryOf(format, reading.value, format === 'texttab' ? textOf(bytes) : null));
  },
  onSetup(id: string, index: number, setup: Setup): OnSetup {
    const music = readings.get(id)?.music;
    const part = music?.parts[index];
    if (!music || !part) return { questions: [], best: 0, inRange: {} };
    return {
      questions: partQuestions(music, index, setup),
      best: bestShift(part, setup),
      inRange: Object.fromEntries(SHIFTS.map((shift) => [shift, notesInRange(part, setup, shift)])),
    };
  },
  /** The chosen parts as a piece with ids above `lastId`. */
  take(id: string, choices: readonly PartChoice[], title: string, lastId: number): Result<TakenIn> {
    const reading = readings.get(id);
    if (!reading) return fail('no-file', 'This file has not been read. Choose it again.', 'file');
    return takeIn({ ...reading.music, title: reading.music.title || title }, choices, lastId);
  },
};

const wholeSummary = (piece: Piece): FileSummary => ({
  ...{ kind: 'json', kindName: FORMATS.json.name, title: piece.title, text: null, doubts: [], piece },
  ...{ questions: [], leftOut: [], remarks: [], repeats: 0, bpm: piece.context.tempo[0]?.bpm ?? 120 },
  bars: piece.sections.reduce((sum, section) => sum + section.bars, 0),
  marks: piece.sections.map((section) => section.name),
  parts: piece.parts.map((part): PartSummary => ({
    ...{ name: part.name, kind: part.setup.instrument.kind === 'bass' ? 'bass' : 'guitar', placed: true },
    ...{ setup: part.setup, assumed: null, low: null, high: null, chord: 0 },
    notes: part.riffs.reduce((sum, riff) => sum + riff.events.reduce((all, event) => all + event.notes.length, 0), 0),
  })),
});

export type ImportDoor = typeof door;
expose(door);

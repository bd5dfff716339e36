import { fail, ok, type Result } from '../../base';
import type { Piece } from '../../score';
import { GRIDS, type Grid } from '../../rhythm';
import { JSON_LIMITS, looksLikePiece, readPieceFile, writePieceFile } from '../json';
import { MIDI_LIMITS, midiToMusic, readMidi, writeMidi } from '../midi';
import { isZip, MUSICXML_LIMITS, packScore, readMusicXml, writeMusicXml } from '../musicxml';
import { musicOf, type Music, type ReadOptions, type Reading } from '../music';
import { looksLikeTab, readTextTab, TEXT_TAB_LIMITS, writeTextTab } from '../texttab';
import type { MusicFormat } from './kept';

/** What a file may be. The last four are not music of this registry: other places of the program take them. */
export type FileKind = MusicFormat | 'rack' | 'archive' | 'sound';

export interface WriteOptions {
  /** Ids of parts; absent, all. */
  readonly parts?: readonly string[] | undefined;
  readonly staves?: 'tab' | 'staff' | 'both' | undefined;
  readonly channels?: 'strings' | 'one' | undefined;
  readonly width?: number | undefined;
}

export interface ReadingOptions extends ReadOptions {
  readonly grid?: Grid;
}

/** A format of music: how it is known, read and written. A new one is a folder and a line here. */
export interface FormatSpec {
  readonly name: string;
  readonly extensions: readonly string[];
  readonly mediaType: string;
  readonly bytes: number;
  readonly sniff: (head: Uint8Array, text: string) => boolean;
  /** Null for the format whose file is a piece already. */
  readonly read: ((bytes: Uint8Array, options: ReadingOptions) => Result<Reading>) | null;
  readonly write: (piece: Piece, options: WriteOptions, extension: string) => Uint8Array;
}

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Text of bytes: UTF-8, or where it is none, one byte a letter. */
export function textOf(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

export const FORMATS: Readonly<Record<MusicFormat, FormatSpec>> = {
  json: {
    name: 'Piece (JSON)',
    extensions: ['json'],
    mediaType: 'application/json',
    bytes: JSON_LIMITS.bytes,
    sniff: (_, text) => looksLikePiece(text),
    read: null,
    write: (piece) => encode(writePieceFile(piece)),
  },
  musicxml: {
    name: 'MusicXML',
    extensions: ['musicxml', 'mxl', 'xml'],
    mediaType: 'application/vnd.recordare.musicxml+xml',
    bytes: MUSICXML_LIMITS.bytes,
    sniff: (head, text) =>
      /<score-(partwise|timewise)\b/.test(text) ||
      (/^\ufeff?\s*<\?xml/.test(text) && /score-(partwise|timewise)/.test(text)) ||
      isZip(head),
    read: readMusicXml,
    write: (piece, { parts, staves }, extension) => {
      const xml = encode(writeMusicXml(musicOf(piece, chosen(parts)), staves ? { staves } : {}));
      return extension === 'mxl' ? packScore(xml) : xml;
    },
  },
  midi: {
    name: 'Standard MIDI file',
    extensions: ['mid', 'midi'],
    mediaType: 'audio/midi',
    bytes: MIDI_LIMITS.bytes,
    sniff: (head) => String.fromCharCode(...head.subarray(0, 4)) === 'MThd',
    read: (bytes, { grid = 'auto' }) => {
      const song = readMidi(bytes);
      return song.ok ? ok(midiToMusic(song.value, { grid: GRIDS.includes(grid) ? grid : 'auto' })) : song;
    },
    write: (piece, { parts, channels }) =>
      writeMidi(musicOf(piece, { ...chosen(parts), unfolded: true }), channels ? { channels } : {}),
  },
  texttab: {
    name: 'Text tab',
    extensions: ['txt', 'tab'],
    mediaType: 'text/plain',
    bytes: TEXT_TAB_LIMITS.characters * 4,
    sniff: (_, text) => looksLikeTab(text),
    read: (bytes, options) => readTextTab(textOf(bytes), options),
    write: (piece, { parts, width }) => encode(writeTextTab(unfoldedEndings(piece, parts), width ? { width } : {})),
  },
};

const chosen = (parts: readonly string[] | undefined): { parts?: readonly string[] } => (parts ? { parts } : {});

/** Text has repeats but no endings: where there are any, all is written out. */
function unfoldedEndings(piece: Piece, parts: readonly string[] | undefined): Music {
  const music = musicOf(piece, chosen(parts));
  return music.repeats.some((repeat) => repeat.endings.length > 0)
    ? musicOf(piece, { ...chosen(parts), unfolded: true })
    : music;
}

/** How much of a file is looked at to know what it is. */
const HEAD = 64 * 1024;

/** What a file is by what it holds, whatever it is called; null where nothing here takes it. */
export function sniff(bytes: Uint8Array): FileKind | null {
  const head = bytes.subarray(0, HEAD);
  const ascii = String.fromCharCode(...head.subarray(0, 12));
  if (
    /^(RIFF|fLaC|OggS|ID3|FORM)/.test(ascii) ||
    ascii.slice(4, 8) === 'ftyp' ||
    (head[0] === 0xff && ((head[1] ?? 0) & 0xe0) === 0xe0 && head[1] !== 0xfe)
  )
    return 'sound';
  if (isZip(head)) return zipKind(head);
  const text = textOf(head);
  if (/"format"\s*:\s*"intonazione-rack"/.test(text.slice(0, 400))) return 'rack';
  for (const format of ['json', 'midi', 'musicxml', 'texttab'] as const)
    if (FORMATS[format].sniff(head, text)) return format;
  return null;
}

/** A zip by the name of its first file. */
const zipKind = (head: Uint8Array): FileKind =>
  String.fromCharCode(...head.subarray(30, 60)).startsWith('intonazione-archive') ? 'archive' : 'musicxml';

/** The format an extension stands for; null where none has it. */
export const formatOf = (extension: string): MusicFormat | null =>
  (Object.entries(FORMATS) as [MusicFormat, FormatSpec][]).find(([, spec]) =>
    spec.extensions.includes(extension.toLowerCase()),
  )?.[0] ?? null;

/** Music of a file of any format but a piece's own. */
export function readMusic(format: MusicFormat, bytes: Uint8Array, options: ReadingOptions = {}): Result<Reading> {
  const spec = FORMATS[format];
  if (bytes.length > spec.bytes)
    return fail(
      'too-large',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; ${spec.bytes / 1048576} MB at most.`,
      'file',
    );
  if (!spec.read) return fail('no-reader', 'A piece file is opened as it is.', 'file');
  return spec.read(bytes, options);
}

/** A piece of a piece file. */
export const readWhole = (bytes: Uint8Array): Result<Piece> => readPieceFile(textOf(bytes));

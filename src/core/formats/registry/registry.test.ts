import { readFileSync } from 'node:fs';
import path from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { writeRack } from '../../instrument';
import { checkPiece, SCHEMA_VERSION, type Note, type Piece, type RiffEvent } from '../../score';
import { pieceJsonSchema } from '../json';
import { musicOf, takeIn, type Music } from '../music';
import { formedPiece } from '../test-support/formed';
import { FORMATS, KEPT, formatOf, keptTable, readMusic, readWhole, sniff, type MusicFormat } from './index';

const root = path.resolve(import.meta.dirname, '../../../..');
const written = (format: MusicFormat, piece: Piece, extension = FORMATS[format].extensions[0] ?? ''): Uint8Array =>
  FORMATS[format].write(piece, { channels: 'strings', staves: 'both' }, extension);

describe('what a file is', () => {
  it('is told by what it holds, whatever it is called', () => {
    const piece = formedPiece();
    for (const format of Object.keys(FORMATS) as MusicFormat[])
      for (const extension of FORMATS[format].extensions)
        expect(sniff(written(format, piece, extension)), extension).toBe(format);
    // However a store orders its fields.
    const { schemaVersion, ...rest } = piece;
    expect(sniff(strToU8(JSON.stringify({ ...rest, schemaVersion }).padEnd(200_000)))).toBe('json');
    expect(sniff(strToU8(writeRack({ instruments: [], tunings: [] })))).toBe('rack');
    expect(sniff(zipSync({ 'intonazione-archive.json': strToU8('{}') }))).toBe('archive');
    expect(sniff(strToU8('RIFF....WAVE'))).toBe('sound');
    expect(sniff(strToU8('fLaC'))).toBe('sound');
    for (const nothing of ['', 'Dear theatre', '<html></html>', '{"a":1}']) expect(sniff(strToU8(nothing))).toBeNull();
    expect([formatOf('MXL'), formatOf('mid'), formatOf('doc')]).toEqual(['musicxml', 'midi', null]);
  });

  it('and every format refuses what is larger than it reads', () => {
    for (const format of ['musicxml', 'midi', 'texttab'] as const)
      expect(readMusic(format, new Uint8Array(FORMATS[format].bytes + 1))).toMatchObject({
        ok: false,
        error: { rule: 'too-large' },
      });
    expect(readMusic('json', strToU8('{}'))).toMatchObject({ ok: false });
  });
});

describe('a piece as JSON', () => {
  it('is the same document again, of any version, and wrong ones are told by their place', () => {
    const piece = formedPiece();
    expect(must(readWhole(written('json', piece)))).toEqual(piece);
    for (const version of [1, 2, 3, 4]) {
      const old = readFileSync(path.join(root, 'src/core/score/fixtures', `piece-v${version}.json`));
      const read = must(readWhole(new Uint8Array(old)));
      expect([read.schemaVersion, checkPiece(read).ok]).toEqual([SCHEMA_VERSION, true]);
    }
    const wrong = JSON.stringify(piece).replace('"plays":3', '"plays":-3');
    expect(readWhole(strToU8(wrong))).toMatchObject({ ok: false });
    expect(readWhole(strToU8('{"schemaVersion":5,'))).toMatchObject({ ok: false, error: { rule: 'bad-json' } });
  });

  it('is described by the schema that is published', () => {
    const published = readFileSync(path.join(root, 'public/schemas', `piece-${SCHEMA_VERSION}.schema.json`), 'utf8');
    expect(JSON.parse(published)).toEqual(JSON.parse(JSON.stringify(pieceJsonSchema())));
  });
});

/** What the table says each format keeps, looked for in what comes back. */
const LOOKS: Readonly<Record<string, (music: Music) => unknown>> = (() => {
  const notes = (music: Music): Note[] => music.parts.flatMap((part) => part.events.flatMap((event) => event.notes));
  const events = (music: Music): RiffEvent[] => music.parts.flatMap((part) => part.events);
  const sorted = (list: readonly unknown[]): unknown[] => list.map((one) => JSON.stringify(one)).sort();
  return {
    Pitches: (music) => sorted(notes(music).map((note) => note.pitch.midi)),
    'Times of notes': (music) => events(music).map((event) => event.at),
    'Lengths of notes': (music) => events(music).map((event) => event.dur),
    'String and fret': (music) => notes(music).map((note) => [note.place?.string, note.place?.fret]),
    'Finger, and another that would do': (music) => notes(music).map((note) => note.place?.finger),
    Tuning: (music) => music.parts.map((part) => part.setup?.open ?? part.tuning),
    Capo: (music) => music.parts.map((part) => part.setup?.capos[0]?.fret ?? part.capo),
    'Bars and meters': (music) => [music.bars, music.meters],
    Key: (music) => music.keys,
    Swing: (music) => music.feel,
    Chords: (music) => music.chords.map((one) => one.chord),
    'Section marks': (music) => music.marks.map((mark) => mark.name),
    Cues: (music) => music.marks.map((mark) => mark.cue ?? null),
    'Several parts': (music) => music.parts.map((part) => part.name),
  };
})();

describe('the table of what is kept', () => {
  it('is what a round trip keeps', () => {
    const piece = formedPiece();
    const one: Piece = {
      ...piece,
      parts: piece.parts.slice(0, 1),
      sections: piece.sections.slice(0, 2).map((section) => ({ ...section, rows: section.rows.slice(0, 1) })),
      form: piece.form.slice(0, 2),
    };
    for (const format of ['musicxml', 'midi', 'texttab'] as const) {
      const bytes = FORMATS[format].write(one, { channels: 'strings' }, FORMATS[format].extensions[0] ?? '');
      const back = must(readMusic(format, bytes)).music;
      const gone = musicOf(one, { unfolded: format !== 'musicxml' });
      for (const row of KEPT) {
        const look = LOOKS[row.what];
        if (look && row[format] === 'kept' && !(row.what === 'Several parts' && format === 'texttab'))
          expect(look(back), `${format}: ${row.what}`).toEqual(look(gone));
      }
    }
    expect(Object.keys(LOOKS).every((what) => KEPT.some((row) => row.what === what))).toBe(true);
  });

  it('stands in the documentation as it is', () => {
    const text = readFileSync(path.join(root, 'docs/formats.md'), 'utf8');
    expect(text).toContain(keptTable());
  });
});

describe('through any two formats', () => {
  it('a piece ends as a sound piece', () => {
    const piece = formedPiece();
    for (const format of ['musicxml', 'midi', 'texttab'] as const) {
      const reading = must(readMusic(format, written(format, piece)));
      const choices = reading.music.parts.flatMap((part, index) =>
        part.events.length > 0
          ? [
              {
                index,
                name: part.name,
                setup: piece.parts[index]?.setup as Piece['parts'][number]['setup'],
                shift: 0,
                trust: 'pitches' as const,
              },
            ]
          : [],
      );
      const taken = must(takeIn(reading.music, choices));
      for (const other of Object.keys(FORMATS) as MusicFormat[])
        expect(sniff(written(other, taken.piece)), `${format} to ${other}`).toBe(other);
    }
  });
});

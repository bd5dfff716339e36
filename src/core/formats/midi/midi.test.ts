import fc from 'fast-check';
import { writeMidi, type MidiData, type MidiEvent } from 'midi-file';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { makeSetup } from '../../instrument';
import { GRIDS, type Grid } from '../../rhythm';
import { checkPart, makePart, makePiece, type Part, type Riff } from '../../score';
import { riffArbitrary, setupArbitrary } from '../../score/test-support/arbitrary';
import { ZERO } from '../../time';
import { bestShift, takeIn } from '../music';
import { midiToMusic, MIDI_LIMITS, pieceToMidi, readMidi, type MidiSong } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
type Loose = Record<string, unknown> & { deltaTime: number; type: string };
const file = (tracks: Loose[][], format: 0 | 1 = 1, ticksPerBeat = 480): Uint8Array =>
  Uint8Array.from(
    writeMidi({
      header: { format, numTracks: tracks.length, ticksPerBeat },
      tracks: tracks as unknown as MidiEvent[][],
    } as MidiData),
  );
const end: Loose = { deltaTime: 0, type: 'endOfTrack', meta: true };
const on = (deltaTime: number, noteNumber: number, channel = 0): Loose => ({
  deltaTime,
  type: 'noteOn',
  channel,
  noteNumber,
  velocity: 90,
});
const off = (deltaTime: number, noteNumber: number, channel = 0): Loose => ({
  deltaTime,
  type: 'noteOff',
  channel,
  noteNumber,
  velocity: 0,
});
const codeOf = (bytes: Uint8Array): string => {
  const made = readMidi(bytes);
  return made.ok ? 'ok' : made.error.rule;
};

describe('reading', () => {
  it('finds parts by track and channel with range, chords and polyphony', () => {
    const song = must(
      readMidi(
        file([
          [
            { deltaTime: 0, type: 'trackName', meta: true, text: 'Owl song' },
            { deltaTime: 0, type: 'setTempo', meta: true, microsecondsPerBeat: 500_000 },
            {
              deltaTime: 0,
              type: 'timeSignature',
              meta: true,
              numerator: 3,
              denominator: 4,
              metronome: 24,
              thirtyseconds: 8,
            },
            end,
          ],
          [
            { deltaTime: 0, type: 'trackName', meta: true, text: 'Gtr' },
            { deltaTime: 0, type: 'programChange', channel: 0, programNumber: 29 },
            on(0, 45),
            on(0, 52),
            off(480, 45),
            off(0, 52),
            on(0, 57, 1),
            off(240, 57, 1),
            end,
          ],
          [on(0, 36, 9), off(120, 36, 9), end],
        ]),
      ),
    );
    expect(song.title).toBe('Owl song');
    expect(song.tempo).toEqual([{ at: 0, bpm: 120 }]);
    expect(
      song.parts.map((one) => [
        one.name,
        one.channel,
        one.program,
        one.notes.length,
        one.low,
        one.high,
        one.chord,
        one.drums,
      ]),
    ).toEqual([
      ['Gtr', 1, 29, 2, 45, 52, 2, false],
      ['Gtr', 2, 0, 1, 57, 57, 1, false],
      ['Track 3', 10, 0, 1, 36, 36, 1, true],
    ]);
  });

  it('reads format 0 with running note-offs as silent note-ons, and notes never ended', () => {
    const song = must(readMidi(file([[on(0, 50), { ...on(480, 50), velocity: 0 }, on(0, 55), end]], 0)));
    expect(song.parts[0]?.notes.map((note) => [note.pitch, note.at, note.end])).toEqual([
      [50, 0, 1],
      [55, 1, 1.25],
    ]);
  });

  it('refuses what is no MIDI, or damaged, with a reason', () => {
    expect(codeOf(new Uint8Array())).toBe('not-midi');
    expect(codeOf(new TextEncoder().encode('<html>not music at all</html>'))).toBe('not-midi');
    expect(codeOf(file([[end]]))).toBe('no-notes');
    const smpte = file([[on(0, 50), off(10, 50), end]]);
    smpte[12] = 0xe8;
    expect(['midi-division', 'broken-midi']).toContain(codeOf(smpte));
    expect(codeOf(new Uint8Array(MIDI_LIMITS.bytes + 1))).toBe('too-large');
    expect(codeOf(file([[on(0, 50), off(480 * 30_000, 50), end]]))).toBe('too-long');
  });

  it('answers or refuses any truncation and any flipped byte, without an exception', () => {
    const good = file([
      [on(0, 45), off(240, 45), on(0, 47), off(240, 47), end],
      [on(0, 60, 3), off(100, 60, 3), end],
    ]);
    for (let n = 0; n < good.length; n++) expect(typeof codeOf(good.subarray(0, n))).toBe('string');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: good.length - 1 }), fc.nat({ max: 255 })), { minLength: 1, maxLength: 6 }),
        (flips) => {
          const bad = good.slice();
          for (const [i, v] of flips) bad[i] = v;
          expect(typeof codeOf(bad)).toBe('string');
        },
      ),
      { numRuns: 400 },
    );
  });

  it('is bounded: a million events are refused, an absurd tempo is brought within and said', () => {
    const many: Loose[] = [];
    for (let i = 0; i < 300_000; i++) many.push(on(1, 50), off(1, 50));
    expect(['too-many-events', 'too-large']).toContain(codeOf(file([many])));
    const song = must(
      readMidi(
        file([[{ deltaTime: 0, type: 'setTempo', meta: true, microsecondsPerBeat: 1 }, on(0, 50), off(10, 50), end]]),
      ),
    );
    expect(song.tempo[0]?.bpm).toBe(500);
    expect(song.remarks.map((finding) => finding.words).join()).toContain('tempo');
  });
});

function present<T>(value: T | null): T {
  if (value === null) throw new Error('nothing was made');
  return value;
}

/** The first part of a song as a part of a piece. */
function partOf(song: MidiSong, grid: Grid, shift = 0) {
  const { music, remarks } = midiToMusic(song, { grid });
  const taken = takeIn(music, [{ index: 0, name: 'Part', setup, shift, trust: 'pitches' }]);
  return taken.ok ? { part: taken.value.piece.parts[0] as Part, remarks } : null;
}

describe('a file as a part', () => {
  const song = (tracks: Loose[][]) => must(readMidi(file(tracks)));

  it('is drawn to the grid, chords together, pitches by the file and nothing placed', () => {
    const piece = song([[on(0, 45), on(7, 52), off(230, 45), off(0, 52), on(10, 47), off(225, 47), end]]);
    const made = present(partOf(piece, 'eighths'));
    const riff = made.part.riffs[0] as Riff;
    expect(riff.events.map((event) => [event.at, event.dur, event.notes.map((note) => note.pitch.midi)])).toEqual([
      ['0', '1/2', [45, 52]],
      ['1/2', '1/2', [47]],
    ]);
    expect(
      riff.events.every((event) => event.notes.every((note) => note.place === null && note.pitch.by === 'import')),
    ).toBe(true);
    expect(made.remarks.map((finding) => finding.rule)).toContain('drawn');
    expect(checkPart(made.part).ok).toBe(true);
  });

  it('reads a short silence as articulation and a long one as a rest', () => {
    const played = (late: number) =>
      song([[on(late, 50), off(120, 50), on(120, 52), off(120, 52), on(840, 53), off(240, 53), end]]);
    const piece = played(3);
    const made = present(partOf(piece, 'auto'));
    expect(made.part.riffs[0]?.events.map((event) => [event.at, event.dur])).toEqual([
      ['0', '1/2'],
      ['1/2', '1/4'],
      ['5/2', '1/2'],
    ]);
    // What a machine wrote to the tick is meant so, rests too.
    expect(present(partOf(played(0), 'auto')).part.riffs[0]?.events.map((event) => event.dur)).toEqual([
      '1/4',
      '1/4',
      '1/2',
    ]);
  });

  it('finds triplets by itself', () => {
    const piece = song([
      [
        on(0, 50),
        off(150, 50),
        on(10, 52),
        off(150, 52),
        on(10, 53),
        off(150, 53),
        on(10, 55),
        off(230, 55),
        on(10, 57),
        off(230, 57),
        end,
      ],
    ]);
    const made = present(partOf(piece, 'auto'));
    expect(made.part.riffs[0]?.events.map((event) => event.at)).toEqual(['0', '1/3', '2/3', '1', '3/2']);
  });

  it('is offered in the octave that puts most of it on the neck', () => {
    const piece = song([[on(0, 28), off(100, 28), on(0, 33), off(100, 33), end]]);
    const part = present(midiToMusic(piece, { grid: 'auto' }).music.parts[0] ?? null);
    expect(bestShift(part, setup)).toBe(12);
    expect(bestShift(part, must(makeSetup({ instrument: 'bass-4' })).setup)).toBe(0);
  });

  it('keeps its meters, each at a bar line', () => {
    const sig = (deltaTime: number, numerator: number): Loose => ({
      deltaTime,
      type: 'timeSignature',
      meta: true,
      numerator,
      denominator: 4,
      metronome: 24,
      thirtyseconds: 8,
    });
    const piece = song([
      [sig(0, 4), sig(480 * 8, 3), end],
      [on(0, 50), off(480 * 12, 50), end],
    ]);
    const made = present(partOf(piece, 'auto'));
    expect(made.part.riffs[0]?.meters).toEqual([
      { bar: 0, beats: 4, unit: 4 },
      { bar: 2, beats: 3, unit: 4 },
    ]);
  });

  it('is a sound document whatever the notes and the grid', () => {
    const note = fc.record({
      wait: fc.nat({ max: 900 }),
      length: fc.integer({ min: 1, max: 2000 }),
      pitch: fc.integer({ min: 0, max: 127 }),
    });
    fc.assert(
      fc.property(
        fc.array(note, { minLength: 1, maxLength: 40 }),
        fc.constantFrom(...GRIDS),
        fc.constantFrom(-12, 0, 12),
        (notes, grid, shift) => {
          let at = 0;
          const timed = notes
            .flatMap((one) => {
              at += one.wait;
              return [
                { tick: at, e: on(0, one.pitch) },
                { tick: at + one.length, e: off(0, one.pitch) },
              ];
            })
            .sort((a, b) => a.tick - b.tick);
          let last = 0;
          const track = timed.map(({ tick, e: one }) => {
            const deltaTime = tick - last;
            last = tick;
            return { ...one, deltaTime };
          });
          const other = readMidi(file([[...track, end]]));
          if (!other.ok) return;
          const made = partOf(other.value, grid, shift);
          if (made) expect(checkPart(made.part)).toMatchObject({ ok: true });
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('writing', () => {
  it('and reading again gives every pitch and onset', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup).map((riff) => ({ riff, s: setup }))),
        ({ riff, s: setup }) => {
          const events = riff.events.filter((event) => !event.at.startsWith('-'));
          const plain = { ...riff, pickup: ZERO, plays: 1, events };
          fc.pre(plain.events.some((event) => event.notes.length > 0));
          const song = must(
            readMidi(
              pieceToMidi(makePiece('p', 'Piece', { parts: [makePart('p0', 'Part', setup, { riffs: [plain] })] })),
            ),
          );
          const hearing = song.parts[0]?.notes.map((note) => `${Math.round(note.at * 480)} ${note.pitch}`).sort();
          const written = plain.events
            .flatMap((event) =>
              event.notes.map(
                (note) =>
                  `${Math.round((Number(event.at.split('/')[0]) / Number(event.at.split('/')[1] ?? 1)) * 480)} ${note.pitch.midi}`,
              ),
            )
            .sort();
          expect(hearing).toEqual(written);
        },
      ),
      { numRuns: 80 },
    );
  });
});

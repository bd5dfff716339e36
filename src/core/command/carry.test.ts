import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { applyEdit, invertEdit } from '../edit';
import { makeSetup, pitchAt, type Setup } from '../instrument';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, readPiece, type Piece } from '../score';
import { quarter, ZERO } from '../time';
import { behind, editionPart, renewEdition, retune, retuneOptions } from './index';

const setupOf = (instrument: string, tuning?: string): Setup => must(makeSetup({ instrument, tuning })).setup;
const GUITAR = setupOf('guitar-6');
const BASS = setupOf('bass-4');

function line(setup: Setup, prefix: string, text: string) {
  return text.split(' ').map((at, i) => {
    const [string = 1, fret = 0] = at.split('.').map(Number);
    return makeEvent(`${prefix}${i}`, quarter(i, 2), quarter(1, 2), [
      makeNote(`${prefix}n${i}`, must(pitchAt(setup, { string, fret })), 'instructor', {
        place: makePlace(string, fret, 'instructor'),
      }),
    ]);
  });
}

const PIECE: Piece = makePiece('piece', 'Moon on a string', {
  context: {
    tempo: [{ at: ZERO, bpm: 96 }],
    key: [{ at: ZERO, tonic: 'E', mode: 'minor' }],
    chords: [{ at: ZERO, dur: quarter(4), chord: 'Em7' }],
    bass: [{ at: ZERO, dur: quarter(4), note: 'E' }],
  },
  parts: [
    makePart('p1', 'Guitar', GUITAR, {
      riffs: [makeRiff('r1', 'Crank', { bars: 1, events: line(GUITAR, 'a', '6.3 5.2 5.5 4.2 4.5 5.5 5.2 6.3') })],
    }),
    makePart('p2', 'Bass', BASS, {
      riffs: [makeRiff('r2', 'Root', { bars: 1, events: line(BASS, 'b', '4.3 4.3 3.2 3.5') })],
    }),
  ],
});

const pitches = (piece: Piece, part: number): number[] =>
  piece.parts[part]?.riffs.flatMap((riff) =>
    riff.events.flatMap((event) => event.notes.map((note) => note.pitch.midi)),
  ) ?? [];

describe('editions', () => {
  const made = must(editionPart(PIECE, 'p1', { setup: BASS, keep: 'shape' }, 'Guitar, on the bass'));
  const after = must(applyEdit(PIECE, made.edit));
  const edition = after.parts.find((part) => part.id === made.part);

  it('stand beside their model on the other instrument, and the piece can be read again', () => {
    expect(edition?.setup.instrument.id).toBe('bass-4');
    expect(edition?.editionOf).toBe('p1');
    expect(edition?.riffs[0]?.events.map((event) => event.notes[0]?.place?.string)).toEqual([4, 3, 3, 2, 2, 3, 3, 4]);
    expect(must(readPiece(JSON.parse(JSON.stringify(after)))).parts).toHaveLength(3);
    expect(must(applyEdit(after, must(invertEdit(PIECE, made.edit)))).parts).toEqual(PIECE.parts);
  });

  it('know when their model was changed since, and are made anew in one step that can be undone', () => {
    if (!edition) throw new Error('no edition');
    expect(behind(after, edition)).toEqual([]);
    const riff = PIECE.parts[0]?.riffs[0];
    const first = riff?.events[0];
    if (!first) throw new Error('no riff');
    const other = { ...first, notes: [makeNote('an0', 41, 'instructor', { place: makePlace(6, 1, 'instructor') })] };
    const changed = must(
      applyEdit(after, { type: 'putEvents', part: 'p1', riff: 'r1', put: [other] as never, remove: [] }),
    );
    const now = changed.parts.find((part) => part.id === made.part);
    expect(now && behind(changed, now)).toEqual(['Crank']);
    const edit = must(renewEdition(changed, made.part));
    const renewed = must(applyEdit(changed, edit));
    const last = renewed.parts.find((part) => part.id === made.part);
    expect(last?.riffs[0]?.events[0]?.notes[0]?.place).toMatchObject({ string: 4, fret: 1 });
    expect(last && behind(renewed, last)).toEqual([]);
    expect(must(applyEdit(renewed, must(invertEdit(changed, edit)))).parts).toEqual(changed.parts);
  });
});

describe('retuning a piece', () => {
  it('compares capo, tuning and placing anew for all parts at once', () => {
    const [capo, detune, anew] = retuneOptions(PIECE, 2);
    expect([capo?.way, detune?.way, anew?.way]).toEqual(['capo', 'detune', 'anew']);
    expect(capo?.parts.map((part) => [part.setup.capos[0]?.fret ?? 0, part.keep])).toEqual([
      [2, 'shape'],
      [0, 'sound'],
    ]);
    expect(detune?.parts.every((part) => part.keep === 'shape')).toBe(true);
    expect(detune?.losses).toBe(0);
    expect(capo?.line).toContain('F♯ minor');
    expect(capo?.line).toContain('Guitar plays the same shapes with the capo at fret 2');
  });

  it('offers no capo where no part could use one', () => {
    expect(retuneOptions(PIECE, -2).map((one) => one.way)).toEqual(['detune', 'anew']);
  });

  it('moves notes, key, chords and bass in one step, and back', () => {
    for (const by of [2, -2, 3])
      for (const option of retuneOptions(PIECE, by)) {
        const edit = must(retune(PIECE, option, by));
        const after = must(applyEdit(PIECE, edit));
        expect(pitches(after, 0)).toEqual(pitches(PIECE, 0).map((midi) => midi + by));
        expect(pitches(after, 1)).toEqual(pitches(PIECE, 1).map((midi) => midi + by));
        expect(must(applyEdit(after, must(invertEdit(PIECE, edit))))).toEqual({ ...PIECE, lastId: after.lastId });
        expect(must(readPiece(JSON.parse(JSON.stringify(after)))).title).toBe(PIECE.title);
      }
    const up = must(applyEdit(PIECE, must(retune(PIECE, retuneOptions(PIECE, 2)[0] as never, 2))));
    expect(up.context.key[0]).toMatchObject({ tonic: 'F#', mode: 'minor' });
    expect(up.context.chords?.[0]?.chord).toBe('F#m7');
    expect(up.context.bass?.[0]?.note).toBe('F#');
  });
});

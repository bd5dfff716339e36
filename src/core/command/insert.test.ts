import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { applyEdit, invertEdit } from '../edit';
import { makeSetup } from '../instrument';
import { checkPiece, makePart, makePiece, makeRiff, type Piece, type Riff } from '../score';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls } from '../shorthand';
import { quarter, ZERO, type Quarter } from '../time';
import { insertEvents, standingIn, type Insertion } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const METERS = [{ bar: 0, beats: 4, unit: 4 }];

const read = (text: string, at: Quarter = ZERO) => {
  const called = readCalls(text, { setup, meters: METERS, at, length: FIRST_LENGTH, string: null });
  return { events: calledToEvents(called, new Set()), end: called.end };
};

function piece(text: string, extra: Partial<Riff> = {}): Piece {
  const riff = makeRiff('r', 'Moths', { bars: 2, events: read(text).events, ...extra });
  return makePiece('p', 'P', { lastId: 500, parts: [makePart('g', 'Guitar', setup, { riffs: [riff] })] });
}

const riffOf = (one: Piece): Riff => one.parts[0]?.riffs[0] as Riff;

/** The riff as calls after something was put in at a time; or why it was not. */
function put(into: Piece, text: string, at: Quarter, how?: Insertion): string {
  const { events, end } = read(text, at);
  const made = insertEvents(into, 'r', events, end, how);
  if (!made.ok) return made.error.rule;
  const after = must(applyEdit(into, made.value));
  must(checkPiece(after));
  expect(must(applyEdit(after, must(invertEdit(into, made.value)))).parts).toEqual(into.parts);
  return printCalls(riffOf(after));
}

describe('putting notes where others stand', () => {
  const four = 'quarters on 5 3 5 7 8';

  it('says what stands there, and how much of it is locked', () => {
    const { locked, events } = standingIn(riffOf(piece('quarters on 5 3 5? 7 8')), quarter(1), quarter(3));
    expect([events.length, locked]).toEqual([2, 1]);
  });
  it('goes over proposals, and over locked notes only when told to', () => {
    expect(put(piece('quarters on 5 3 5? 7? 8'), 'quarter on 4 2', quarter(1))).toBe(
      'quarters on 5 3 on 4 2 on 5 7? 8',
    );
    expect(put(piece(four), 'quarter on 4 2', quarter(1))).toBe('locked');
    expect(put(piece(four), 'quarter on 4 2', quarter(1), 'over-locked')).toBe('quarters on 5 3 on 4 2 on 5 7 8');
  });
  it('makes room by as much as is put in', () => {
    expect(put(piece(four), 'quarter on 4 2', quarter(1), 'by-beat')).toBe('quarters on 5 3 on 4 2 on 5 5 7 | 8');
  });
  it('makes room by whole bars, and meters, tempo, wishes and alternatives move with the music', () => {
    const full = piece(`${four} | 8 7 5 3`, {
      meters: [
        { bar: 0, beats: 4, unit: 4 },
        { bar: 1, beats: 5, unit: 4 },
      ],
      tempo: [
        { at: ZERO, bpm: 100 },
        { at: quarter(4), bpm: 80 },
      ],
      wishes: [{ id: 'w', from: quarter(4), to: quarter(8), hand: 5, liking: null, avoid: [], prefer: [] }],
    });
    const { events, end } = read('quarter on 4 2', ZERO);
    const after = riffOf(must(applyEdit(full, must(insertEvents(full, 'r', events, end, 'by-bar')))));
    expect(after.bars).toBe(3);
    expect(after.meters.map((meter) => meter.bar)).toEqual([0, 2]);
    expect(after.tempo?.map((step) => step.at)).toEqual(['0', '8']);
    expect(after.wishes?.[0]?.from).toBe('8');
    expect(after.events.map((event) => event.at)).toEqual(['0', '4', '5', '6', '7', '8', '9', '10', '11']);
  });
});

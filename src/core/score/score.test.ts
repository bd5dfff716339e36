import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quarter, ZERO } from '../time';
import {
  barCount,
  checkPiece,
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makePlace,
  makeRiff,
  readPiece,
  type Piece,
} from './index';
import { pieceArbitrary } from './test-support/arbitrary';
import { must, pathWords } from '../base';
import { makeSetup } from '../instrument';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const note = (id: string, string: number, fret: number) =>
  makeNote(id, (setup.open[6 - string] ?? 0) + fret, 'instructor', { place: makePlace(string, fret, 'instructor') });
const piece = (events: Parameters<typeof makeRiff>[2]): Piece =>
  makePiece('p', 'Piece', { parts: [makePart('p0', 'Guitar', setup, { riffs: [makeRiff('r0', 'Riff', events)] })] });
const codeOf = (piece: Piece): string => {
  const made = readPiece(JSON.parse(JSON.stringify(piece)));
  return made.ok ? 'ok' : made.error.rule;
};

describe('a document', () => {
  it('survives being written and read', () => {
    fc.assert(
      fc.property(pieceArbitrary, (piece) => {
        expect(must(readPiece(JSON.parse(JSON.stringify(piece))))).toEqual(piece);
      }),
      { numRuns: 60 },
    );
  });

  it('keeps its invariants: pitch and place agree, one note a string, time goes forward', () => {
    expect(codeOf(piece({ events: [makeEvent('e0', ZERO, quarter(1), [note('n0', 5, 3)])] }))).toBe('ok');
    expect(
      codeOf(
        piece({
          events: [
            makeEvent('e0', ZERO, quarter(1), [
              { ...note('n0', 5, 3), pitch: { midi: 50, cents: 0, by: 'instructor' } },
            ]),
          ],
        }),
      ),
    ).toBe('pitch-place');
    expect(codeOf(piece({ events: [makeEvent('e0', ZERO, quarter(1), [note('n0', 5, 3), note('n1', 5, 5)])] }))).toBe(
      'string-twice',
    );
    expect(
      codeOf(
        piece({
          events: [
            makeEvent('e0', quarter(1), quarter(1), [note('n0', 5, 3)]),
            makeEvent('e1', quarter(1), quarter(1), [note('n1', 4, 3)]),
          ],
        }),
      ),
    ).toBe('event-order');
    expect(codeOf(piece({ events: [makeEvent('e0', quarter(-1), quarter(1), [note('n0', 5, 3)])] }))).toBe(
      'before-pickup',
    );
    expect(
      codeOf(
        piece({
          events: [
            makeEvent('e0', ZERO, quarter(1), [note('n0', 5, 3)]),
            makeEvent('e0', quarter(1), quarter(1), [note('n1', 5, 3)]),
          ],
        }),
      ),
    ).toBe('duplicate-id');
    expect(codeOf(piece({ pickup: quarter(4) }))).toBe('long-pickup');
    const twice = piece({});
    expect(
      codeOf({ ...twice, parts: [...twice.parts, { ...(twice.parts[0] as Piece['parts'][number]), id: 'p1' }] }),
    ).toBe('duplicate-id');
  });

  it('from elsewhere is read with the place and reason of what is wrong', () => {
    for (const [json, code] of [
      [null, 'not-a-piece'],
      [[], 'not-a-piece'],
      [{}, 'not-a-piece'],
      [{ schemaVersion: 99 }, 'newer-version'],
      [{ schemaVersion: 1, id: 'x' }, 'schema'],
    ] as const) {
      const read = readPiece(json);
      expect(read.ok ? 'ok' : read.error.rule).toBe(code);
    }
    const bent = JSON.parse(JSON.stringify(piece({ events: [makeEvent('e0', ZERO, quarter(1), [note('n0', 5, 3)])] })));
    bent.parts[0].riffs[0].events[0].dur = 'long';
    const read = readPiece(bent);
    expect(read.ok ? '' : pathWords(read.error.locus)).toBe('parts.0.riffs.0.events.0.dur');
  });

  it('has as many bars as its notes need', () => {
    const riff = makeRiff('r', 'r', { bars: 1, events: [makeEvent('e0', quarter(9), quarter(1), [note('n0', 5, 3)])] });
    expect(barCount(riff)).toBe(3);
    expect(checkPiece(piece({})).ok).toBe(true);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { applyEdit } from '../edit';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, type Riff } from '../score';
import { riffArbitrary, setupArbitrary } from '../score/test-support/arbitrary';
import { quarter, ZERO } from '../time';
import { bestWay, explainEvent, placeRiff, problemOf, proposals, solve, termWords, type Term } from './index';
import { setupFor } from './test-support/phrases';

const tempo = [{ at: ZERO, bpm: 96 }];
const withSetup = setupArbitrary.chain((setup) => riffArbitrary(setup).map((riff) => ({ riff, setup })));

describe('a riff of a document', () => {
  it('is placed around what is locked: the proposals always apply, and solving again changes nothing', () => {
    fc.assert(
      fc.property(withSetup, ({ riff, setup }) => {
        const piece = makePiece('p', 'p', { parts: [makePart('p0', 'g', setup, { riffs: [riff] })] });
        const places = proposals(riff, bestWay(solve(problemOf(riff, setup, tempo))));
        const next = must(applyEdit(piece, { type: 'proposePlaces', part: 'p0', riff: riff.id, places }));
        const solved = next.parts[0]?.riffs[0] as Riff;
        expect(proposals(solved, bestWay(solve(problemOf(solved, setup, tempo))))).toEqual([]);
        const before = new Map(riff.events.flatMap((event) => event.notes.map((note) => [note.id, note] as const)));
        for (const note of solved.events.flatMap((event) => event.notes)) {
          const was = before.get(note.id)?.place;
          if (!was?.locked) continue;
          expect(note.place).toMatchObject({ string: was.string, fret: was.fret, locked: true, by: was.by });
          if (was.fingerBy === 'instructor' && was.finger !== null) expect(note.place?.finger).toBe(was.finger);
        }
      }),
      { numRuns: 80 },
    );
  });

  it('comes back with its places filled in, and with what could not be placed', () => {
    const riff = makeRiff('r', 'r', {
      events: [
        makeEvent('a', ZERO, quarter(1), [makeNote('n', 52, 'import')]),
        makeEvent('b', quarter(1), quarter(1), [makeNote('m', 20, 'import')]),
      ],
    });
    const { riff: solved, blocked } = placeRiff(riff, setupFor('guitar-6'), tempo);
    expect(solved.events[0]?.notes[0]?.place).toMatchObject({ by: 'solver', locked: false });
    expect(solved.events[1]?.notes[0]?.place).toBeNull();
    expect(blocked.map((b) => [b.locus.event, b.rule])).toEqual([['b', 'range']]);
  });

  it('gives a locked place its finger and leaves the instructor’s finger alone', () => {
    const place = makePlace(4, 7, 'instructor');
    const riff = (finger: 2 | null): Riff =>
      makeRiff('r', 'r', {
        events: [
          makeEvent('a', ZERO, quarter(1), [
            makeNote('n', 57, 'instructor', {
              place: { ...place, finger, fingerBy: finger ? 'instructor' : 'solver' },
            }),
          ]),
        ],
      });
    const open = placeRiff(riff(null), setupFor('guitar-6'), tempo).riff.events[0]?.notes[0]?.place;
    expect(open).toMatchObject({ string: 4, fret: 7, locked: true, fingerBy: 'solver' });
    expect(open?.finger).toBeGreaterThan(0);
    expect(placeRiff(riff(2), setupFor('guitar-6'), tempo).riff.events[0]?.notes[0]?.place?.finger).toBe(2);
  });
});

describe('reasons', () => {
  it('say where the hand is, whether it moves, and what weighs', () => {
    const riff = makeRiff('r', 'r', {
      events: [40, 57, 59, 71, 52].map((midi, i) =>
        makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [
          makeNote(
            `n${i}`,
            midi,
            'import',
            i === 3
              ? { place: makePlace(1, 7, 'instructor') }
              : i === 1
                ? { place: makePlace(4, 7, 'instructor') }
                : {},
          ),
        ]),
      ),
    });
    const way = bestWay(solve(problemOf(riff, setupFor('guitar-6'), tempo)));
    const wording = way.events.map((event, i) => explainEvent(event, way.events[i - 1] ?? null));
    expect(wording[0]).toMatch(/^Open: the hand is free/);
    expect(wording[2]).toMatch(/^The hand (stays at fret|moves from fret)/);
    for (const text of wording) expect(text.endsWith('.')).toBe(true);
  });

  it('put every term into words with its quantity', () => {
    const terms: Pick<Term, 'name' | 'amount'>[] = (
      [
        'stretch',
        'finger',
        'spread',
        'bunched',
        'barre',
        'gap',
        'open',
        'openThin',
        'low',
        'high',
        'far',
        'wish',
        'travel',
        'blindShift',
        'jump',
        'roll',
        'drag',
        'cross',
        'skip',
        'reshape',
        'swap',
        'bend',
        'thumb',
        'damp',
        'offString',
        'closed',
        'pedal',
        'openFar',
      ] as const
    ).map((name) => ({ name, amount: 2 }));
    const words = terms.map(termWords);
    expect(new Set(words).size).toBe(words.length);
    expect(termWords({ name: 'travel', amount: 101.7 })).toBe('a shift of 102 mm');
    expect(termWords({ name: 'cross', amount: 1 })).toBe('1 string for the pick to cross');
  });
});

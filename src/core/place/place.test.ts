import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openPitch, pitchAt } from '../instrument';
import { quarter } from '../time';
import { cheapestByTrying } from './test-support/exhaustive';
import { alternativesFor, bestWay, bestWays, DEFAULT_OPTIONS, positionsOf, solve } from './index';
import {
  complaints,
  dice,
  event,
  problem,
  randomPhrase,
  setupFor,
  TEST_HANDS,
  TEST_SETUPS,
} from './test-support/phrases';

const SETUPS = TEST_SETUPS();
const line = (pitches: readonly number[]) => pitches.map((p, i) => event(`e${i}`, i, [p]));
const phrase = (max: number) =>
  fc
    .tuple(
      fc.constantFrom(...SETUPS),
      fc.integer({ min: 1, max }),
      fc.integer({ min: 1, max: 2 ** 31 - 1 }),
      fc.constantFrom(...TEST_HANDS),
    )
    .map(([setup, length, seed, profile]) => {
      const events = randomPhrase(setup, length, dice(seed));
      return { setup, events, asked: problem(setup, events, { options: { ...DEFAULT_OPTIONS, profile } }) };
    });

describe('positions', () => {
  it('are all places of a pitch and nothing else, and sound it', () => {
    fc.assert(
      fc.property(fc.constantFrom(...SETUPS), fc.integer({ min: 20, max: 90 }), (setup, pitch) => {
        const found = new Set(positionsOf(setup, pitch).map((place) => `${place.string}.${place.fret}`));
        for (let string = 1; string <= setup.open.length; string++) {
          for (let fret = 0; fret <= 24; fret++) {
            const sounds = pitchAt(setup, { string, fret });
            expect(found.has(`${string}.${fret}`)).toBe(sounds.ok && sounds.value === pitch);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  it('count frets from the capo and from the nut', () => {
    expect(positionsOf(setupFor('guitar-6', 'standard', 3), 62)[0]).toEqual({
      string: 2,
      fret: 0,
      fretFromNut: 3,
      open: true,
    });
  });
});

describe('the solver', () => {
  it('finds the optimum: equal to trying everything on 5,000 random phrases: chords, joins, rings, locks, capos, bends, trills, bars, wishes, hands', () => {
    let compared = 0;
    fc.assert(
      fc.property(phrase(4), ({ asked }) => {
        const solution = solve(asked);
        const exhaustive = cheapestByTrying(asked);
        if (solution.blocked.length > 0) {
          expect(exhaustive).toBe(Infinity);
        } else {
          expect(bestWay(solution).cost).toBeCloseTo(exhaustive, 8);
          compared++;
        }
      }),
      { numRuns: 5000, seed: 20261123 },
    );
    expect(compared).toBeGreaterThan(2000);
  }, 240_000);

  it('never gives a hand what it can’t do', () => {
    fc.assert(
      fc.property(phrase(14), ({ asked }) => {
        expect(complaints(asked, bestWay(solve(asked)))).toEqual([]);
      }),
      { numRuns: 400, seed: 7 },
    );
  });

  it('keeps held notes on string and finger, joins on one string in their direction, locks where they are', () => {
    fc.assert(
      fc.property(phrase(10), ({ events, asked }) => {
        const solution = solve(asked);
        const way = bestWay(solution);
        const unlinked = new Set(solution.blocked.filter((b) => b.rule === 'link').map((b) => b.locus.event));
        events.forEach((event, i) => {
          event.notes.forEach((note, index) => {
            const placed = way.events[i]?.notes[index];
            if (note.lock && placed) expect([placed.string, placed.fret]).toEqual([note.lock.string, note.lock.fret]);
          });
          const next = way.events[i + 1];
          const a = way.events[i]?.notes[0];
          const b = next?.notes[0];
          if (
            !event.link ||
            unlinked.has(event.id) ||
            !a ||
            !b ||
            event.notes.length > 1 ||
            (next?.notes.length ?? 0) > 1 ||
            event.notes[0]?.dead ||
            events[i + 1]?.notes[0]?.dead
          )
            return;
          if (event.notes[0]?.tapped || events[i + 1]?.notes[0]?.tapped) return;
          if (event.notes[0]?.harmonic || events[i + 1]?.notes[0]?.harmonic) return;
          expect(b.string).toBe(a.string);
          if (event.link === 'hammer') expect(b.fret).toBeGreaterThan(a.fret);
          if (event.link === 'pull') expect(b.fret).toBeLessThan(a.fret);
          if (event.link === 'slide') expect(b.finger).toBe(a.finger);
        });
      }),
      { numRuns: 150, seed: 11 },
    );
  });

  it('adds up: the cost of a way is the sum of the terms it shows', () => {
    fc.assert(
      fc.property(phrase(8), ({ asked }) => {
        const way = bestWay(solve(asked));
        const terms = way.events
          .flatMap((event) => [...event.hold, ...event.move])
          .reduce((sum, term) => sum + term.cost, 0);
        expect(terms).toBeCloseTo(way.cost, 8);
      }),
      { numRuns: 60 },
    );
  });

  it('is the same every time', () => {
    const one = problem(setupFor('guitar-6'), line([45, 48, 50, 51, 52, 55, 57]));
    expect(bestWay(solve(one))).toEqual(bestWay(solve(one)));
  });

  it('takes 1-2-4 low on a long scale and one finger a fret higher up', () => {
    const bass = bestWay(
      solve(problem(setupFor('bass-4'), line([29, 31, 29, 31]), { options: { ...DEFAULT_OPTIONS, openLiking: -1 } })),
    );
    expect(bass.events[1]?.notes[0]?.finger).toBe(4);
    const high = bestWay(
      solve(
        problem(
          setupFor('guitar-6'),
          [event('a', 0, [57]), event('b', 1, [58]), event('c', 2, [59]), event('d', 3, [60])].map((event, i) => ({
            ...event,
            notes: [{ pitch: 57 + i, lock: { string: 4, fret: 7 + i, finger: null }, dur: null }],
          })),
        ),
      ),
    );
    expect(high.events.map((event) => event.notes[0]?.finger)).toEqual([1, 2, 3, 4]);
  });

  it('knows the open grips', () => {
    const way = bestWay(solve(problem(setupFor('guitar-6'), [event('c', 0, [48, 52, 55, 60, 64])])));
    expect(way.events[0]?.notes.map((place) => `${place?.string}/${place?.fret} ${place?.finger}`)).toEqual([
      '5/3 3',
      '4/2 2',
      '3/0 0',
      '2/1 1',
      '1/0 0',
    ]);
    const one = bestWay(solve(problem(setupFor('guitar-6'), [event('f', 0, [41, 48, 53, 57, 60, 65])])));
    expect(one.events[0]?.notes.map((place) => place?.finger)).toEqual([1, 3, 4, 2, 1, 1]);
  });
});

describe('what can’t be played', () => {
  const setup = setupFor('guitar-6');
  it('is left out one note at a time, with the reason, and the rest is placed', () => {
    const solution = solve(problem(setup, [event('a', 0, [38]), event('b', 1, [45]), event('c', 2, [110])]));
    expect(solution.blocked.map((b) => [b.locus.event, b.rule])).toEqual([
      ['a', 'range'],
      ['c', 'range'],
    ]);
    expect(solution.blocked[0]?.words).toContain('2 semitones below');
    expect(bestWay(solution).events.map((event) => event.notes[0]?.string ?? null)).toEqual([
      null,
      expect.any(Number),
      null,
    ]);
  });

  it('gives up the smallest set: one note of a chord no hand reaches', () => {
    const solution = solve(problem(setup, [event('x', 0, [40, 41])]));
    expect(solution.blocked).toHaveLength(1);
    expect(solution.blocked[0]).toMatchObject({ locus: { event: 'x' }, rule: 'reach' });
  });

  it('gives up an impossible join rather than a note', () => {
    const solution = solve(problem(setup, [event('a', 0, [60], { link: 'hammer' }), event('b', 1, [55])]));
    expect(solution.blocked.map((b) => b.rule)).toEqual(['link']);
    expect(bestWay(solution).events.every((event) => event.notes[0])).toBe(true);
  });

  it('gives up a ring whose string is needed', () => {
    const low = { ...event('a', 0, [40]), dur: quarter(4) };
    const solution = solve(problem(setup, [low, event('b', 1, [41])]));
    expect(solution.blocked.map((b) => b.rule)).toEqual(['ring']);
  });

  it('says when a lock does not sound its note', () => {
    const wrong = {
      ...event('a', 0, [45]),
      notes: [{ pitch: 45, lock: { string: 6, fret: 4, finger: null }, dur: null }],
    };
    expect(solve(problem(setup, [wrong])).blocked[0]?.rule).toBe('lock');
  });

  it('ends on long hopeless parts too', () => {
    const hopeless = Array.from({ length: 300 }, (_, i) => event(`e${i}`, i, [40, 41, 42, 43, 44]));
    const solution = solve(problem(setup, hopeless));
    expect(solution.blocked.length).toBeGreaterThan(600);
    expect(bestWay(solution).events).toHaveLength(300);
  });
});

describe('ways and alternatives', () => {
  const setup = setupFor('guitar-6');
  const one = problem(setup, line([57, 59, 60, 62, 64, 62, 60, 57]));

  it('come in order of cost, begin with the best, and differ noticeably', () => {
    const ways = bestWays(solve(one), 6);
    expect(ways).toHaveLength(6);
    expect(ways[0]?.cost).toBeCloseTo(bestWay(solve(one)).cost, 9);
    for (let i = 1; i < ways.length; i++)
      expect(ways[i]?.cost ?? 0).toBeGreaterThanOrEqual((ways[i - 1]?.cost ?? 0) - 1e-9);
    const seen = ways.map((way) =>
      way.events.map((event) => `${event.notes.map((place) => place?.string).join()}@${event.hand}`).join(' '),
    );
    expect(new Set(seen).size).toBe(6);
    for (const way of ways) expect(complaints(one, way)).toEqual([]);
  });

  it('price every place of a note as the whole phrase would cost with it locked there', () => {
    const best = bestWay(solve(one)).cost;
    for (const alternative of alternativesFor(one, 3, 0)) {
      const locked = one.events.map((event, i) =>
        i === 3
          ? {
              ...event,
              notes: event.notes.map((note) => ({
                ...note,
                lock: { string: alternative.string, fret: alternative.fret, finger: null },
              })),
            }
          : event,
      );
      const solution = solve({ ...one, events: locked });
      if (alternative.extra === null) expect(solution.blocked.length).toBeGreaterThan(0);
      else expect(bestWay(solution).cost - best).toBeCloseTo(alternative.extra, 8);
    }
  });

  it('list all places of the pitch, the best first, with a reason each', () => {
    const list = alternativesFor(one, 0, 0);
    expect(list.map((a) => a.string).sort()).toEqual(
      positionsOf(setup, 57)
        .map((place) => place.string)
        .sort(),
    );
    expect(list[0]?.extra).toBe(0);
    for (const a of list) expect(a.reason.length).toBeGreaterThan(5);
    expect(openPitch(setup, list[0]?.string ?? 0) + (list[0]?.fret ?? 0)).toBe(57);
  });
});

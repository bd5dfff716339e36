import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quarter } from '../time';
import { bestWay, clashOf, mendsOf, solve, type Blocked, type Problem } from './index';
import { dice, event, problem, randomPhrase, setupFor, TEST_SETUPS } from './test-support/phrases';

const setup = setupFor('guitar-6');
const first = (asked: Problem): Blocked => {
  const [blocked] = solve(asked).blocked;
  if (!blocked) throw new Error('nothing is blocked');
  return blocked;
};
const kinds = (asked: Problem): string[] => mendsOf(asked, first(asked)).mends.map((one) => one.kind);

describe('what clashes', () => {
  it('is the two notes that want one string, and none of the rest of the chord', () => {
    const asked = problem(setup, [event('x', 0, [40, 41, 59, 64])]);
    const clash = clashOf(asked, first(asked));
    expect(clash.map((item) => item.words).sort()).toEqual(['E2', 'F2']);
  });

  it('is a note, its sounding on, and the note that wants its string', () => {
    const asked = problem(setup, [{ ...event('a', 0, [40]), dur: quarter(4) }, event('b', 1, [41])]);
    expect(
      clashOf(asked, first(asked))
        .map((item) => item.what)
        .sort(),
    ).toEqual(['note', 'note', 'ring']);
  });

  it('is the join and the notes it joins where there is no such join', () => {
    const asked = problem(setup, [event('a', 0, [60], { link: 'hammer' }), event('b', 1, [55])]);
    expect(
      clashOf(asked, first(asked))
        .map((item) => item.what)
        .sort(),
    ).toEqual(['link', 'note', 'note']);
  });

  it('can be done away with by giving up any one of it, and only together is impossible', () => {
    const setups = TEST_SETUPS();
    let seen = 0;
    let silent = 0;
    fc.assert(
      fc.property(fc.constantFrom(...setups), fc.integer({ min: 1, max: 2 ** 31 - 1 }), (setup, seed) => {
        const asked = problem(setup, randomPhrase(setup, 4, dice(seed)));
        for (const blocked of solve(asked).blocked) {
          if (!blocked.within) continue;
          const clash = clashOf(asked, blocked);
          if (clash.length === 0) {
            silent++;
            continue;
          }
          seen++;
          expect(clash.some((item) => item.event === blocked.locus.event)).toBe(true);
          expect(new Set(clash.map((item) => `${item.what} ${item.event} ${item.note}`)).size).toBe(clash.length);
        }
      }),
      { numRuns: 150 },
    );
    expect(seen).toBeGreaterThan(20);
    expect(silent).toBeLessThan(seen / 10);
  }, 120_000);
});

describe('ways out', () => {
  it('of a chord no hand reaches: an octave, leaving a note out, another set-up; each tried', () => {
    const asked = problem(setup, [event('x', 0, [40, 41])]);
    expect(kinds(asked)).toEqual(expect.arrayContaining(['octave', 'leave', 'instrument']));
  });

  it('of a ring whose string is needed: letting it end', () => {
    const asked = problem(setup, [{ ...event('a', 0, [40]), dur: quarter(4) }, event('b', 1, [41])]);
    expect(kinds(asked)[0]).toBe('release');
  });

  it('of a join that can’t be: picking anew', () => {
    expect(kinds(problem(setup, [event('a', 0, [60], { link: 'hammer' }), event('b', 1, [55])]))).toContain('unlink');
  });

  it('of a lock that clashes: freeing it', () => {
    const lock = { string: 6, fret: 1, finger: null };
    const far = { string: 5, fret: 12, finger: null };
    const asked = problem(setup, [
      {
        ...event('x', 0, []),
        notes: [
          { pitch: 41, lock, dur: null },
          { pitch: 57, lock: far, dur: null },
        ],
      },
    ]);
    expect(kinds(asked)).toContain('unlock');
  });

  it('of a pitch below the lowest string: a tuning and an instrument that have it', () => {
    const asked = problem(setup, [event('a', 0, [38]), event('b', 1, [45])]);
    const { mends } = mendsOf(asked, first(asked));
    expect(mends.map((one) => one.kind)).toEqual(expect.arrayContaining(['octave', 'leave', 'tuning', 'instrument']));
  });

  it('of a bend too far for any string: playing it unbent', () => {
    const asked = problem(setup, [{ ...event('a', 0, []), notes: [{ pitch: 64, lock: null, dur: null, bend: 900 }] }]);
    expect(kinds(asked)).toContain('unbend');
  });

  it('of strings kept free: allowing them', () => {
    const asked = problem(setup, [event('a', 0, [40], { wish: { avoid: [6] } })]);
    expect(first(asked).rule).toBe('wish');
    expect(kinds(asked)).toContain('allow');
  });

  it('leave the rest of the phrase placed', () => {
    const asked = problem(setup, [event('a', 0, [57]), event('x', 1, [40, 41]), event('b', 2, [60])]);
    const placed = bestWay(solve(asked)).events.map((event) => event.notes.filter(Boolean).length);
    expect(placed).toEqual([1, 1, 1]);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quarter } from '../time';
import { bestWay, bestWays, ended, priced, solve, solving, type PlaceEvent, type Problem } from './index';
import { dice, event, problem, randomPhrase, setupFor, TEST_HANDS, TEST_SETUPS } from './test-support/phrases';

const SETUPS = TEST_SETUPS();

/** A phrase with one event changed, taken out or put in. */
function edited(asked: Problem, seed: number): Problem {
  const pick = dice(seed);
  const events = [...asked.events];
  const at = pick(events.length);
  const [fresh] = randomPhrase(asked.setup, 1, pick);
  const old = events[at];
  if (!fresh || !old) return asked;
  switch (pick(3)) {
    case 0:
      events[at] = { ...fresh, id: old.id, at: old.at, link: null };
      break;
    case 1:
      events.splice(at, 1);
      break;
    default:
      events.splice(at, 0, { ...fresh, id: 'new', at: quarter(at * 2 - 1, 8), link: null });
  }
  return { ...asked, events: events.filter((event, i) => i === 0 || event.at !== events[i - 1]?.at) };
}

const long = fc.tuple(
  fc.constantFrom(...SETUPS),
  fc.integer({ min: 20, max: 60 }),
  fc.integer({ min: 1, max: 2 ** 31 - 1 }),
  fc.constantFrom(...TEST_HANDS),
);

describe('placing again after an edit', () => {
  it('gives exactly what placing anew gives, however often it is edited', () => {
    fc.assert(
      fc.property(long, ([setup, length, seed, profile]) => {
        const pick = dice(seed);
        let asked: Problem = problem(setup, randomPhrase(setup, length, pick), {});
        asked = { ...asked, options: { ...asked.options, profile } };
        let solution = solve(asked);
        for (let i = 0; i < 5; i++) {
          asked = edited(asked, pick(1_000_000) + 1);
          solution = solve(asked, solution);
          const anew = solve(asked);
          expect(bestWay(solution).cost).toBeCloseTo(bestWay(anew).cost, 7);
          expect(solution.blocked).toEqual(anew.blocked);
          expect(bestWay(solution).events.map((event) => event.id)).toEqual(asked.events.map((event) => event.id));
        }
        // What is built on a reused solution is the same too.
        expect(bestWays(solution, 4).map((way) => way.cost.toFixed(6))).toEqual(
          bestWays(solve(asked), 4).map((way) => way.cost.toFixed(6)),
        );
      }),
      { numRuns: 60 },
    );
  }, 120_000);

  it('takes over what did not change: layers before the edit and after it are the same objects', () => {
    const setup = setupFor('guitar-6');
    const pick = dice(5);
    const asked = problem(
      setup,
      Array.from({ length: 400 }, (_, i) => event(`e${i}`, i, [45 + pick(24)])),
    );
    const first = solve(asked);
    const changed: PlaceEvent[] = asked.events.map((event, i) =>
      i === 200 ? { ...event, notes: [{ pitch: 57, lock: null, dur: null }] } : event,
    );
    const again = solve({ ...asked, events: changed }, first);
    const made = again.layers.filter((layer, i) => layer.best !== first.layers[i]?.best).length;
    expect(made).toBeGreaterThan(0);
    expect(made).toBeLessThan(20);
    // The next edit close by looks no farther either.
    const next = solve(
      {
        ...asked,
        events: changed.map((event, i) =>
          i === 204 ? { ...event, notes: [{ pitch: 60, lock: null, dur: null }] } : event,
        ),
      },
      again,
    );
    expect(next.layers.filter((layer, i) => layer.best !== again.layers[i]?.best).length).toBeLessThan(20);
    expect(bestWay(again).cost).toBeCloseTo(bestWay(solve({ ...asked, events: changed })).cost, 7);
  });

  it('starts anew for another hand or other weights', () => {
    const asked = problem(setupFor('guitar-6'), [event('a', 0, [60]), event('b', 1, [64])]);
    const other = { ...asked, options: { ...asked.options, openLiking: 1 } };
    expect(bestWay(solve(other, solve(asked)))).toEqual(bestWay(solve(other)));
  });

  it('can be run in steps, and left at any of them', () => {
    const asked = problem(
      setupFor('guitar-6'),
      Array.from({ length: 200 }, (_, i) => event(`e${i}`, i, [45 + (i % 20)])),
    );
    const steps = solving(asked);
    let turns = 0;
    while (!steps.next().done) turns++;
    expect(turns).toBeGreaterThan(4);
    expect(bestWay(ended(solving(asked)))).toEqual(bestWay(solve(asked)));
  });
});

describe('prices', () => {
  it('say where they fall: here, before and after add up to the whole', async () => {
    const { alternativesFor } = await import('./index');
    const asked = problem(
      setupFor('guitar-6'),
      [57, 60, 62, 64, 67, 64, 62, 60].map((p, i) => event(`e${i}`, i, [p])),
    );
    const known = priced(asked);
    for (let e = 0; e < 8; e++) {
      for (const a of alternativesFor(asked, e, 0, known)) {
        if (a.extra !== null) expect(a.now + a.before + a.later).toBeCloseTo(a.extra, 7);
      }
    }
  });
});

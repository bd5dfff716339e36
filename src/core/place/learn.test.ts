import { describe, expect, it } from 'vitest';
import { DEFAULT_COSTS, type CostTable } from '../hand';
import {
  bestWay,
  crossChecked,
  ended,
  fitting,
  scoreOf,
  solve,
  WEIGHTS,
  weightOf,
  withWeight,
  type Sample,
} from './index';
import { dice, event, problem, setupFor } from './test-support/phrases';

const setup = setupFor('guitar-6');

/** Phrases as somebody places them who plays by other weights. */
function playedBy(costs: CostTable, count: number, seed: number): Sample[] {
  const pick = dice(seed);
  return Array.from({ length: count }, () => {
    let pitch = 48 + pick(12);
    const asked = problem(
      setup,
      Array.from({ length: 7 }, (_, i) =>
        event(`e${i}`, i, [(pitch = Math.max(41, Math.min(72, pitch + pick(9) - 4)))]),
      ),
    );
    const way = bestWay(solve({ ...asked, options: { ...asked.options, costs } }));
    return {
      problem: asked,
      chosen: way.events.flatMap((event, i) =>
        event.notes.flatMap((place, index) =>
          place ? [{ event: i, note: index, string: place.string, fret: place.fret }] : [],
        ),
      ),
    };
  });
}

describe('weights', () => {
  it('are all there to be read and moved', () => {
    expect(WEIGHTS(DEFAULT_COSTS)).toHaveLength(Object.keys(DEFAULT_COSTS).length + 6);
    for (const weight of WEIGHTS(DEFAULT_COSTS)) {
      const moved = withWeight(DEFAULT_COSTS, weight, 7);
      expect(weightOf(moved, weight)).toBe(7);
      expect(
        WEIGHTS(moved).filter((weight) => weightOf(moved, weight) !== weightOf(DEFAULT_COSTS, weight)),
      ).toHaveLength(1);
    }
  });
});

describe('a fit to a player’s choices', () => {
  // Somebody who loves open strings and low positions.
  const theirs: CostTable = { ...DEFAULT_COSTS, open: 0, openThin: 0, openFar: 0, low: 0, high: 0.5 };
  const samples = playedBy(theirs, 24, 3);
  const fit = ended(fitting(samples, DEFAULT_COSTS, 2));

  it('makes more of their choices, and says how many before and after', () => {
    expect(fit.before).toEqual(scoreOf(samples, DEFAULT_COSTS));
    expect(fit.after).toEqual(scoreOf(samples, fit.costs));
    expect(fit.after.same).toBeGreaterThan(fit.before.same);
  });

  it('carries over to phrases it has not seen', () => {
    const others = playedBy(theirs, 24, 1234);
    expect(scoreOf(others, fit.costs).same).toBeGreaterThan(scoreOf(others, DEFAULT_COSTS).same);
  });

  it('is the same every time, never negative, and leaves alone what it has no reason to move', () => {
    expect(ended(fitting(samples, DEFAULT_COSTS, 2)).costs).toEqual(fit.costs);
    for (const weight of WEIGHTS(fit.costs)) expect(weightOf(fit.costs, weight)).toBeGreaterThanOrEqual(0);
    expect(fit.costs.barre).toEqual(DEFAULT_COSTS.barre);
    expect(fit.costs.bend).toBe(DEFAULT_COSTS.bend);
  });

  it('changes nothing where the program already chooses as they do', () => {
    expect(ended(fitting(playedBy(DEFAULT_COSTS, 8, 9), DEFAULT_COSTS, 1)).costs).toEqual(DEFAULT_COSTS);
  });

  it('is checked on every phrase once while it is left out', () => {
    const checked = ended(crossChecked(samples.slice(0, 9), DEFAULT_COSTS, 3));
    expect(checked.before.notes).toBe(9 * 7);
    expect(checked.after.notes).toBe(9 * 7);
  });
});

import type { CostTable } from '../hand';
import { bestWay, solve } from './solve';
import type { Problem, Way } from './types';

/** A phrase with the places its player chose: what a fit of the weights learns from. */
export interface Sample {
  /** Locks only where they bind the phrase from outside; the chosen notes are free. */
  readonly problem: Problem;
  readonly chosen: readonly ChosenNote[];
}

export interface ChosenNote {
  readonly event: number;
  readonly note: number;
  readonly string: number;
  readonly fret: number;
}

/** One number of a cost table: a weight, or one of a row of four. */
export interface WeightRef {
  readonly name: keyof CostTable;
  readonly index: number | null;
}

/** Every number of a cost table. */
export const WEIGHTS = (table: CostTable): WeightRef[] =>
  (Object.keys(table) as (keyof CostTable)[]).flatMap((name): WeightRef[] =>
    typeof table[name] === 'number' || table[name] === undefined
      ? [{ name, index: null }]
      : [0, 1, 2, 3].map((index) => ({ name, index })),
  );

export function weightOf(table: CostTable, { name, index }: WeightRef): number {
  const value = table[name];
  return typeof value === 'number' ? value : (value?.[index ?? 0] ?? 0);
}

export function withWeight(table: CostTable, { name, index }: WeightRef, to: number): CostTable {
  const value = table[name];
  return {
    ...table,
    [name]: typeof value === 'number' || value === undefined ? to : value.map((x, i) => (i === index ? to : x)),
  };
}

export interface Score {
  /** Chosen notes the program would have placed the same, of how many. */
  readonly same: number;
  readonly notes: number;
}

const locked = ({ problem, chosen }: Sample): Problem => ({
  ...problem,
  events: problem.events.map((event, i) => ({
    ...event,
    notes: event.notes.map((note, index) => {
      const place = chosen.find((place) => place.event === i && place.note === index);
      return place ? { ...note, lock: { string: place.string, fret: place.fret, finger: null } } : note;
    }),
  })),
});

const withCosts = (problem: Problem, costs: CostTable): Problem => ({
  ...problem,
  options: { ...problem.options, costs },
});

const matches = (way: Way, chosen: readonly ChosenNote[]): number =>
  chosen.filter((place) => {
    const one = way.events[place.event]?.notes[place.note];
    return one?.string === place.string && one.fret === place.fret;
  }).length;

/** How many chosen notes a table places as the player did. */
export function scoreOf(samples: readonly Sample[], costs: CostTable): Score {
  let same = 0;
  let notes = 0;
  for (const one of samples) {
    same += matches(bestWay(solve(withCosts(one.problem, costs))), one.chosen);
    notes += one.chosen.length;
  }
  return { same, notes };
}

/**
 * Weights that strings and frets say little about: a fit to places would bend them to odd ends, so it leaves them
 * alone.
 */
const LEFT_ALONE: readonly (keyof CostTable)[] = ['stretch', 'finger', 'swap', 'flat'];

/** Steps tried for each weight, as factors; a weight of 0 is tried at `FROM_ZERO`. */
const FACTORS = [0.5, 0.75, 1.35, 2] as const;
const FROM_ZERO = 0.1;
/** What moving a weight by a factor of e costs, in notes per hundred: unproved moves are not made. */
const RELUCTANCE = 0.05;
/** The most a weight may move from where it began, as a factor. */
const FARTHEST = 6;
/**
 * What a player's way may cost above the program's counts a little even where no note changes yet: it shows the way.
 */
const REGRET = 0.25;

/**
 * What a table gets wrong, per hundred chosen notes: notes placed differently, a share for how much
 * dearer the player's way is held to be, and a little for every weight moved away from `from`.
 */
function* lossOf(
  samples: readonly { readonly free: Problem; readonly bound: Problem; readonly chosen: readonly ChosenNote[] }[],
  costs: CostTable,
  from: CostTable,
): Generator<null, number> {
  let wrong = 0;
  let notes = 0;
  for (const { free, bound, chosen } of samples) {
    yield null;
    const best = bestWay(solve(withCosts(free, costs)));
    const missed = chosen.length - matches(best, chosen);
    const regret = missed === 0 ? 0 : Math.max(0, bestWay(solve(withCosts(bound, costs))).cost - best.cost);
    wrong += missed + REGRET * chosen.length * Math.tanh(regret / chosen.length);
    notes += chosen.length;
  }
  const moved = WEIGHTS(costs).reduce((sum, weight) => {
    const a = weightOf(costs, weight);
    const b = weightOf(from, weight);
    return sum + (a === b ? 0 : Math.abs(Math.log((a + 0.01) / (b + 0.01))));
  }, 0);
  return (100 * wrong) / Math.max(1, notes) + RELUCTANCE * moved;
}

export interface Fit {
  readonly costs: CostTable;
  readonly before: Score;
  readonly after: Score;
  /** Rounds over all weights until nothing got better. */
  readonly rounds: number;
}

/**
 * Fits a cost table to a player's choices by coordinate search: each weight in turn is tried
 * smaller and larger, and the best is kept where it makes more of the player's own choices.
 * Simple enough to follow by hand: the same samples always give the same table. Yields often, and
 * after each weight the share done, so that a job can breathe, report and be stopped.
 */
export function* fitting(samples: readonly Sample[], start: CostTable, rounds = 3): Generator<number | null, Fit> {
  const prepared = samples.map((one) => ({ free: one.problem, bound: locked(one), chosen: one.chosen }));
  const weights = WEIGHTS(start).filter((weight) => !LEFT_ALONE.includes(weight.name));
  const before = scoreOf(samples, start);
  let costs = start;
  let least = yield* lossOf(prepared, costs, start);
  let round = 0;
  for (; round < rounds; round++) {
    const began = least;
    for (const [i, weight] of weights.entries()) {
      const now = weightOf(costs, weight);
      const first = weightOf(start, weight);
      const tried = now === 0 ? [FROM_ZERO] : [...FACTORS.map((f) => Math.round(now * f * 1e4) / 1e4), first];
      for (const value of tried) {
        if (value === now || (first > 0 && (value > first * FARTHEST || value < first / FARTHEST))) continue;
        const trial = withWeight(costs, weight, value);
        const loss = yield* lossOf(prepared, trial, start);
        if (loss < least - 1e-9) {
          least = loss;
          costs = trial;
        }
      }
      yield (round + (i + 1) / weights.length) / rounds;
    }
    if (began - least < 0.02) break;
  }
  return { costs, before, after: scoreOf(samples, costs), rounds: round };
}

/**
 * What a fit is worth on choices it has not seen: each fold of phrases is left out once, the table
 * fitted on the others and asked about it. The honest figure to show beside the fit's own.
 */
export function* crossChecked(
  samples: readonly Sample[],
  start: CostTable,
  folds = 4,
): Generator<number | null, { before: Score; after: Score }> {
  const sum = { before: { same: 0, notes: 0 }, after: { same: 0, notes: 0 } };
  const n = Math.min(folds, samples.length);
  for (let k = 0; k < n; k++) {
    const out = samples.filter((_, i) => i % n === k);
    const fit = fitting(
      samples.filter((_, i) => i % n !== k),
      start,
      1,
    );
    let step = fit.next();
    for (; !step.done; step = fit.next()) yield step.value === null ? null : (k + step.value) / n;
    for (const [key, costs] of [
      ['before', start],
      ['after', step.value.costs],
    ] as const) {
      const score = scoreOf(out, costs);
      sum[key] = { same: sum[key].same + score.same, notes: sum[key].notes + score.notes };
    }
  }
  return sum;
}

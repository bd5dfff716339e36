import { setupWords, type Setup } from '../instrument';
import { asciiPitch } from '../pitch';
import { DEFAULT_OPTIONS, type PlaceOptions } from '../place';
import { barOf, cmp, toNumber } from '../time';
import { finding, type FinderProgress } from './find';
import type { FinderQuestion, Ranked } from './types';

/** Two set-ups that sound together, and how believable the pair is. */
export interface Pair {
  readonly first: Ranked;
  readonly second: Ranked;
  /** The set-ups of the two that go best together, among those the sound can't tell apart. */
  readonly setups: readonly [Setup, Setup];
  readonly share: number;
  readonly words: string;
}

/** A moment of the combined sound: which strings of whom ring. */
export interface Combined {
  readonly bar: number;
  /** Its onset in quarter notes. */
  readonly at: number;
  readonly strings: readonly (readonly { readonly string: number; readonly pitch: number; readonly open: boolean }[])[];
}

export interface PairAnswer {
  readonly pairs: readonly Pair[];
  /** The combined sound of the best pair at its fullest moments, in order of time. */
  readonly combined: readonly Combined[];
  readonly words: string;
}

/** What two players have in common, as logarithms: the same tuning is most usual, then the same detuning. */
const SAME = 1.2;
const SAME_LOW = 0.6;
const LOOKED = 8;
const MOMENTS = 8;

/**
 * The pair of set-ups of two parts that sound together: each by itself, then joined, since players of one band mostly
 * tune alike and one who doesn't has a reason the notes show.
 */
export function* findingPair(
  first: FinderQuestion,
  second: FinderQuestion,
  options: PlaceOptions = DEFAULT_OPTIONS,
): Generator<FinderProgress, PairAnswer> {
  const answers: Ranked[][] = [];
  for (const [i, question] of [first, second].entries()) {
    const steps = finding(question, options);
    for (;;) {
      const step = steps.next();
      if (step.done) {
        answers.push([...step.value.ranking].slice(0, LOOKED));
        break;
      }
      yield { done: step.value.done + i * step.value.of, of: 2 * step.value.of };
    }
  }
  const [a = [], b = []] = answers;
  const joined = a.flatMap((one) =>
    b.map((other) => {
      const { bonus, setups } = bestJoin(one, other);
      return { one, other, setups, weight: one.share * other.share * Math.exp(bonus) };
    }),
  );
  const total = joined.reduce((sum, { weight }) => sum + weight, 0) || 1;
  const pairs = joined
    .sort((x, y) => y.weight - x.weight)
    .slice(0, 6)
    .map(({ one, other, setups, weight }): Pair => ({
      ...{ first: one, second: other, setups, share: weight / total },
      words: `${setupWords(setups[0])} with ${setupWords(setups[1])}`,
    }));
  const best = pairs[0];
  return {
    pairs,
    combined: best ? combinedOf(best, first, second) : [],
    words: best
      ? `${best.words}: ${Math.round(best.share * 100)} % of what speaks for any pair.`
      : 'Both parts need notes before a pair can be found.',
  };
}

/** Among the set-ups the sound leaves open, the two that go best together. */
function bestJoin(one: Ranked, other: Ranked): { bonus: number; setups: readonly [Setup, Setup] } {
  let best = { bonus: bonusOf(one.setup, other.setup), setups: [one.setup, other.setup] as readonly [Setup, Setup] };
  const few = (ranked: Ranked): readonly Setup[] => [ranked.setup, ...ranked.equivalent.slice(0, 12)];
  few(one).forEach((mine, i) =>
    few(other).forEach((theirs, k) => {
      // An equal that is less usual has to be worth it.
      const bonus = bonusOf(mine, theirs) - 0.25 * (i + k);
      if (bonus > best.bonus) best = { bonus, setups: [mine, theirs] };
    }),
  );
  return best;
}

function bonusOf(a: Setup, b: Setup): number {
  const capo = (a.capos[0]?.fret ?? 0) === (b.capos[0]?.fret ?? 0);
  if (a.open.length === b.open.length && a.open.join() === b.open.join() && capo) return SAME;
  const moved = (setup: Setup): string =>
    setup.open
      .slice(-4)
      .map((midi, i) => midi - (setup.instrument.strings.at(i - 4)?.pitch ?? midi))
      .join();
  return moved(a) === moved(b) ? SAME_LOW : 0;
}

/** What rings together in a pair, at the moments where most strings sound. */
function combinedOf(pair: Pair, first: FinderQuestion, second: FinderQuestion): Combined[] {
  const sides = [
    { ranked: pair.first, events: first.events },
    { ranked: pair.second, events: second.events },
  ];
  const times = [...new Set(sides.flatMap(({ events }) => events.map((event) => event.at)))].sort(cmp);
  const moments = times.map((at): Combined => ({
    bar: barOf(first.meters, at).bar,
    at: toNumber(at),
    strings: sides.map(({ ranked, events }) =>
      ranked.way.events
        .flatMap((placed) => {
          const event = events.find((one) => one.id === placed.id);
          if (!event || toNumber(event.at) > toNumber(at) + 1e-9) return [];
          const until = toNumber(event.at) + (event.ring ? Math.max(4, toNumber(event.dur)) : toNumber(event.dur));
          if (until <= toNumber(at) + 1e-9) return [];
          return placed.notes.flatMap((note) =>
            note ? [{ string: note.string, pitch: note.pitch, open: note.fret === 0 }] : [],
          );
        })
        .filter((one, i, all) => all.findLastIndex((other) => other.string === one.string) === i),
    ),
  }));
  const loud = (one: Combined): number => one.strings.reduce((n, side) => n + side.length, 0);
  const fullest = new Set([...moments].sort((x, y) => loud(y) - loud(x) || x.at - y.at).slice(0, MOMENTS));
  return moments.filter((one) => fullest.has(one));
}

/** A side of a combined moment in words: "string 4 (D3, open)". */
export const ringWords = (strings: Combined['strings'][number]): string =>
  strings.length === 0
    ? 'nothing'
    : [...strings]
        .sort((a, b) => b.string - a.string)
        .map(({ string, pitch, open }) => `string ${string} (${asciiPitch(pitch)}${open ? ', open' : ''})`)
        .join(', ');

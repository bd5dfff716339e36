import { fretsLeft, setupWords, type Setup } from '../instrument';
import { DEFAULT_OPTIONS, type PlaceOptions } from '../place';
import { observation } from './observation';
import { groupScore, placeIn, screen, shiftOf, shortlist, together, type Placed, type Weighing } from './placed';
import { reasonsOf } from './reasons';
import type { FinderAnswer, FinderQuestion, Ranked } from './types';

const RANKED = 10;
/** From this share on the first answer is said as the answer. Measured, see docs/decisions/016. */
export const CERTAIN = 0.7;

/** How a finder's work is going. */
export interface FinderProgress {
  readonly done: number;
  readonly of: number;
}

/**
 * Which set-up was it? Every set of open strings is looked at for what it explains; the likeliest are placed in full
 * by the solver; those that play the very same strings and frets are one answer. Yields how far it is.
 *
 * @returns the ranking with reasons; `certain` false means that it can't be told. The same question gives the same
 *   answer, however it is run.
 */
export function* finding(
  question: FinderQuestion,
  options: PlaceOptions = DEFAULT_OPTIONS,
): Generator<FinderProgress, FinderAnswer> {
  const weighing = screen(question);
  if (weighing.events.every((event) => event.notes.length === 0))
    return { ranking: [], certain: false, ask: null, words: 'There are no notes to go by yet.', looked: 0 };
  const short = shortlist(weighing);
  const placed: Placed[] = [];
  for (const one of short) {
    yield { done: placed.length, of: short.length };
    placed.push(placeIn(weighing, one, question, options));
  }
  const groups = together(placed);
  const scores = groups.map((group) => groupScore(group));
  const best = Math.max(...scores);
  const total = scores.reduce((sum, score) => sum + Math.exp(score - best), 0);
  const ranked = groups
    .map((group, i) => ({ group, share: Math.exp((scores[i] ?? 0) - best) / total }))
    .sort((a, b) => b.share - a.share);
  const ranking = ranked.slice(0, RANKED).map(({ group, share }, i): Ranked => {
    const other = ranked[i === 0 ? 1 : 0]?.group[0] ?? null;
    const first = group[0] as Placed;
    const setups = setupsOf(group, placed, weighing);
    // The one whose frets the way is told in: the commonest of its own candidate.
    const setup =
      setups.find((one) => first.candidate.members.some((member) => member.setup === one)) ??
      (first.candidate.members[0]?.setup as Setup);
    return {
      setup,
      share,
      equivalent: setups.filter((one) => one !== setup),
      reasons: reasonsOf(question, weighing.asked, first, other),
      way: first.way,
      against: [...first.against].sort((a, b) => a - b),
    };
  });
  const [first, second] = ranking;
  const certain = (first?.share ?? 0) >= CERTAIN;
  const ask = first && second ? observation(question, weighing.events, first, second) : null;
  return {
    ranking,
    certain,
    ask,
    words: `${marginWords(first, second, certain)}${weighing.events.length < question.events.length ? ' The hand was tried on the bars that tell most.' : ''}`,
    looked: weighing.screened.length,
  };
}

/** The same at once. */
export function findSetup(question: FinderQuestion, options: PlaceOptions = DEFAULT_OPTIONS): FinderAnswer {
  const steps = finding(question, options);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** At most so many set-ups that sound the same are named with an answer. */
const MOST_EQUIVALENT = 80;

/**
 * Every tuning and capo that plays a group's way, or its shape elsewhere on the neck, commonest first. Those that were
 * placed and came out another way are answers of their own.
 */
function setupsOf(group: readonly Placed[], placed: readonly Placed[], { screened, events }: Weighing): Setup[] {
  const first = group[0];
  if (!first) return [];
  const highest = Math.max(
    0,
    ...first.way.events.flatMap((event, i) =>
      event.notes.map((note, k) => (note?.fret ?? 0) + (events[i]?.notes[k]?.above ?? 0)),
    ),
  );
  const others = new Set(placed.filter((one) => !group.includes(one)).map((one) => one.candidate));
  const members = screened.flatMap(({ candidate }) => {
    const by = others.has(candidate) ? null : shiftOf(first.way, first.candidate, candidate);
    return by === null ? [] : candidate.members.filter(({ setup }) => fretsLeft(setup) >= highest + by);
  });
  const all = members.length > 0 ? members : first.candidate.members;
  return [...all]
    .sort((a, b) => b.common - a.common)
    .slice(0, MOST_EQUIVALENT)
    .map(({ setup }) => setup);
}

function marginWords(first: Ranked | undefined, second: Ranked | undefined, certain: boolean): string {
  if (!first) return 'There are no notes to go by yet.';
  const percent = Math.round(first.share * 100);
  const name = setupWords(first.setup);
  if (!second) return `Only ${name} was looked at.`;
  if (certain)
    return `${name}: ${percent} % of what speaks for any; next is ${setupWords(second.setup)} with ${Math.round(second.share * 100)} %.`;
  return `Can’t tell. ${name} is likeliest (${percent} %), before ${setupWords(second.setup)} (${Math.round(second.share * 100)} %).`;
}

import { bestWay, positionsOf, solve, viewOf, type Problem } from '@/core/place';
import { asked, withAsked, withPlace, type Asked } from './placement/asked';
import { PHRASES } from './placement/phrases';
import { MORE } from './placement/more';

/**
 * How many notes the program places as a competent player would: from the set-up alone, with the
 * first note's place given, and with the place of the note the program asks for; against two
 * simple rules: the lowest fret, and the place nearest to the note before. What differs is listed.
 * How the weights were come by, and what they are worth on phrases left out: placement/fit.ts.
 */

const solved = (problem: Problem): string[] =>
  bestWay(solve(problem)).events.flatMap((event) =>
    event.notes.map((place) => (place ? `${place.string}.${place.fret}` : '-')),
  );

/** A rule without a hand: for each note the place that costs least by `price`, one note a string. */
function byRule(
  { setup, problem }: Asked,
  price: (place: { string: number; fret: number }, last: { string: number; fret: number } | null) => number,
): string[] {
  let last: { string: number; fret: number } | null = null;
  return problem.events.flatMap((event) => {
    const taken = new Set<number>();
    return event.notes.map((note) => {
      const places = positionsOf(setup, note.pitch)
        .filter((place) => !taken.has(place.string))
        .sort((a, b) => price(a, last) - price(b, last));
      const best = places[0];
      if (!best) return '-';
      taken.add(best.string);
      last = best;
      return `${best.string}.${best.fret}`;
    });
  });
}

const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;

function report(title: string, all: readonly Asked[]): void {
  const notes = all.reduce((sum, a) => sum + a.wanted.length, 0);
  const share = (answers: readonly (readonly string[])[]): string =>
    percent(
      answers.reduce(
        (sum, answer, i) => sum + answer.filter((place, index) => place === all[i]?.wanted[index]).length,
        0,
      ) / notes,
    );
  const whole = (answers: readonly (readonly string[])[]): number =>
    answers.filter((a, i) => a.join(' ') === all[i]?.wanted.join(' ')).length;
  const alone = all.map((a) => solved(a.problem));
  const anchored = all.map((a) => solved(withPlace(a, 0, 0)));
  const answered = all.map((a) => solved(withAsked(a)));
  const lowest = all.map((a) => byRule(a, (place) => place.fret));
  const nearest = all.map((a) =>
    byRule(a, (place, last) =>
      last ? Math.abs(place.fret - last.fret) + Math.abs(place.string - last.string) * 0.5 : place.fret,
    ),
  );
  console.log(
    `${title}: ${all.length} phrases, ${notes} notes placed as a player would: set-up alone ${share(alone)}, first note given ${share(anchored)}, the note it asks for given ${share(answered)}; lowest fret ${share(lowest)}, nearest to the last note ${share(nearest)}`,
  );
  console.log(
    `  whole phrases exactly: ${whole(alone)} alone, ${whole(anchored)} with the first note, ${whole(answered)} with the one asked for, of ${all.length}`,
  );
  // How sure it says it is against how often its first region is right (nine notes of ten as the player).
  const views = all.map((a) => viewOf(a.problem, { from: 0, to: a.problem.events.length - 1 }));
  const right = (i: number): boolean =>
    (alone[i] ?? []).filter((path, index) => path === all[i]?.wanted[index]).length >=
    0.9 * (all[i]?.wanted.length ?? 0);
  for (const [low, high] of [
    [0, 0.5],
    [0.5, 0.7],
    [0.7, 0.9],
    [0.9, 1.01],
  ] as const) {
    const some = views.flatMap((one, i) => (one.sure >= low && one.sure < high ? [i] : []));
    if (some.length > 0)
      console.log(
        `  said to be ${percent(low)} to ${percent(Math.min(1, high))} sure: ${some.length} phrases, right in ${percent(some.filter(right).length / some.length)}`,
      );
  }
  for (const [i, a] of all.entries()) {
    if ([alone, anchored, answered].every((list) => list[i]?.join(' ') === a.wanted.join(' '))) continue;
    console.log(
      `    ${a.phrase.name}\n      player   ${a.wanted.join(' ')}\n      alone    ${alone[i]?.join(' ')}\n      anchored ${anchored[i]?.join(' ')}\n      answered ${answered[i]?.join(' ')}`,
    );
  }
}

report('first list', PHRASES.map(asked));
report('second list', MORE.map(asked));

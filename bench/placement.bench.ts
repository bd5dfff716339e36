import { makeSetup, type Setup } from '@/core/instrument';
import { must } from '@/core/base';
import { bestWay, DEFAULT_OPTIONS, positionsOf, solve, type PlaceEvent, type Problem } from '@/core/place';
import { FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import { PHRASES, type Phrase } from './placement/phrases';

/**
 * How many notes the program places as a competent player would, from the set-up alone and with
 * the first note's place given, against two simple rules: the lowest fret, and the place nearest
 * to the note before. What differs is listed.
 */

interface Asked {
  readonly phrase: Phrase;
  readonly setup: Setup;
  readonly problem: Problem;
  /** "string.fret" of every note, in order. */
  readonly wanted: readonly string[];
}

function asked(phrase: Phrase): Asked {
  const { setup } = must(makeSetup({ instrument: phrase.instrument, tuning: phrase.tuning, capo: phrase.capo ?? 0 }));
  const meters = [{ bar: 0, beats: 4, unit: 4 }];
  const called = readCalls(phrase.calls, { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  if (called.faults[0]) throw new Error(`${phrase.name}: ${called.faults[0].message} at "${phrase.calls.slice(called.faults[0].from, called.faults[0].to)}"`);
  const events = called.events.map((e, i): PlaceEvent => ({ id: `e${i}`, at: e.at, dur: e.dur, link: e.link, ring: e.ring, notes: e.notes.map((n) => ({ pitch: n.pitch, lock: null, dur: n.dur })) }));
  const wanted = called.events.flatMap((e) => e.notes.map((n) => `${n.place?.string}.${n.place?.fret}`));
  return { phrase, setup, wanted, problem: { setup, events, tempo: [{ at: ZERO, bpm: phrase.tempo }], meters, options: DEFAULT_OPTIONS } };
}

/** The readCalls of one note's place, as a lock on the first note. */
function withFirst({ problem, wanted }: Asked): Problem {
  const [string, fret] = (wanted[0] ?? '1.0').split('.').map(Number);
  const events = problem.events.map((e, i) => (i === 0 ? { ...e, notes: e.notes.map((n, j) => (j === 0 ? { ...n, lock: { string: string ?? 1, fret: fret ?? 0, finger: null } } : n)) } : e));
  return { ...problem, events };
}

const solved = (problem: Problem): string[] => bestWay(solve(problem)).events.flatMap((e) => e.notes.map((n) => (n ? `${n.string}.${n.fret}` : '-')));

/** A rule without a hand: for each note the place that costs least by `price`, one note a string. */
function byRule({ setup, problem }: Asked, price: (place: { string: number; fret: number }, last: { string: number; fret: number } | null) => number): string[] {
  let last: { string: number; fret: number } | null = null;
  return problem.events.flatMap((e) => {
    const taken = new Set<number>();
    return e.notes.map((n) => {
      const places = positionsOf(setup, n.pitch).filter((p) => !taken.has(p.string)).sort((a, b) => price(a, last) - price(b, last));
      const best = places[0];
      if (!best) return '-';
      taken.add(best.string);
      last = best;
      return `${best.string}.${best.fret}`;
    });
  });
}

const all = PHRASES.map(asked);
const notes = all.reduce((sum, a) => sum + a.wanted.length, 0);
const share = (answers: readonly (readonly string[])[]): number => {
  let same = 0;
  answers.forEach((answer, i) => answer.forEach((place, j) => { if (place === all[i]?.wanted[j]) same++; }));
  return same / notes;
};
const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;

const alone = all.map((a) => solved(a.problem));
const anchored = all.map((a) => solved(withFirst(a)));
const lowest = all.map((a) => byRule(a, (p) => p.fret));
const nearest = all.map((a) => byRule(a, (p, last) => (last ? Math.abs(p.fret - last.fret) + Math.abs(p.string - last.string) * 0.5 : p.fret)));
console.log(`${all.length} phrases, ${notes} notes placed as a player would: set-up alone ${percent(share(alone))}, first note given ${percent(share(anchored))}; lowest fret ${percent(share(lowest))}, nearest to the last note ${percent(share(nearest))}`);
const whole = (answers: readonly (readonly string[])[]): number => answers.filter((a, i) => a.join(' ') === all[i]?.wanted.join(' ')).length;
console.log(`whole phrases exactly: ${whole(alone)} alone, ${whole(anchored)} with the first note, of ${all.length}`);
for (const [i, a] of all.entries()) {
  if (alone[i]?.join(' ') === a.wanted.join(' ') && anchored[i]?.join(' ') === a.wanted.join(' ')) continue;
  console.log(`  ${a.phrase.name}\n    player   ${a.wanted.join(' ')}\n    alone    ${alone[i]?.join(' ')}\n    anchored ${anchored[i]?.join(' ')}`);
}


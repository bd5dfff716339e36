import { must } from '../src/core/base';
import { makeSetup, setupWords, type Setup } from '../src/core/instrument';
import { candidatesFor, findSetup, type Clue, type FinderAnswer } from '../src/core/setup-finder';
import type { PlaceEvent } from '../src/core/place';
import { add, quarter } from '../src/core/time';
import { material, TUNED, UNSEEN, type Case } from './finder/material';
import { randomOf } from './lib/random';
import { deskOf, phraseOf } from './placement/idiom';

/**
 * Which set-up was it: on phrases written as a hand moves in known set-ups, first on the idioms nothing was learnt on.
 * Right is the true set-up, or an answer that names it among those the sound can't tell apart. The baseline says the
 * commonest set-up on which every note exists.
 */

const same = (a: Case['setup'], b: Case['setup']): boolean =>
  a.open.join() === b.open.join() &&
  (a.capos[0]?.fret ?? 0) === (b.capos[0]?.fret ?? 0) &&
  a.absent.join() === b.absent.join();

const rankOf = (answer: FinderAnswer, { setup }: Case): number =>
  answer.ranking.findIndex((one) => [one.setup, ...one.equivalent].some((it) => same(it, setup)));

function baseline({ question, setup }: Case): boolean {
  const lowest = Math.min(...question.events.flatMap((event) => event.notes.map((note) => note.pitch)));
  const members = candidatesFor(question.limits)
    .flatMap((candidate) => candidate.members)
    .sort((a, b) => b.common - a.common);
  const first = members.find(({ setup }) => Math.min(...setup.open) + (setup.capos[0]?.fret ?? 0) <= lowest);
  return first !== undefined && same(first.setup, setup);
}

/** The program asks what would decide, the instructor answers as it was played: so many times. */
function answered(one: Case, rounds: number): FinderAnswer {
  let { question } = one;
  let answer = findSetup(question);
  for (let k = 0; k < rounds && answer.ask && !answer.certain; k++) {
    const { event, note, first } = answer.ask;
    const { string, fret } = one.wanted[one.events.findIndex(({ id }) => id === event)]?.[note] ?? {
      string: 1,
      fret: 1,
    };
    const said: Clue =
      first.clue.kind === 'string'
        ? { kind: 'string', event, note, string, fret }
        : { kind: fret === 0 ? 'open' : 'stopped', event, note };
    if (question.clues.some((clue) => JSON.stringify(clue) === JSON.stringify(said))) break;
    question = { ...question, clues: [...question.clues, said] };
    answer = findSetup(question);
  }
  return answer;
}

function report(name: string, cases: readonly Case[], verbose: boolean, rounds = 0): void {
  const answers = cases.map((one) => answered(one, rounds));
  const ranks = answers.map((answer, i) => rankOf(answer, cases[i] as Case));
  const share = (n: number, of = cases.length): string => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
  const first = ranks.filter((rank) => rank === 0).length;
  const three = ranks.filter((rank) => rank >= 0 && rank < 3).length;
  console.log(`${name}: ${cases.length} phrases, first ${share(first)}, in the first three ${share(three)}`);
  const certain = answers.map((answer) => answer.certain);
  const right = (want: boolean): string => {
    const among = ranks.filter((_, i) => certain[i] === want);
    return `${among.length}, right ${share(among.filter((rank) => rank === 0).length, among.length)}`;
  };
  const believed = answers.reduce((sum, answer) => sum + (answer.ranking[0]?.share ?? 0), 0);
  console.log(`  said for certain ${right(true)}; "can't tell" ${right(false)}; mean share said ${share(believed)}`);
  for (const [from, to] of [
    [0, 0.2],
    [0.2, 0.4],
    [0.4, 0.6],
    [0.6, 0.8],
    [0.8, 1.01],
  ] as const) {
    const among = answers.flatMap((answer, i) => {
      const p = answer.ranking[0]?.share ?? 0;
      return p >= from && p < to ? [{ p, right: ranks[i] === 0 }] : [];
    });
    if (among.length > 0)
      console.log(
        `    said ${share(
          among.reduce((sum, { p }) => sum + p, 0),
          among.length,
        )}: right ${share(among.filter(({ right }) => right).length, among.length)} of ${among.length}`,
      );
  }
  if (!verbose) return;
  console.log(`  baseline, the commonest low enough: ${share(cases.filter(baseline).length)}`);
  const idioms = [...new Set(cases.map((one) => one.idiom))];
  for (const idiom of idioms) {
    const at = cases.flatMap((one, i) => (one.idiom === idiom ? [ranks[i] ?? -1] : []));
    console.log(
      `    ${idiom}: first ${share(at.filter((rank) => rank === 0).length, at.length)}, three ${share(at.filter((rank) => rank >= 0 && rank < 3).length, at.length)}`,
    );
  }
  const confused = new Map<string, number>();
  cases.forEach((one, i) => {
    if (ranks[i] === 0) return;
    const key = `${setupWords(one.setup)} taken for ${answers[i]?.ranking[0] ? setupWords(answers[i].ranking[0].setup) : 'nothing'}`;
    confused.set(key, (confused.get(key) ?? 0) + 1);
  });
  console.log('  confusions, commonest first:');
  for (const [key, n] of [...confused].sort((a, b) => b[1] - a[1]).slice(0, 15)) console.log(`    ${n} x ${key}`);
}

/** `--speed`: only the times; `--answered`: only what comes of answers. */
const only = (flag: string): boolean => process.argv.includes(flag);
const each = only('--speed') ? 0 : 13;
if (!only('--answered')) {
  report('idioms left out, as in practice, no clues', material(UNSEEN, each, 90_000, false, 'practice'), true);
  report('idioms left out, as in practice, with clues', material(UNSEEN, each, 90_000, true, 'practice'), true);
}
report(
  'idioms left out, as in practice, with clues and up to four questions answered',
  material(UNSEEN, each, 90_000, true, 'practice'),
  false,
  4,
);
if (!only('--answered')) {
  report('idioms left out, every family alike, no clues', material(UNSEEN, each, 91_000, false, 'even'), false);
  report('idioms left out, every family alike, with clues', material(UNSEEN, each, 91_000, true, 'even'), false);
  report(
    'tuned idioms, other seeds, as in practice, no clues',
    material(TUNED, each, 40_000, false, 'practice'),
    false,
  );
  report(
    'tuned idioms, other seeds, as in practice, with clues',
    material(TUNED, each, 40_000, true, 'practice'),
    false,
  );
}

/** 200 events of a part that hardly repeats itself: idioms one after the other, all in one set-up. */
function long(setup: Setup, chords: boolean): readonly PlaceEvent[] {
  const events: PlaceEvent[] = [];
  let at = quarter(0);
  for (let round = 0; round < 40 && events.length < 200; round++)
    for (const [i, idiom] of UNSEEN.entries()) {
      if (idiom.kinds === 'bass' || !idiom.families.includes('standard')) continue;
      for (const event of phraseOf(setup, idiom.write(deskOf(randomOf(round * 100 + i), setup))).events) {
        if (events.length >= 200 || (chords && event.notes.length < 3)) continue;
        events.push({ ...event, id: `l${events.length}`, at });
        at = add(at, event.dur);
      }
    }
  return events;
}
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
for (const chords of [false, true]) {
  const events = long(setup, chords);
  const question = {
    ...{ events, clues: [], meters: [{ bar: 0, beats: 4, unit: 4 }], tempo: [{ at: quarter(0), bpm: 100 }] },
    limits: { instruments: [setup.instrument] },
  };
  const times = [0, 1, 2].map(() => {
    const from = performance.now();
    findSetup(question);
    return performance.now() - from;
  });
  console.log(
    `${events.length} events${chords ? ' of three notes and more' : ''} over all candidates: ${times.map((ms) => Math.round(ms)).join(', ')} ms (goal 1,000)`,
  );
}

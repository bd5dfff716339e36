import { bestWay, solve } from '../src/core/place';
import { cheapestByTrying } from '../src/core/place/test-support/exhaustive';
import { event, problem, randomPhrase, setupFor, TEST_SETUPS } from '../src/core/place/test-support/phrases';

/**
 * Speed and growth of the placement solver, and how often it equals trying everything (`--nightly`: on 30,000
 * phrases).
 */

function numbers(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return Math.floor((state / 2147483648) * n);
  };
}

const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;

function time(run: () => void, rounds = 9): number {
  const taken: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const began = performance.now();
    run();
    taken.push(performance.now() - began);
  }
  return median(taken);
}

const guitar = setupFor('guitar-6');
const pick = numbers(7);
const singles = (n: number) =>
  problem(
    guitar,
    Array.from({ length: n }, (_, i) => event(`e${i}`, i, [45 + pick(30)])),
  );
const GRIPS = [
  [41, 48, 53, 57, 60, 65],
  [43, 47, 50, 55, 59, 67],
  [40, 47, 52, 56, 59, 64],
  [45, 52, 57, 61, 64, 69],
  [46, 53, 58, 62, 65, 70],
  [48, 55, 60, 64, 67, 72],
];
const chords = (n: number) =>
  problem(
    guitar,
    Array.from({ length: n }, (_, i) =>
      event(
        `e${i}`,
        i,
        (GRIPS[pick(6)] ?? []).map((p) => p + pick(1)),
      ),
    ),
  );
const dyads = (n: number) =>
  problem(
    guitar,
    Array.from({ length: n }, (_, i) => {
      const low = 45 + pick(20);
      return event(`e${i}`, i, [low, low + 3 + pick(5)]);
    }),
  );

for (const [what, make, goal] of [
  ['single notes', singles, 50],
  ['six-note chords', chords, 1000],
  ['double stops', dyads, null],
] as const) {
  const small = make(500);
  const one = make(1000);
  const four = make(4000);
  for (let i = 0; i < 5; i++) solve(one);
  const [t500, t1000, t4000] = [
    time(() => bestWay(solve(small))),
    time(() => bestWay(solve(one))),
    time(() => bestWay(solve(four)), 3),
  ];
  console.log(
    `1,000 ${what}: ${t1000.toFixed(1)} ms median${goal ? ` (goal < ${goal} ms)` : ''}; growth 500 -> 1,000 -> 4,000: x${(t1000 / t500).toFixed(2)}, x${(t4000 / t1000).toFixed(2)}`,
  );
}

// A part of 200 bars of sixteenths, riffs that recur with changes: a note is moved, all is placed again, then another
// within a few bars of it, as one works.
const CELLS = Array.from({ length: 12 }, () => Array.from({ length: 16 }, () => 43 + pick(24)));
const part = problem(
  guitar,
  Array.from({ length: 3200 }, (_, i) => event(`e${i}`, i, [(CELLS[Math.floor(i / 16) % 12] ?? [])[i % 16] ?? 50])),
);
let before = solve(part);
bestWay(before);
const edits: number[] = [];
let at = 1600;
for (let round = 0; round < 60; round++) {
  at = Math.max(0, Math.min(3199, at + pick(129) - 64));
  const events = before.problem.events.map((event, i) =>
    i === at ? { ...event, notes: [{ pitch: 43 + pick(24), lock: null, dur: null }] } : event,
  );
  const began = performance.now();
  before = solve({ ...part, events }, before);
  bestWay(before);
  if (round >= 10) edits.push(performance.now() - began);
}
const whole = time(() => bestWay(solve(part)), 5);
console.log(
  `200 bars of sixteenths after one edit: ${median(edits).toFixed(1)} ms median, worst ${Math.max(...edits).toFixed(1)} (goal < 16 ms median); placed anew ${whole.toFixed(0)} ms, x${(whole / median(edits)).toFixed(0)}`,
);
const held = (n: number): number => {
  const asked = singles(n);
  const heap = process.memoryUsage().heapUsed;
  const solution = solve(asked);
  const used = process.memoryUsage().heapUsed - heap;
  return solution.layers.length > 0 ? used / n : 0;
};
if (globalThis.gc) {
  globalThis.gc();
  const small = held(4000);
  globalThis.gc();
  console.log(
    `memory a note: ${(small / 1024).toFixed(1)} KB at 4,000 notes, ${(held(16_000) / 1024).toFixed(1)} KB at 16,000 (linear when equal)`,
  );
}

const rounds = process.argv.includes('--nightly') ? 30_000 : 1500;
let same = 0;
let blocked = 0;
const dice = numbers(99);
const setups = TEST_SETUPS();
for (let i = 0; i < rounds; i++) {
  const setup = setups[dice(setups.length)] ?? guitar;
  const one = problem(setup, randomPhrase(setup, 1 + dice(4), dice));
  const solution = solve(one);
  const least = cheapestByTrying(one);
  if (solution.blocked.length > 0) blocked += least === Infinity ? 1 : 0;
  else if (Math.abs(bestWay(solution).cost - least) < 1e-8) same++;
}
console.log(
  `against trying everything on ${rounds} random phrases: ${same} equal, ${blocked} rightly unplayable, ${rounds - same - blocked} different`,
);

import { exit } from 'node:process';
import { placeIn, screen, shortlist, together, type Placed } from '../../src/core/setup-finder/placed';
import { CLUE_WEIGHT, FULL_WEIGHTS, SCREEN_WEIGHTS } from '../../src/core/setup-finder/weigh';
import { material, TUNED, type Case } from './material';

/** Learns the weights of the set-up finder on the tuned idioms: the likelihood of the true set-up among all. */

interface Row {
  readonly x: readonly number[];
  readonly fixed: number;
  readonly truth: boolean;
}

function learn(names: readonly string[], start: readonly number[], sets: readonly (readonly Row[])[]): number[] {
  let w = [...start];
  const prior = [...start];
  const scale = names.map((_, j) => {
    const all = sets.flatMap((rows) => rows.map((row) => row.x[j] ?? 0));
    const mean = all.reduce((a, b) => a + b, 0) / all.length;
    return Math.sqrt(all.reduce((a, b) => a + (b - mean) ** 2, 0) / all.length) || 1;
  });
  for (let round = 0; round < 250; round++) {
    const gradient = names.map(() => 0);
    for (const rows of sets) {
      const scores = rows.map((row) => row.x.reduce((sum, x, j) => sum + x * (w[j] ?? 0), row.fixed));
      const best = Math.max(...scores);
      const weights = scores.map((score) => Math.exp(score - best));
      const all = weights.reduce((a, b) => a + b, 0);
      const right = weights.reduce((sum, weight, i) => sum + (rows[i]?.truth ? weight : 0), 0);
      if (right === 0) continue;
      rows.forEach((row, i) => {
        const pull = (row.truth ? (weights[i] ?? 0) / right : 0) - (weights[i] ?? 0) / all;
        row.x.forEach((x, j) => (gradient[j] = (gradient[j] ?? 0) + pull * x));
      });
    }
    const rate = 2 / (1 + round / 60);
    w = w.map((one, j) => {
      const s = scale[j] ?? 1;
      const step = (gradient[j] ?? 0) / sets.length / s - 0.02 * (one - (prior[j] ?? 0)) * s;
      // How common set-ups are is told, not learnt.
      if (names[j] === 'common') return 1;
      return one + (rate * step) / s;
    });
  }
  return w.map((one) => Math.round(one * 100) / 100);
}

const same = (a: Case['setup'], b: Case['setup']): boolean =>
  a.open.join() === b.open.join() && a.capos[0]?.fret === b.capos[0]?.fret && a.absent.length === b.absent.length;
const effective = ({ setup }: Case): string => setup.open.map((midi) => midi + (setup.capos[0]?.fret ?? 0)).join();

const cases = material(TUNED, 14, 500, false, 'practice');
const screenNames = Object.keys(SCREEN_WEIGHTS);
const screens = cases.map((one) => screen(one.question));
const screenSets = screens.map((weighing, i) =>
  weighing.screened.map(({ candidate, signs }): Row => ({
    x: screenNames.map((name) => signs[name as keyof typeof signs]),
    fixed: 0,
    truth: candidate.absent.length === 0 && candidate.open.join() === effective(cases[i] as Case),
  })),
);
console.log('screen');
const screenWeights = learn(screenNames, Object.values(SCREEN_WEIGHTS), screenSets);
screenNames.forEach((name, j) => console.log(`  ${name}: ${screenWeights[j]},`));

const fullNames = Object.keys(FULL_WEIGHTS);
let found = 0;
const fullSets = screens.flatMap((weighing, i): Row[][] => {
  const one = cases[i] as Case;
  const short = [...shortlist(weighing)];
  const truth = weighing.screened.find(
    ({ candidate }) => candidate.absent.length === 0 && candidate.open.join() === effective(one),
  );
  if (!truth) return [];
  if (short.includes(truth)) found++;
  else short.push(truth);
  const placed = short.map((candidate) => placeIn(weighing, candidate, one.question));
  const group = together(placed).find((list) =>
    list.some(({ candidate }) => candidate.members.some(({ setup }) => same(setup, one.setup))),
  );
  return [
    placed.map((it: Placed): Row => ({
      x: fullNames.map((name) => it.signs[name as keyof typeof it.signs]),
      fixed: -CLUE_WEIGHT * it.against.size,
      truth: group?.includes(it) ?? false,
    })),
  ];
});
console.log(`in the short list: ${found} of ${cases.length}`);
console.log('full');
const fullWeights = learn(fullNames, Object.values(FULL_WEIGHTS), fullSets);
fullNames.forEach((name, j) => console.log(`  ${name}: ${fullWeights[j]},`));
exit(0);

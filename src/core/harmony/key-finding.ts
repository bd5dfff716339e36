import type { Midi } from '../base';
import { parseName, pitchClass, spell, type Key } from '../pitch';

/** Which key notes are in, by how often and how long each pitch class sounds. */

export interface WeighedNote {
  readonly midi: Midi;
  /** How long it sounds, in quarters, or any measure of how much it is heard. */
  readonly weight: number;
}

export interface KeyReading {
  readonly key: Key;
  /** 0 to 1: shares of all keys together are 1. */
  readonly sure: number;
  /** Share of what sounds that is in its scale; the raised seventh of minor counts as in it. */
  readonly inside: number;
}

/**
 * How much each degree sounds in a key, tonic first. After D. Temperley, "Music and Probability" (2007), table 4.1;
 * in minor the flat seventh weighs as much as the raised one, as riffs use it.
 */
const PROFILES: Readonly<Record<Key['mode'], readonly number[]>> = {
  major: [0.75, 0.06, 0.49, 0.08, 0.67, 0.46, 0.1, 0.72, 0.1, 0.37, 0.1, 0.4],
  minor: [0.75, 0.08, 0.47, 0.62, 0.06, 0.46, 0.1, 0.75, 0.37, 0.08, 0.4, 0.2],
};
const INSIDE: Readonly<Record<Key['mode'], readonly number[]>> = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10, 11],
};
/** How sharply a better match is preferred: what is called 70% sure is right about so often on composed pieces. */
const SHARPNESS = 8;
/** What speaks besides: the first and the last note, and the lowest one, as shares of all that sounds. */
const HOME = { first: 0.06, last: 0.06, lowest: 0.05 } as const;

const mod12 = (n: number): number => ((n % 12) + 12) % 12;

/**
 * Keys of notes in order of time, the likeliest first; none where nothing sounds. Spelled with the fewest signs.
 */
export function keysOf(notes: readonly WeighedNote[]): KeyReading[] {
  const total = notes.reduce((sum, one) => sum + one.weight, 0);
  if (total <= 0) return [];
  const share = new Array<number>(12).fill(0);
  for (const { midi, weight } of notes) share[mod12(midi)] = (share[mod12(midi)] ?? 0) + weight / total;
  const heard = [...share];
  const extra = (midi: Midi | undefined, by: number): void => {
    if (midi !== undefined) share[mod12(midi)] = (share[mod12(midi)] ?? 0) + by;
  };
  extra(notes[0]?.midi, HOME.first);
  extra(notes.at(-1)?.midi, HOME.last);
  extra(Math.min(...notes.map((one) => one.midi)), HOME.lowest);
  const all = (['major', 'minor'] as const).flatMap((mode) =>
    Array.from({ length: 12 }, (_, tonic) => {
      const profile = PROFILES[mode];
      const match = correlation(
        share,
        share.map((_one, pc) => profile[mod12(pc - tonic)] ?? 0),
      );
      const inside = INSIDE[mode].reduce((sum, step) => sum + (heard[mod12(tonic + step)] ?? 0), 0);
      return { tonic, mode, match, inside };
    }),
  );
  const best = Math.max(...all.map((one) => one.match));
  const likely = all.map((one) => ({ ...one, odds: Math.exp(SHARPNESS * (one.match - best)) }));
  const sum = likely.reduce((a, b) => a + b.odds, 0);
  return likely
    .sort((a, b) => b.odds - a.odds)
    .map(({ tonic, mode, odds, inside }) => ({ key: keyOn(tonic, mode), sure: odds / sum, inside }));
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (list: readonly number[]): number => list.reduce((x, y) => x + y, 0) / list.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  a.forEach((x, i) => {
    const y = b[i] ?? 0;
    ab += (x - ma) * (y - mb);
    aa += (x - ma) ** 2;
    bb += (y - mb) ** 2;
  });
  return aa === 0 || bb === 0 ? 0 : ab / Math.sqrt(aa * bb);
}

/** A key on a pitch class, its tonic spelled with the fewest signs. */
export function keyOn(tonic: number, mode: Key['mode']): Key {
  // C major and A minor sit in the middle of the circle: six fifths to either side.
  const near = mode === 'major' ? { tonic: 'C', mode } : { tonic: 'A', mode };
  const spelled = spell(mod12(tonic), near);
  const ascii = spelled.alteration >= 0 ? '#'.repeat(spelled.alteration) : 'b'.repeat(-spelled.alteration);
  return { tonic: `${spelled.letter}${ascii}`, mode };
}

/** Share of what sounds that is in a key's scale, and how well the key fits beside all others. */
export function keyFit(notes: readonly WeighedNote[], key: Key): KeyReading | null {
  const tonic = parseName(key.tonic);
  if (!tonic) return null;
  const home = pitchClass(tonic);
  return (
    keysOf(notes).find((one) => {
      const there = parseName(one.key.tonic);
      return one.key.mode === key.mode && there !== null && pitchClass(there) === home;
    }) ?? null
  );
}

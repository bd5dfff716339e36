/** Chance with a seed: the same seed gives the same numbers on every machine. */
export type Random = () => number;

export const randomOf = (seed: number): Random => {
  let state = seed * 2654435761 + 12345;
  return () => {
    state = (Math.imul(state ^ (state >>> 15), 0x2c1b3c6d) + 0x9e3779b9) | 0;
    let t = Math.imul(state ^ (state >>> 16), 0x21f0aaad);
    t = Math.imul(t ^ (t >>> 15), 0x735a2d97);
    return ((t ^ (t >>> 15)) >>> 0) / 4294967296;
  };
};

/** One of a list; throws on an empty one. */
export function pick<T>(random: Random, list: readonly T[]): T {
  const one = list[Math.floor(random() * list.length)];
  if (one === undefined) throw new Error('nothing to pick from');
  return one;
}

/** A whole number from `from` to `to`, both within. */
export const between = (random: Random, from: number, to: number): number =>
  from + Math.floor(random() * (to - from + 1));

import { between, pick } from '../lib/random';
import { fretOf, inHand, mod12, one, type Desk, type Idiom, type Stroke } from './idiom';

/** Idioms of stopped strings: a hand stays, shifts or carries a shape. */

const LIKE_GUITAR = ['standard', 'detuned', 'dropped', 'extended', 'baritone'] as const;
const EVERYWHERE = [...LIKE_GUITAR, 'open', 'modal', 'altered'] as const;

/** Two bars of a walk over places in a hand, mostly to the next one. */
function walk(desk: Desk, places: readonly (readonly [number, number])[], count: number): Stroke[] {
  let at = between(desk.random, 0, Math.max(0, Math.floor(places.length / 2)));
  return Array.from({ length: count }, () => {
    const [string, fret] = places[at] ?? [1, 0];
    const step = pick(desk.random, [-2, -1, -1, 1, 1, 1, 2]);
    at = Math.min(places.length - 1, Math.max(0, at + step));
    return one(string, fret);
  });
}

function box(desk: Desk, strings: readonly number[], position: number, span: number): [number, number][] {
  return strings.flatMap((string) =>
    inHand(desk, string, position, position + span).map((fret): [number, number] => [string, fret]),
  );
}

/** The fret of the tonic on a string, in the lower half of the neck. */
function home(desk: Desk, string: number, from = 0): number {
  const fret = mod12(desk.tonic - desk.open(string));
  return fret < from ? fret + 12 : fret;
}

/** Root frets of a chord change on one string, within the neck. */
function roots(desk: Desk, string: number, count: number, most = 12): number[] {
  const frets = inHand(desk, string, 0, Math.min(most, desk.frets));
  return Array.from({ length: count }, () => pick(desk.random, frets));
}

/** A shape of strings with its frets above the root, moved along the neck. */
const moved = (frets: readonly number[], shape: readonly (readonly [number, number])[], each: number): Stroke[] =>
  frets.flatMap((root) => {
    const places = shape.map(([string, above]) => ({ string, fret: root + above }));
    return Array.from({ length: each }, (): Stroke => ({ frets: places, eighths: 1 }));
  });

export const CLOSED: readonly Idiom[] = [
  {
    name: 'line in one box',
    kinds: 'guitar',
    families: LIKE_GUITAR,
    write: (desk) => {
      const strings = desk.strings.slice(between(desk.random, 0, desk.strings.length - 4)).slice(0, 4);
      return walk(desk, box(desk, strings, between(desk.random, 2, 9), 3), 16);
    },
  },
  {
    name: 'run, three to a string',
    kinds: 'guitar',
    families: LIKE_GUITAR,
    write: (desk) => {
      const position = between(desk.random, 2, 9);
      return desk.strings.slice(-5).flatMap((string) => inHand(desk, string, position, position + 4).slice(0, 3))
        .length > 0
        ? desk.strings.slice(-5).flatMap((string) =>
            inHand(desk, string, position, position + 4)
              .slice(0, 3)
              .map((fret) => one(string, fret)),
          )
        : [];
    },
  },
  {
    name: 'melody along one string',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) => {
      const string = pick(desk.random, desk.strings.slice(-3));
      const frets = inHand(desk, string, 2, 14);
      let at = between(desk.random, 0, frets.length - 1);
      return Array.from({ length: 12 }, (_, i) => {
        at = Math.min(frets.length - 1, Math.max(0, at + pick(desk.random, [-2, -1, 1, 2])));
        return one(string, frets[at] ?? 2, 1, i % 4 === 1 && i < 11 ? { link: 'slide' } : {});
      }).map((stroke, i, all) =>
        all[i + 1]?.frets[0]?.fret === stroke.frets[0]?.fret ? { ...stroke, link: undefined } : stroke,
      ) as Stroke[];
    },
  },
  {
    name: 'fifths on two strings',
    kinds: 'guitar',
    families: LIKE_GUITAR,
    write: (desk) => {
      const k = between(desk.random, 0, 1);
      const [low, high] = [desk.strings[k] ?? 6, desk.strings[k + 1] ?? 5];
      const above = 7 - (desk.open(high) - desk.open(low));
      return moved(
        roots(desk, low, 6),
        [
          [low, 0],
          [high, above],
        ],
        pick(desk.random, [2, 3, 4]),
      ).filter(good(desk));
    },
  },
  {
    name: 'fifths with the octave',
    kinds: 'guitar',
    families: LIKE_GUITAR,
    write: (desk) => {
      const k = between(desk.random, 0, 1);
      const [a, b, c] = [desk.strings[k] ?? 6, desk.strings[k + 1] ?? 5, desk.strings[k + 2] ?? 4];
      const shape = [
        [a, 0],
        [b, 7 - (desk.open(b) - desk.open(a))],
        [c, 12 - (desk.open(c) - desk.open(a))],
      ] as const;
      return moved(roots(desk, a, 5), shape, pick(desk.random, [2, 4])).filter(good(desk));
    },
  },
  {
    name: 'octaves with a damped string between',
    kinds: 'guitar',
    families: LIKE_GUITAR,
    standardUpper: true,
    write: (desk) => {
      const low = pick(desk.random, [5, 4]);
      const high = low - 2;
      const above = 12 - (desk.open(high) - desk.open(low));
      return moved(
        roots(desk, low, 7),
        [
          [low, 0],
          [high, above],
        ],
        2,
      ).filter(good(desk));
    },
  },
  {
    name: 'thirds on neighbours',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) =>
      pairs(
        desk,
        pick(desk.random, [
          [2, 1],
          [3, 2],
          [4, 3],
        ]),
        [3, 4],
      ),
  },
  {
    name: 'sixths with a string between',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) =>
      pairs(
        desk,
        pick(desk.random, [
          [3, 1],
          [4, 2],
        ]),
        [8, 9],
      ),
  },
  {
    name: 'triads on three strings',
    kinds: 'guitar',
    families: LIKE_GUITAR,
    standardUpper: true,
    write: (desk) => {
      const strings = pick(desk.random, [
        [3, 2, 1],
        [4, 3, 2],
      ]);
      const out: Stroke[] = [];
      for (const root of [0, 3, 4, 0, 5]) {
        const tones = [0, 2, 4].map((k) => desk.scale[(root + k) % desk.scale.length] ?? 0);
        const from = between(desk.random, 2, 8);
        const places = strings.map((string, i) => {
          const fret = inTones(desk, string, tones, from)[0] ?? from;
          return { string, fret, i };
        });
        out.push({ frets: places.map(({ string, fret }) => ({ string, fret })), eighths: 2 });
      }
      return out.filter(good(desk));
    },
  },
  {
    name: 'barre with the shape of E or A',
    kinds: 'guitar',
    families: ['standard', 'detuned'],
    standardUpper: true,
    write: (desk) => {
      const minor = desk.random() < 0.5;
      const e = [
        [6, 0],
        [5, 2],
        [4, 2],
        [3, minor ? 0 : 1],
        [2, 0],
        [1, 0],
      ] as const;
      const a = [
        [5, 0],
        [4, 2],
        [3, 2],
        [2, minor ? 1 : 2],
        [1, 0],
      ] as const;
      const shape = desk.random() < 0.5 ? e : a;
      const frets = roots(desk, shape[0][0], 4, 9).map((fret) => Math.max(1, fret));
      return moved(frets, shape, 2).filter(good(desk));
    },
  },
  {
    name: 'cell moved along',
    kinds: 'both',
    families: EVERYWHERE,
    write: (desk) => {
      const k = between(desk.random, 0, desk.strings.length - 2);
      const [low, high] = [desk.strings[k] ?? 4, desk.strings[k + 1] ?? 3];
      const cell = pick(desk.random, [
        [
          [low, 0],
          [low, 2],
          [high, 0],
          [high, 2],
        ],
        [
          [low, 0],
          [high, 2],
          [high, 0],
          [low, 3],
        ],
        [
          [low, 0],
          [low, 3],
          [high, 2],
          [low, 3],
        ],
      ] as const);
      const from = between(desk.random, 1, 5);
      return [0, pick(desk.random, [2, 3, 5]), 0, pick(desk.random, [-1, 2, 7])].flatMap((by) =>
        cell.map(([string, fret]) => one(string, Math.max(1, from + by) + fret)),
      );
    },
  },
  {
    name: 'chromatic walk on a thick string',
    kinds: 'both',
    families: EVERYWHERE,
    write: (desk) => {
      const string = pick(desk.random, desk.strings.slice(0, 2));
      const from = home(desk, string, 3);
      const up = [0, 1, 2, 3, 4, 3, 2, 1].map((by) => one(string, from + by - 3));
      return [...up, one(string, from), one(string, from), one(string, from + 2), one(string, from)];
    },
  },
  {
    name: 'double stops that slide',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) =>
      pairs(
        desk,
        pick(desk.random, [
          [3, 2],
          [2, 1],
        ]),
        [3, 4, 5],
      ).map((stroke, i, all) =>
        i % 2 === 0 &&
        all[i + 1] &&
        all[i + 1]?.frets[0]?.fret !== stroke.frets[0]?.fret &&
        all[i + 1]?.frets[1]?.fret !== stroke.frets[1]?.fret
          ? { ...stroke, link: 'slide' as const }
          : stroke,
      ),
  },
  {
    name: 'lick with bends',
    kinds: 'guitar',
    families: LIKE_GUITAR,
    write: (desk) => {
      const position = between(desk.random, 5, 12);
      const places = box(desk, [3, 2, 1], position, 3);
      return walk(desk, places, 12).map((stroke, i) =>
        i % 5 === 2 ? { ...stroke, frets: stroke.frets.map((at) => ({ ...at, bend: 200 })) } : stroke,
      );
    },
  },
  {
    name: 'bass line in one hand',
    kinds: 'bass',
    families: EVERYWHERE,
    write: (desk) => walk(desk, box(desk, desk.strings, between(desk.random, 2, 7), 3), 16),
  },
  {
    name: 'bass root, fifth, octave',
    kinds: 'bass',
    families: LIKE_GUITAR,
    write: (desk) => {
      const [a, b, c] = desk.strings.slice(-4);
      return roots(desk, a ?? 4, 4, 8)
        .flatMap((root) => [
          one(a ?? 4, root),
          one(a ?? 4, root),
          one(b ?? 3, root + 7 - (desk.open(b ?? 3) - desk.open(a ?? 4))),
          one(c ?? 2, root + 12 - (desk.open(c ?? 2) - desk.open(a ?? 4))),
        ])
        .filter(good(desk));
    },
  },
  {
    name: 'bass octaves, thumb and pop',
    kinds: 'bass',
    families: LIKE_GUITAR,
    write: (desk) => {
      const [low, , high] = desk.strings.slice(-4);
      const above = 12 - (desk.open(high ?? 2) - desk.open(low ?? 4));
      return roots(desk, low ?? 4, 4, 9)
        .flatMap((root) => [0, 1, 0, 1].map((k) => (k ? one(high ?? 2, root + above) : one(low ?? 4, root))))
        .filter(good(desk));
    },
  },
];

/** Pairs of the scale on two strings whose distance is one of those wanted. */
function pairs(desk: Desk, [low, high]: readonly number[], distances: readonly number[]): Stroke[] {
  const [a, b] = [low ?? 2, high ?? 1];
  const all = inHand(desk, a, 2, 12).flatMap((fret) =>
    distances.flatMap((distance) => {
      const over = fretOf(desk, b, desk.open(a) + fret + distance);
      return over !== null && Math.abs(over - fret) <= 3 && desk.scale.includes(mod12(desk.open(b) + over))
        ? [
            {
              frets: [
                { string: a, fret },
                { string: b, fret: over },
              ],
              eighths: 1,
            },
          ]
        : [];
    }),
  );
  if (all.length < 3) return [];
  let at = between(desk.random, 0, all.length - 1);
  return Array.from({ length: 10 }, () => {
    at = Math.min(all.length - 1, Math.max(0, at + pick(desk.random, [-2, -1, 1, 1, 2])));
    return all[at] ?? { frets: [], eighths: 1 };
  });
}

/** Frets of chord tones on a string from a place of the hand on. */
export const inTones = (desk: Desk, string: number, tones: readonly number[], from: number, span = 4): number[] =>
  Array.from({ length: span + 1 }, (_, i) => from + i).filter((fret) =>
    tones.includes(mod12(desk.open(string) + fret)),
  );

/** Whether a stroke lies on the neck. */
export const good =
  (desk: Desk) =>
  (stroke: Stroke): boolean =>
    stroke.frets.length > 0 && stroke.frets.every(({ fret }) => fret >= 0 && fret <= desk.frets);

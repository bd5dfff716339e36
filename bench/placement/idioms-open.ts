import { between, pick } from '../lib/random';
import { fretOf, inHand, mod12, one, type Desk, type Idiom, type Stroke } from './idiom';
import { good, inTones } from './idioms-closed';

/** Idioms that live on open strings: what a tuning is chosen for. */

const PLAIN = ['standard', 'detuned', 'dropped', 'extended', 'baritone'] as const;
const CHORDS = ['open', 'modal'] as const;
const EVERYWHERE = [...PLAIN, ...CHORDS, 'altered'] as const;

/** Strokes of one string after another, ringing. */
const picked = (places: readonly { string: number; fret: number }[], order: readonly number[]): Stroke[] =>
  order.flatMap((k) => {
    const at = places[k % places.length];
    return at ? [one(at.string, at.fret, 1, { ring: true })] : [];
  });

/** A grip of the first frets that holds tones of a chord: open strings where they belong to it. */
function firstGrip(
  desk: Desk,
  tones: readonly number[],
  strings: readonly number[],
): { string: number; fret: number }[] {
  return strings.flatMap((string) => {
    const fret = inTones(desk, string, tones, 0, 3)[0];
    return fret === undefined ? [] : [{ string, fret }];
  });
}

const chord = (desk: Desk, degree: number): number[] =>
  [0, 2, 4].map((k) => desk.scale[(degree + k) % desk.scale.length] ?? 0);

export const OPEN: readonly Idiom[] = [
  {
    name: 'pedal on the thick open string',
    kinds: 'both',
    families: EVERYWHERE,
    write: (desk) => {
      const [low, next, third] = desk.strings;
      const over = [
        ...inHand(desk, next ?? 5, 2, 9).map((fret) => [next ?? 5, fret] as const),
        ...inHand(desk, third ?? 4, 2, 7).map((fret) => [third ?? 4, fret] as const),
      ];
      return Array.from({ length: 8 }, () => {
        const [string, fret] = pick(desk.random, over);
        return [one(low ?? 6, 0), one(low ?? 6, 0), one(string, fret)];
      }).flat();
    },
  },
  {
    name: 'riff of one-finger fifths',
    kinds: 'guitar',
    families: ['dropped'],
    write: (desk) => {
      const strings = desk.strings.slice(0, pick(desk.random, [2, 3]));
      const frets = inHand(desk, strings[0] ?? 6, 0, 10);
      return Array.from({ length: 7 }, () => {
        const fret = pick(desk.random, [0, 0, ...frets]);
        const grip: Stroke = { frets: strings.map((string) => ({ string, fret })), eighths: 1 };
        return desk.random() < 0.4 ? [grip, one(strings[0] ?? 6, 0), one(strings[0] ?? 6, 0)] : [grip, grip];
      }).flat();
    },
  },
  {
    name: 'low riff around the open string',
    kinds: 'both',
    families: EVERYWHERE,
    write: (desk) => {
      const [low, next] = desk.strings;
      const near = [
        ...inHand(desk, low ?? 6, 1, 5).map((fret) => one(low ?? 6, fret)),
        ...inHand(desk, next ?? 5, 0, 5).map((fret) => one(next ?? 5, fret)),
      ];
      return Array.from({ length: 16 }, (_, i) =>
        i % 4 === 0 || desk.random() < 0.3 ? one(low ?? 6, 0) : pick(desk.random, near),
      );
    },
  },
  {
    name: 'open chords picked, ringing',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) =>
      [0, 3, 0, 4].flatMap((degree) => {
        const grip = firstGrip(desk, chord(desk, degree), desk.strings.slice(-5));
        return grip.length >= 3 ? picked(grip, [0, 2, 3, 1, 4, 3, 2, 1]) : [];
      }),
  },
  {
    name: 'open chords struck',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) =>
      [0, 3, 4, 0].flatMap((degree) => {
        const grip = firstGrip(desk, chord(desk, degree), desk.strings.slice(-pick(desk.random, [4, 5, 6])));
        return grip.length >= 3
          ? [
              { frets: grip, eighths: 2, ring: true },
              { frets: grip, eighths: 2, ring: true },
            ]
          : [];
      }),
  },
  {
    name: 'melody over droning neighbours',
    kinds: 'guitar',
    families: [...CHORDS, 'altered'],
    write: (desk) => {
      const k = between(desk.random, 1, desk.strings.length - 2);
      const string = desk.strings[k] ?? 2;
      const drones = [desk.strings[k - 1] ?? 3, desk.strings[k + 1] ?? 1];
      const frets = inHand(desk, string, 0, 12);
      let at = between(desk.random, 0, frets.length - 1);
      return Array.from({ length: 8 }, () => {
        at = Math.min(frets.length - 1, Math.max(0, at + pick(desk.random, [-2, -1, 1, 2])));
        return [one(string, frets[at] ?? 0, 1, { ring: true }), one(pick(desk.random, drones), 0, 1, { ring: true })];
      }).flat();
    },
  },
  {
    name: 'straight finger in an open tuning',
    kinds: 'guitar',
    families: ['open'],
    write: (desk) => {
      const strings = desk.strings.slice(-pick(desk.random, [3, 4, 5]));
      return [0, 5, 7, 0, pick(desk.random, [3, 10, 12]), 5, 0]
        .flatMap((fret) => {
          const grip: Stroke = { frets: strings.map((string) => ({ string, fret })), eighths: 2 };
          return desk.random() < 0.4
            ? [grip, one(strings.at(-1) ?? 1, fret + 2), one(strings.at(-1) ?? 1, fret)]
            : [grip, grip];
        })
        .filter(good(desk));
    },
  },
  {
    name: 'pairs and pull-offs to open strings',
    kinds: 'guitar',
    families: [...CHORDS],
    write: (desk) => {
      const out: Stroke[] = [];
      for (let i = 0; i < 7; i++) {
        const k = between(desk.random, 0, desk.strings.length - 2);
        const [a, b] = [desk.strings[k] ?? 4, desk.strings[k + 1] ?? 3];
        const fret = pick(desk.random, [2, 3, 5]);
        out.push({
          frets: [
            { string: a, fret: pick(desk.random, [0, fret]) },
            { string: b, fret },
          ],
          eighths: 1,
        });
        out.push(one(b, fret, 1, { link: 'pull' }), one(b, 0));
      }
      return out;
    },
  },
  {
    name: 'hammered from open strings',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) =>
      Array.from({ length: 7 }, () => {
        const string = pick(desk.random, desk.strings.slice(0, 5));
        const fret = pick(desk.random, inHand(desk, string, 1, 4).length > 0 ? inHand(desk, string, 1, 4) : [2]);
        return desk.random() < 0.6
          ? [one(string, 0, 1, { link: 'hammer' }), one(string, fret)]
          : [one(string, fret, 1, { link: 'pull' }), one(string, 0)];
      }).flat(),
  },
  {
    name: 'scale that rings across open strings',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) => {
      const from = between(desk.random, 4, 7);
      const places = desk.strings
        .slice(-5)
        .flatMap((string) => [
          ...(desk.scale.includes(mod12(desk.open(string))) ? [{ string, fret: 0 }] : []),
          ...inHand(desk, string, from, from + 3).map((fret) => ({ string, fret })),
        ])
        .sort((a, b) => desk.open(a.string) + a.fret - desk.open(b.string) - b.fret);
      const order: { string: number; fret: number }[] = [];
      for (const place of places) if (order.at(-1)?.string !== place.string) order.push(place);
      return [...order, ...[...order].reverse().slice(1)]
        .slice(0, 14)
        .map(({ string, fret }) => one(string, fret, 1, { ring: true }));
    },
  },
  {
    name: 'unison against an open string',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) => {
      const k = between(desk.random, 1, desk.strings.length - 1);
      const [low, high] = [desk.strings[k - 1] ?? 2, desk.strings[k] ?? 1];
      const same = fretOf(desk, low, desk.open(high));
      if (same === null || same < 2) return [];
      return Array.from({ length: 6 }, () => {
        const by = pick(desk.random, [0, 0, -2, 2]);
        return [
          {
            frets: [
              { string: low, fret: same + by },
              { string: high, fret: 0 },
            ],
            eighths: 1,
            ring: true,
          },
          one(low, Math.max(1, same + by - 2)),
        ] satisfies Stroke[];
      }).flat();
    },
  },
  {
    name: 'thumb on open basses, melody on thin strings',
    kinds: 'guitar',
    families: EVERYWHERE,
    write: (desk) => {
      const basses = desk.strings.slice(0, 3).filter((string) => desk.scale.includes(mod12(desk.open(string))));
      const thin = desk.strings.slice(-2);
      if (basses.length < 2) return [];
      return Array.from({ length: 8 }, (_, i) => {
        const bass = basses[i % basses.length] ?? 6;
        const string = pick(desk.random, thin);
        const fret = pick(desk.random, inHand(desk, string, 0, 5));
        return [
          {
            frets: [{ string: bass, fret: 0 }, ...(desk.random() < 0.6 ? [{ string, fret }] : [])],
            eighths: 1,
            ring: true,
          },
          one(string, fret, 1, { ring: true }),
        ] satisfies Stroke[];
      }).flat();
    },
  },
  {
    name: 'fifths answered by open strings',
    kinds: 'guitar',
    families: PLAIN,
    write: (desk) => {
      const [low, next, third] = desk.strings;
      const [a, b] = desk.random() < 0.5 ? [low ?? 6, next ?? 5] : [next ?? 5, third ?? 4];
      const above = 7 - (desk.open(b) - desk.open(a));
      return Array.from({ length: 5 }, () => {
        const root = pick(desk.random, inHand(desk, a, 0, 8));
        return [
          {
            frets: [
              { string: a, fret: root },
              { string: b, fret: root + above },
            ],
            eighths: 2,
          },
          one(low ?? 6, 0),
          one(low ?? 6, 0),
        ] satisfies Stroke[];
      })
        .flat()
        .filter(good(desk));
    },
  },
  {
    name: 'held chord with open thin strings, moved',
    kinds: 'guitar',
    families: [...PLAIN, ...CHORDS],
    write: (desk) => {
      const strings = desk.strings.slice(-5);
      const [a, b, c, d, e] = strings;
      return inHand(desk, a ?? 5, 0, 9)
        .slice(0, 5)
        .flatMap((fret) =>
          picked(
            [
              { string: a ?? 5, fret },
              { string: b ?? 4, fret: fret === 0 ? 2 : fret + 2 },
              { string: c ?? 3, fret: fret === 0 ? 2 : fret + 2 },
              { string: d ?? 2, fret: 0 },
              { string: e ?? 1, fret: 0 },
            ],
            [0, 1, 2, 3, 4, 3],
          ),
        )
        .filter(good(desk));
    },
  },
  {
    name: 'bass on the open thick string',
    kinds: 'bass',
    families: EVERYWHERE,
    write: (desk) => {
      const [low, next] = desk.strings;
      const over = [
        ...inHand(desk, next ?? 3, 0, 5).map((fret) => one(next ?? 3, fret)),
        ...inHand(desk, low ?? 4, 1, 5).map((fret) => one(low ?? 4, fret)),
      ];
      return Array.from({ length: 8 }, (_, i) => [
        one(low ?? 4, 0),
        i % 3 === 2 ? pick(desk.random, over) : one(low ?? 4, 0),
      ]).flat();
    },
  },
];

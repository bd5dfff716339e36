import fc from 'fast-check';
import { freshIds } from '../../base';
import {
  barCount,
  type FormEntry,
  type Part,
  type PassName,
  type Piece,
  type Riff,
  type Section,
  type Use,
  type UseMove,
  type Variant,
} from '../../score';
import { pieceArbitrary } from '../../score/test-support/arbitrary';
import { changeBetween } from '../variant';

/** Random pieces with variants, sections and a route, within the invariants. */

const MOVES: readonly (UseMove | undefined)[] = [
  ...[undefined, undefined, undefined],
  { by: 'frets', steps: 2 },
  { by: 'semitones', steps: 12 },
  { by: 'strings', steps: 1 },
  { by: 'chord', chord: 'D7' },
];
const PASSES: readonly PassName[] = [1, 2, 3, 'last', 'odd', 'even'];

interface UseSeed {
  readonly riff: number;
  readonly plays: number;
  readonly move: number;
  readonly variant: number;
  readonly ending: number;
  readonly spot: number;
  readonly range: number;
}

const useSeed = fc.record({
  ...{ riff: fc.nat({ max: 1 }), plays: fc.integer({ min: 1, max: 4 }), move: fc.nat({ max: 6 }) },
  ...{ variant: fc.nat({ max: 5 }), ending: fc.nat({ max: 9 }), spot: fc.nat({ max: 7 }), range: fc.nat({ max: 5 }) },
});

/** A riff with two variants: one without its second event, one with its first as it is an eighth shorter or longer. */
function varied(riff: Riff, fresh: (prefix: string) => string): Riff {
  const [first, second] = riff.events;
  if (!first) return riff;
  const variants: Variant[] = [
    {
      id: fresh('x'),
      name: 'ending',
      change: changeBetween(
        riff,
        riff.events.filter((one) => one !== second),
      ),
    },
    {
      id: fresh('x'),
      name: 'last time',
      change: changeBetween(
        riff,
        riff.events.map((one) => (one === first ? { ...one, remark: 'let it stand' } : one)),
      ),
    },
  ];
  return { ...riff, variants };
}

function useOf(part: Part, seed: UseSeed, fresh: (prefix: string) => string): Use {
  const id = fresh('u');
  const riff = part.riffs[seed.riff % part.riffs.length];
  if (seed.spot === 0 || !riff)
    return {
      id,
      spot: { kind: (['rest', 'free', 'unwritten'] as const)[seed.ending % 3] ?? 'rest', bars: seed.plays },
      plays: 1,
    };
  const variant = riff.variants?.[seed.variant];
  const ending = riff.variants?.[seed.ending % 2];
  const move = MOVES[seed.move];
  return {
    ...{ id, riff: riff.id, plays: seed.plays },
    ...(variant ? { variant: variant.id } : {}),
    ...(move ? { move } : {}),
    ...(ending && seed.ending < PASSES.length
      ? { endings: [{ passes: [PASSES[seed.ending] ?? 'last'], variant: ending.id }] }
      : {}),
    ...(seed.range === 0 ? { bars: { from: barCount(riff) - 1, count: 1 } } : {}),
    ...(seed.spot === 1 ? { leaveOut: true as const } : {}),
    ...(seed.spot === 2 ? { remark: 'softly, as if far off' } : {}),
  };
}

export const formArbitrary: fc.Arbitrary<Piece> = fc
  .tuple(
    pieceArbitrary,
    fc.array(
      fc.record({
        bars: fc.integer({ min: 1, max: 12 }),
        rows: fc.array(fc.array(useSeed, { minLength: 1, maxLength: 4 }), { minLength: 0, maxLength: 2 }),
      }),
      { minLength: 1, maxLength: 4 },
    ),
    fc.array(
      fc.record({
        section: fc.nat({ max: 3 }),
        plays: fc.integer({ min: 1, max: 3 }),
        stop: fc.nat({ max: 9 }),
        difference: fc.nat({ max: 4 }),
      }),
      { maxLength: 6 },
    ),
  )
  .map(([given, seeds, route]) => {
    const fresh = freshIds(given.lastId + 1000);
    const piece = {
      ...given,
      parts: given.parts.map((part) => ({ ...part, riffs: part.riffs.map((riff) => varied(riff, fresh)) })),
    };
    const names = ['Verse', 'Refrain', 'Bridge, slow', 'Verse 2'];
    const sections = seeds.map((seed, i): Section => ({
      ...{ id: fresh('s'), name: names[i] ?? 'Section', kind: 'other', bars: seed.bars },
      rows: seed.rows.flatMap((uses, p) => {
        const part = piece.parts[p];
        return part ? [{ part: part.id, uses: uses.map((one) => useOf(part, one, fresh)) }] : [];
      }),
    }));
    const form = route.map((seed): FormEntry => {
      const section = sections[seed.section % sections.length] as Section;
      const use = section.rows[0]?.uses.find((one) => one.riff !== undefined);
      return {
        ...{ id: fresh('f'), section: section.id, plays: seed.plays },
        ...(use && seed.difference === 0
          ? { differences: [{ passes: ['last' as const], use: use.id, leaveOut: true as const }] }
          : {}),
        ...(seed.stop < 4
          ? {
              stop: {
                kind: (['early', 'slowing', 'held', 'fade'] as const)[seed.stop] ?? 'held',
                bars: seed.stop === 2 ? 0 : 1,
              },
            }
          : {}),
      };
    });
    return { ...piece, sections, form, lastId: piece.lastId + 5000 };
  });

import { scaleName } from '../../harmony';
import type { Claim, Piece } from '../../score';
import { asked, type CheckFinding, type PieceRule } from '../types';
import { copy, interval, overlapping } from './copies';
import { chord, degree, grip, scale } from './harmony';
import { parseClaim, type ParsedClaim } from './parse';
import { bend, capo, direction, list, plays, position, strokes, tempo } from './playing';
import { stretchOf, type Stretch } from './stretch';

export { parseClaim, type ParsedClaim } from './parse';

/** What each kind of claim is held against. A kind that is missing here fails to compile. */
const CHECKS: {
  readonly [Kind in ParsedClaim['kind']]: (
    stretch: Stretch,
    said: Extract<ParsedClaim, { kind: Kind }>,
  ) => CheckFinding[];
} = { scale, chord, grip, interval, copy, plays, strokes, list, degree, tempo, position, capo, bend, direction };

/** One claim checked; nothing where it holds, can't be read, or what it was said of is gone. */
export function checkClaim(piece: Piece, claim: Claim): CheckFinding[] {
  const parsed = parseClaim(claim.words);
  const stretch = parsed && stretchOf(piece, claim);
  if (!parsed || !stretch) return [];
  const check = CHECKS[parsed.kind] as (stretch: Stretch, said: ParsedClaim) => CheckFinding[];
  return check(stretch, parsed);
}

export const claims: PieceRule = {
  id: 'claims',
  name: 'something said of a stretch that doesn’t hold',
  on: 'piece',
  find: (piece) => (piece.claims ?? []).flatMap((claim) => checkClaim(piece, claim)),
};

/** What a claim comes to, for comparing it with another of its kind. */
function gist(parsed: ParsedClaim): string {
  switch (parsed.kind) {
    case 'scale':
      return scaleName(parsed.claim.tonic ?? -1, parsed.claim.scale);
    case 'chord':
      return parsed.name.toLowerCase();
    default:
      return JSON.stringify(parsed);
  }
}

/** Kinds of which only one can hold of a stretch. */
const ONLY_ONE = new Set<ParsedClaim['kind']>([
  'scale',
  'chord',
  'grip',
  'plays',
  'strokes',
  'tempo',
  'position',
  'capo',
  'bend',
  'copy',
]);

/** Two claims of one kind about the same stretch that say different things: the later against the earlier. */
export const claimsDiffer: PieceRule = {
  id: 'claims-differ',
  name: 'a claim against an earlier one',
  on: 'piece',
  find: (piece) => {
    const all = (piece.claims ?? []).flatMap((claim) => {
      const parsed = parseClaim(claim.words);
      return parsed && ONLY_ONE.has(parsed.kind) ? [{ claim, parsed }] : [];
    });
    return all.flatMap(({ claim, parsed }, i) => {
      const before = all
        .slice(0, i)
        .find(
          (other) =>
            other.parsed.kind === parsed.kind &&
            gist(other.parsed) !== gist(parsed) &&
            overlapping(piece, other.claim, claim),
        );
      if (!before) return [];
      return [
        asked('claims-differ', {
          locus: {
            ...(claim.part ? { part: claim.part } : {}),
            ...(claim.riff ? { riff: claim.riff } : {}),
            ...(claim.section ? { path: ['sections', claim.section] } : {}),
          },
          about: [claim.id, before.claim.id],
          ground: [claim.words, before.claim.words],
          words: `"${claim.words}" is said, and earlier "${before.claim.words}" of the same: which holds?`,
          likely: 0.7,
          mends: [before.claim, claim].map((one) => ({
            words: `Delete "${one.words}"`,
            edit: { type: 'putClaim', id: one.id } as const,
          })),
        }),
      ];
    });
  },
};

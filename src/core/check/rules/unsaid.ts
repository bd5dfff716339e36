import { confirm, setKey } from '../../command';
import { keysOf } from '../../harmony';
import { keyName } from '../../pitch';
import { unspecifiedIn, type Piece } from '../../score';
import { ZERO } from '../../time';
import { asked, type CheckFinding, type Mend, type PieceRule } from '../types';
import { weighed } from './key';

/** What nobody said yet: tuning, tempo, string, bend, trill, how often, what is played in a hole, and the key. */
export const unsaid: PieceRule = {
  id: 'unsaid',
  name: 'what is still unsaid',
  on: 'piece',
  find: (piece) => [
    ...unspecifiedIn(piece).map((open) =>
      asked('unsaid', {
        ...{ locus: open.locus, severity: 'open' as const, likely: 1 },
        about: [open.rule, open.locus],
        ground: [open.rule],
        words: `Not said: ${open.words}.`,
        mends: mendsOf(open.rule, open.locus.part ?? null),
      }),
    ),
    ...noKey(piece),
  ],
};

function mendsOf(rule: string, part: string | null): Mend[] {
  if (rule !== 'tempo' && rule !== 'tuning') return [];
  return [{ words: 'It is right as set', edit: confirm(rule === 'tempo' ? null : part) }];
}

function noKey(piece: Piece): CheckFinding[] {
  if (piece.context.key.length > 0) return [];
  const notes = weighed(piece.parts);
  if (notes.length < 8) return [];
  const found = keysOf(notes).slice(0, 2);
  return [
    asked('unsaid', {
      ...{ locus: {}, severity: 'open' as const, likely: 1 },
      about: ['key'],
      ground: ['key'],
      words: 'Not said: the key.',
      evidence: `It sounds like ${found.map((one) => `${keyName(one.key)} (${Math.round(one.sure * 100)}%)`).join(', or ')}.`,
      mends: found.map((one) => ({ words: keyName(one.key), edit: setKey([{ at: ZERO, ...one.key }]) })),
    }),
  ];
}

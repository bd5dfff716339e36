import type { Locus } from '../../base';
import { asked, type CheckFinding, type Mend } from '../types';
import type { Stretch, StretchNote } from './stretch';

/** A claim that doesn't hold, as a finding at the note that breaks it, or at its stretch. */
export function broken(
  rule: string,
  stretch: Stretch,
  told: {
    readonly words: string;
    readonly evidence?: string | null;
    readonly ground: readonly unknown[];
    readonly at?: StretchNote | null;
    readonly likely?: number;
    readonly mends?: readonly Mend[];
  },
): CheckFinding {
  const { claim } = stretch;
  const { words, evidence = null, ground, at = null, likely = 0.75, mends = [] } = told;
  return asked(rule, {
    locus: locusOf(stretch, at),
    about: [claim.id, rule],
    ground: [claim.words, ...ground],
    ...{ words, evidence, likely, mends },
  });
}

function locusOf({ claim, part, riff }: Stretch, at: StretchNote | null): Locus {
  if (at) return { part: at.part.id, riff: at.riff, event: at.event.id, note: at.note.id };
  return {
    ...(part ? { part: part.id } : {}),
    ...(riff ? { riff: riff.id } : {}),
    ...(claim.section ? { path: ['sections', claim.section] } : {}),
  };
}

/** The claim said otherwise, as a mend. */
export const reworded = ({ claim }: Stretch, words: string): Mend => ({
  words: `Say "${words}"`,
  edit: { type: 'putClaim', id: claim.id, claim: { ...claim, words } },
});

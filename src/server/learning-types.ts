import type { CostTable } from '@/core/hand';
import type { Sample, Score } from '@/core/place';

/** A logged phrase: what the solver was asked, and what the instructor chose. */
export type KeptSample = Sample;

/** One note chosen, and every place it could have had with what each would have cost then. */
export interface KeptAlternative {
  readonly note: string;
  readonly chosen: { readonly string: number; readonly fret: number };
  readonly others: readonly { readonly string: number; readonly fret: number; readonly extra: number | null }[];
}

export type FitState = 'waiting' | 'working' | 'done' | 'failed' | 'accepted' | 'set aside';

export interface FitResult {
  readonly start: CostTable;
  readonly costs: CostTable;
  readonly before: Score;
  readonly after: Score;
  /** The same on phrases left out of the fit; null where there are too few to leave any out. */
  readonly unseen: { readonly before: Score; readonly after: Score } | null;
}

import type { BarRange } from './types';

/** Lengths of sections looked for, in bars, what musicians think in first. */
const LENGTHS = [8, 4, 16, 12, 2, 6] as const;
/** What a plan costs to say: a bar told anew, a section named, a section called again. */
const COST = { bar: 1, section: 1.5, again: 0.7 } as const;

/**
 * Where a piece without marks is cut into sections: into blocks of one length where enough of them come again note
 * for note; null where telling it in one is no longer. `keys`: what each bar holds, as a text.
 */
export function foldBars(keys: readonly string[]): BarRange[] | null {
  const whole = keys.length * COST.bar + COST.section;
  let best: { readonly cost: number; readonly blocks: BarRange[] } | null = null;
  for (const length of LENGTHS) {
    if (length > keys.length / 2) continue;
    const seen = new Set<string>();
    const blocks: BarRange[] = [];
    let cost = 0;
    for (let from = 0; from < keys.length; from += length) {
      const to = Math.min(keys.length, from + length);
      const key = keys.slice(from, to).join('\n');
      cost += seen.has(key) ? COST.again : (to - from) * COST.bar + COST.section;
      seen.add(key);
      blocks.push({ from, to });
    }
    if (cost < (best?.cost ?? whole)) best = { cost, blocks };
  }
  return best?.blocks ?? null;
}

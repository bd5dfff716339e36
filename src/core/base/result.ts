import { finding, locusWords, type Finding, type Locus } from './finding';

/** A value, or the finding that stood in the way. The core returns these; it throws only for bugs. */
export type Result<T, F = Finding> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: F };

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });

/** What stood in the way: the rule broken, the reason and the mend in words, and where; a string names an input. */
export const fail = (
  rule: string,
  words: string,
  locus: Locus | string = {},
): { readonly ok: false; readonly error: Finding } => ({
  ok: false,
  error: finding(rule, 'error', words, typeof locus === 'string' ? { path: [locus] } : locus),
});

/** The value, or an exception: for places where a fault would be a bug (data shipped with the program, tests). */
export function must<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  const { rule, words, locus } = result.error;
  const where = locusWords(locus);
  throw new Error(`${rule}: ${words}${where ? ` (${where})` : ''}`);
}

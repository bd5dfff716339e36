import { locusWords, type Finding } from '@/core/base';

/** What stood in the way as the JSON routes answer it: the rule, the reason, and the place where there is one. */
export function refusal({ rule, words, locus }: Finding, status: number): Response {
  const at = locusWords(locus);
  return Response.json({ error: { code: rule, message: words, ...(at ? { at } : {}) } }, { status });
}

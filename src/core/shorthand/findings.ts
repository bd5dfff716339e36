import { finding, type Severity } from '../base';
import type { CallFinding } from './types';

/** A finding about a stretch of the line; `bar` where it is about a bar, counted from 0. */
export function callFinding(
  { from, to }: { readonly from: number; readonly to: number },
  rule: string,
  words: string,
  severity: Severity = 'error',
  bar: number | null = null,
): CallFinding {
  const locus = { text: { from, to }, ...(bar === null ? {} : { bar }) };
  return { ...finding(rule, severity, words), locus };
}

import { finding } from '../base';
import type { Blocked, Limit } from './types';

/** A limit that could not be met at an event; `notes` are the indices of those that are left out for it. */
export const blockedAt = (
  event: string,
  notes: readonly number[],
  limit: Limit,
  words: string,
  within: Blocked['within'] = null,
): Blocked => ({ ...finding(limit, 'question', words), rule: limit, locus: { event }, notes, within });

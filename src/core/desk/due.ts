import { daysAfter, weekOf, type Day } from './calendar';
import type { Request } from './schema';

/** What is due when: requests and what was promised for later, by weeks that begin on Monday. */

/** One thing to be done by a day. */
export interface DueItem<Id extends string = string> {
  readonly request: Id;
  readonly title: string;
  readonly asker: string;
  /** What of the request; null for all of it. */
  readonly item: { readonly index: number; readonly what: string } | null;
  readonly kind: 'work' | 'release' | 'later';
  readonly day: Day | null;
}

export const DUE_SPANS = ['overdue', 'this week', 'next week', 'later', 'no day'] as const;
export type DueSpan = (typeof DUE_SPANS)[number];

/** Where a day lies, seen from today. */
export function spanOf(day: Day | null, today: Day): DueSpan {
  if (day === null) return 'no day';
  if (day < today) return 'overdue';
  const next = daysAfter(weekOf(today), 7);
  if (day < next) return 'this week';
  return day < daysAfter(next, 7) ? 'next week' : 'later';
}

/**
 * Everything that is still to be done, by day; what has no day comes last. A request that was handed over can still
 * owe what was promised for later; a declined one owes nothing.
 */
export function dueOf<Id extends string>(
  requests: readonly { readonly id: Id; readonly request: Request }[],
): DueItem<Id>[] {
  const out: DueItem<Id>[] = [];
  for (const { id, request } of requests) {
    if (request.state === 'declined') continue;
    const same = { request: id, title: request.title, asker: request.asker };
    const open = request.state !== 'handed';
    if (open) out.push({ ...same, item: null, kind: 'work', day: request.due });
    if (open && request.release) out.push({ ...same, item: null, kind: 'release', day: request.release });
    request.items.forEach((item, index) => {
      // What is covered is due with its request, unless it has a day of its own.
      const own = item.kind === 'later' || (item.kind === 'covered' && item.due !== null && open);
      if (own && item.done === null)
        out.push({ ...same, item: { index, what: item.what }, kind: 'later', day: item.due });
    });
  }
  return out.sort((a, b) => (a.day ?? '9').localeCompare(b.day ?? '9') || a.title.localeCompare(b.title, 'en'));
}

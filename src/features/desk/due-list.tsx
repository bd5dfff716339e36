import { DUE_SPANS, dueOf, spanOf, type Day, type DueItem, type DueSpan } from '@/core/desk';
import type { RequestId } from '@/server/ids';
import type { KeptRequest } from '@/server/repositories/desk';
import { cn } from '@/ui/cn';
import { dayOr, dueWords } from './words';

const HEADS: Readonly<Record<DueSpan, string>> = {
  overdue: 'Overdue',
  'this week': 'This week',
  'next week': 'Next week',
  later: 'Later',
  'no day': 'Without a day',
};

/** What is due, week by week; the same list beside the board, on the shelf and as a calendar. */
export function DueList({
  requests,
  today,
  onOpen,
  spans = DUE_SPANS,
  long = false,
}: {
  readonly requests: readonly KeptRequest[];
  readonly today: Day;
  readonly onOpen: (id: RequestId) => void;
  readonly spans?: readonly DueSpan[];
  /** With room for who asked. */
  readonly long?: boolean;
}) {
  const due = dueOf(requests);
  const groups = spans.flatMap((span): [DueSpan, DueItem<RequestId>[]][] => {
    const items = due.filter((one) => spanOf(one.day, today) === span);
    return items.length > 0 ? [[span, items]] : [];
  });
  if (groups.length === 0) return <p className="text-soft">Nothing is due.</p>;
  return groups.map(([span, items]) => (
    <section key={span} aria-label={HEADS[span]} className="mb-4">
      <h3 className={cn('border-b border-rule pb-1 text-base', span === 'overdue' && 'text-trouble')}>{HEADS[span]}</h3>
      <ul>
        {items.map((one) => (
          <li key={`${one.request} ${one.kind} ${one.item?.index ?? ''}`}>
            <button
              type="button"
              className="flex w-full items-baseline gap-2 rounded-sm py-1 text-left hover:bg-chosen/40"
              onClick={() => onOpen(one.request)}
            >
              <span
                className={cn(
                  'w-24 shrink-0 text-sm text-soft',
                  long && 'w-32',
                  span === 'overdue' && 'font-semibold text-trouble',
                )}
              >
                {dayOr(one.day, today)}
              </span>
              <span className="min-w-0 text-[15px] leading-5">
                <b className="font-semibold">{one.title}</b>
                {dueWords(one) ? <span>: {dueWords(one)}</span> : null}
                {long && one.asker ? <span className="text-soft"> for {one.asker}</span> : null}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  ));
}

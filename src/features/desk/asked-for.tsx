import { Link } from '@/ui/link';
import { STATE_WORDS, type Day } from '@/core/desk';
import type { KeptRequest } from '@/server/repositories/desk';
import { askedWords, coverWords, dayOr } from './words';

/** The requests a piece was made for, each with the way to the desk. */
export function AskedFor({ requests, today }: { readonly requests: readonly KeptRequest[]; readonly today: Day }) {
  return (
    <section aria-label="Asked for">
      <h2 className="border-b border-rule pb-1 text-xl">Asked for</h2>
      {requests.length === 0 ? (
        <p className="pt-2 text-soft">
          Nobody asked for this piece, as far as the{' '}
          <Link href="/desk" className="underline underline-offset-4">
            desk
          </Link>{' '}
          knows.
        </p>
      ) : (
        <ul className="flex flex-col gap-3 pt-2">
          {requests.map(({ id, request }) => (
            <li key={id}>
              <Link href={`/desk?request=${id}`} className="font-semibold underline underline-offset-4">
                {askedWords(request) || request.title}
              </Link>
              <span className="text-soft">
                {' '}
                {STATE_WORDS[request.state].toLowerCase()}, due {dayOr(request.due, today)}
              </span>
              <p className="text-[15px]">{coverWords(request)}</p>
              {request.audience ? <p className="text-[15px] text-soft">{request.audience}</p> : null}
              {request.note ? <p className="text-[15px] text-soft">{request.note}</p> : null}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

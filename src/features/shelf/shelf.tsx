'use client';

import { counted } from '@/core/base';
import { Link } from '@/ui/link';
import { useRouter } from 'next/navigation';
import { Copy, Plus, Search, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState, useTransition } from 'react';
import { dueOf, spanOf, type Day, type DueSpan } from '@/core/desk';
import { DueList } from '@/features/desk/due-list';
import { useStudio } from '@/features/studio/studio';
import type { KeptRequest } from '@/server/repositories/desk';
import { Button } from '@/ui/button';
import { ThemeSwitch } from '@/ui/theme-switch';
import { useToast } from '@/ui/toast';
import type { ShelfEntry, ShelfPage, ShelfSort } from '@/server/repositories/pieces';
import { deleteAction, duplicateAction, listAction } from './actions';
import { NewPiece } from './new-piece';
import { DropAnywhere } from './drop-anywhere';

const when = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
});

/** What the shelf shows of what is due. */
const SOON: readonly DueSpan[] = ['overdue', 'this week', 'next week'];

/** The studio's pieces, those last worked on first, as many as were asked for; the database finds and sorts them. */
export function Shelf({
  initial,
  requests,
  today,
}: {
  readonly initial: ShelfPage;
  readonly requests: readonly KeptRequest[];
  readonly today: Day;
}) {
  const router = useRouter();
  const toast = useToast();
  const [{ entries, total }, setPage] = useState(initial);
  const studio = useStudio().studio?.name;
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<ShelfSort>('work');
  const [creating, setCreating] = useState(false);
  const [, begin] = useTransition();
  const asked = useRef('');

  /** Loads anew, or what follows on what is shown; an answer to what is not asked any more is dropped. */
  const load = async (words: string, by: ShelfSort, from = 0): Promise<void> => {
    const question = `${by} ${words}`;
    asked.current = question;
    const found = await listAction({ search: words, sort: by, from });
    if (asked.current !== question) return;
    setPage((before) => {
      if (from === 0) return found;
      const known = new Set(before.entries.map((entry) => entry.id));
      return { total: found.total, entries: [...before.entries, ...found.entries.filter(({ id }) => !known.has(id))] };
    });
  };

  useEffect(() => {
    if (search === '' && sort === 'work' && asked.current === '') return;
    const timer = setTimeout(() => void load(search, sort), 150);
    return () => clearTimeout(timer);
  }, [search, sort]);

  const owed = dueOf(requests).some((one) => SOON.includes(spanOf(one.day, today)));

  const remove = (entry: ShelfEntry): void => {
    begin(async () => {
      await deleteAction(entry.id, true);
      await load(search, sort);
      toast(`“${entry.title}” is off the shelf.`, {
        label: 'Put it back',
        run: () =>
          begin(async () => {
            await deleteAction(entry.id, false);
            await load(search, sort);
          }),
      });
    });
  };

  return (
    <DropAnywhere className="mx-auto flex min-h-screen max-w-[1220px] flex-col px-8 py-7 max-md:px-4 max-md:py-4">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-2 border-b border-rule pb-5">
        <h1 className="text-3xl">Intonazione</h1>
        <p className="text-soft">{studio}</p>
        <div className="ml-auto flex flex-wrap items-center gap-x-4 gap-y-1 max-md:ml-0">
          <Link href="/desk" className="underline decoration-line underline-offset-4">
            Desk
          </Link>
          <Link href="/search" className="underline decoration-line underline-offset-4">
            Search
          </Link>
          <Link href="/rack" className="underline decoration-line underline-offset-4">
            The rack
          </Link>
          <Link href="/rack/tune" className="underline decoration-line underline-offset-4">
            Tune up
          </Link>
          <Link href="/settings" className="underline decoration-line underline-offset-4">
            Settings
          </Link>
          <Link href="/calls" className="underline decoration-line underline-offset-4">
            How to call notes
          </Link>
          <ThemeSwitch />
        </div>
      </header>
      <main>
        <div className="flex items-center gap-4 py-6 max-md:flex-wrap max-md:gap-2 max-md:py-4">
          <label className="relative flex-1 max-md:basis-full">
            <span className="sr-only">Search pieces</span>
            <Search size={18} aria-hidden className="absolute top-1/2 left-3 -translate-y-1/2 text-soft" />
            <input
              type="search"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
              placeholder="Title, instrument or tuning"
              className="min-h-11 w-full rounded-sm border border-line/70 bg-sheet pr-3 pl-10 placeholder:text-soft"
            />
          </label>
          <label className="flex items-center gap-2 text-[15px] text-soft">
            Sort
            <select
              value={sort}
              onChange={(event) => setSort(event.target.value === 'title' ? 'title' : 'work')}
              className="min-h-11 rounded-sm border border-line/70 bg-sheet px-2 text-ink"
            >
              <option value="work">by last work</option>
              <option value="title">by title</option>
            </select>
          </label>
          <Button tone="yours" className="min-h-11 px-4" onClick={() => setCreating(true)}>
            <Plus size={18} aria-hidden /> New piece
          </Button>
        </div>
        <div className="flex gap-8 max-[899px]:flex-col-reverse">
          <div className="min-w-0 flex-1">
            {entries.length === 0 ? (
              <p className="py-16 text-center text-lg text-soft">
                {search ? `Nothing on the shelf matches “${search}”.` : 'The shelf is empty. Begin with a new piece.'}
              </p>
            ) : (
              <ul className="divide-y divide-rule border-y border-rule bg-sheet">
                {entries.map((entry) => (
                  <li
                    key={entry.id}
                    className="group flex items-start gap-6 px-5 py-4 [contain-intrinsic-size:auto_72px] [content-visibility:auto] hover:bg-chosen/25 max-md:flex-wrap max-md:gap-x-3 max-md:gap-y-1 max-md:px-3"
                  >
                    <div className="w-64 shrink-0 max-md:w-full">
                      <Link
                        href={`/pieces/${entry.id}`}
                        className="font-display text-xl leading-tight font-semibold underline-offset-4 hover:underline"
                      >
                        {entry.title}
                      </Link>
                      <p className="mt-0.5 text-sm text-soft">
                        <time dateTime={entry.workedAt}>{when.format(new Date(entry.workedAt))}</time>
                      </p>
                    </div>
                    <ul className="flex-1 space-y-0.5 text-[15px]">
                      {entry.summary
                        .split('\n')
                        .filter(Boolean)
                        .map((line) => {
                          const [part, instrument, tuning, capo] = line.split(' · ');
                          return (
                            <li key={line} className="flex flex-wrap items-baseline gap-x-3">
                              <span className="font-semibold">{part}</span>
                              <span className="text-soft">{instrument}</span>
                              <span className="font-figures">{tuning}</span>
                              {capo ? <span>{capo}</span> : null}
                            </li>
                          );
                        })}
                      {entry.summary === '' ? <li className="text-soft">No part yet</li> : null}
                    </ul>
                    <div className="flex gap-1">
                      <Button
                        tone="quiet"
                        size="icon"
                        aria-label={`Duplicate ${entry.title}`}
                        onClick={() =>
                          begin(async () => {
                            const made = await duplicateAction(entry.id);
                            if (made.ok) router.push(made.path);
                          })
                        }
                      >
                        <Copy size={18} aria-hidden />
                      </Button>
                      <Button
                        tone="quiet"
                        size="icon"
                        aria-label={`Delete ${entry.title}`}
                        onClick={() => remove(entry)}
                      >
                        <Trash2 size={18} aria-hidden />
                      </Button>
                    </div>
                  </li>
                ))}
              </ul>
            )}
            {entries.length < total ? (
              <p className="flex items-center justify-center gap-4 py-5 text-soft" role="status">
                {entries.length} of {counted(total, 'piece')}
                <Button onClick={() => begin(() => load(search, sort, entries.length))}>Show more</Button>
              </p>
            ) : null}
          </div>
          {owed ? (
            <aside aria-label="Due" className="w-72 shrink-0 max-[899px]:w-auto">
              <h2 className="mb-2 text-lg">
                <Link href="/desk" className="underline-offset-4 hover:underline">
                  Due
                </Link>
              </h2>
              <DueList {...{ requests, today }} spans={SOON} onOpen={(id) => router.push(`/desk?request=${id}`)} />
            </aside>
          ) : null}
        </div>
      </main>
      <footer className="mt-auto pt-10 text-sm text-soft">
        Recordings and transcriptions may be protected: sharing them follows local law and licences.
      </footer>
      <NewPiece open={creating} onOpenChange={setCreating} />
    </DropAnywhere>
  );
}

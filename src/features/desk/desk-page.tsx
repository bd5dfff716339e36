'use client';

import { Link } from '@/ui/link';
import { useRouter } from 'next/navigation';
import { Plus } from 'lucide-react';
import { useState, useTransition } from 'react';
import { finding, type Finding } from '@/core/base';
import { dayWords, newRequest, type Day, type RequestState } from '@/core/desk';
import type { Desk } from '@/server/desk';
import type { RequestId, SeriesId } from '@/server/ids';
import type { KeptRequest, KeptSeries } from '@/server/repositories/desk';
import { LineField } from '@/features/form/line-field';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { useToast } from '@/ui/toast';
import {
  deleteRequestAction,
  deleteSeriesAction,
  deskAction,
  keepRequestAction,
  keepSeriesAction,
  makeRequestedAction,
} from './actions';
import { Board } from './board';
import { DueList } from './due-list';
import { DeskFrame } from './frame';
import { RequestForm, type RequestDraft } from './request-form';

const FAILED: Finding = finding(
  'no-answer',
  'error',
  'The server did not answer: nothing was saved. Try again in a moment.',
);

/** Who asked for what, what was promised, and what is due. */
export function DeskPage({
  initial,
  today,
  open = null,
}: {
  readonly initial: Desk;
  readonly today: Day;
  /** A request that is opened at once. */
  readonly open?: string | null;
}) {
  const router = useRouter();
  const toast = useToast();
  const [desk, setDesk] = useState(initial);
  const [series, setSeries] = useState('');
  const [view, setView] = useState<'board' | 'days'>('board');
  const [opened, setOpened] = useState<RequestId | 'new' | null>(
    () => initial.requests.find(({ id }) => id === open)?.id ?? null,
  );
  const [fault, setFault] = useState<Finding | null>(null);
  const [busy, begin] = useTransition();
  const kept = desk.requests.find(({ id }) => id === opened) ?? null;
  const shown = series === '' ? desk.requests : desk.requests.filter((one) => one.series === series);

  const planned = desk.series.find(({ id }) => id === series) ?? null;

  /** Does something on the server; what can't be done is said where it was asked for, or in passing. */
  const run = (work: () => Promise<Finding | null>, said: (fault: Finding) => void): void =>
    begin(async () => {
      const wrong = await work().catch(() => FAILED);
      if (wrong) said(wrong);
      else setDesk(await deskAction());
    });
  const edit = (id: RequestId | 'new' | null): void => {
    setFault(null);
    setOpened(id);
  };
  /** Keeps what was typed; gives the request as it is kept, or what is wrong with it. */
  const keep = async ({ request, series: chosen, newSeries }: RequestDraft): Promise<KeptRequest | Finding> => {
    let own: SeriesId | null = chosen;
    if (newSeries) {
      const made = await keepSeriesAction(null, { name: newSeries, note: '' });
      if (!made.ok) return made.error;
      own = made.value;
    }
    const done = await keepRequestAction(kept?.id ?? null, kept?.revision ?? 0, {
      ...{ request: { ...request, items: [...request.items] }, series: own, piece: kept?.piece?.id ?? null },
    });
    return done.ok ? done.value : done.error;
  };
  const move = (one: KeptRequest, state: RequestState): void => {
    setDesk((now) => ({
      ...now,
      requests: now.requests.map((each) =>
        each.id === one.id ? { ...each, request: { ...each.request, state } } : each,
      ),
    }));
    run(
      async () => {
        const done = await keepRequestAction(one.id, one.revision, {
          request: { ...one.request, items: [...one.request.items], state },
          series: one.series,
          piece: one.piece?.id ?? null,
        });
        return done.ok ? null : done.error;
      },
      ({ words }) => {
        toast(words);
        void deskAction().then(setDesk);
      },
    );
  };

  return (
    <DeskFrame
      at="/desk"
      title="Desk"
      lead="Who asked for what, what was promised, and what is due."
      aside={
        <DeskControls
          list={desk.series}
          {...{ series, view }}
          onSeries={setSeries}
          onView={setView}
          onNew={() => edit('new')}
        />
      }
    >
      {planned ? (
        <SeriesLine
          key={planned.id}
          series={planned}
          onNote={(note) =>
            run(
              async () => {
                const done = await keepSeriesAction(planned.id, { name: planned.name, note });
                return done.ok ? null : done.error;
              },
              ({ words }) => toast(words),
            )
          }
          onDelete={() => {
            setSeries('');
            run(
              async () => {
                await deleteSeriesAction(planned.id);
                toast(`The series “${planned.name}” is deleted; its requests stay.`);
                return null;
              },
              ({ words }) => toast(words),
            );
          }}
        />
      ) : null}
      {desk.requests.length === 0 ? (
        <p className="py-16 text-center text-lg text-soft">
          Nobody has asked for anything yet. Note the first request: who asked, for which piece, and by when.
        </p>
      ) : view === 'board' ? (
        <div className="grid grid-cols-[17rem_1fr] gap-8 max-[899px]:grid-cols-1">
          <div>
            <h2 className="mb-2 text-lg">Due</h2>
            <DueList requests={shown} today={today} onOpen={edit} />
          </div>
          <Board requests={shown} today={today} onOpen={edit} onMove={move} />
        </div>
      ) : (
        <div className="grid grid-cols-2 gap-10 max-[899px]:grid-cols-1">
          <div>
            <DueList requests={shown} today={today} onOpen={edit} long />
          </div>
          <HandedList handed={desk.handed} today={today} />
        </div>
      )}
      <Dialog
        wide
        open={opened !== null}
        onOpenChange={(now) => {
          if (!now) edit(null);
        }}
        title={kept ? kept.request.title : 'A new request'}
      >
        {opened !== null ? (
          <RequestForm
            key={`${opened} ${kept?.revision ?? 0}`}
            {...{ kept, today, busy, fault }}
            start={kept?.request ?? newRequest(today)}
            series={desk.series}
            onKeep={(draft) =>
              run(async () => {
                const done = await keep(draft);
                if ('rule' in done) return done;
                edit(null);
                return null;
              }, setFault)
            }
            onMake={(draft) =>
              run(async () => {
                const done = await keep(draft);
                if ('rule' in done) return done;
                // Kept it is in any case: what fails now doesn't make a second one.
                setOpened(done.id);
                const made = await makeRequestedAction(done.id);
                if (!made.ok) return made.error;
                if (made.value.piece) router.push(`/pieces/${made.value.piece.id}`);
                return null;
              }, setFault)
            }
            onDelete={() => {
              if (!kept) return;
              edit(null);
              run(
                async () => {
                  await deleteRequestAction(kept.id, true);
                  toast(`The request for “${kept.request.title}” is deleted.`, {
                    label: 'Bring it back',
                    run: () =>
                      run(
                        async () => {
                          await deleteRequestAction(kept.id, false);
                          return null;
                        },
                        ({ words }) => toast(words),
                      ),
                  });
                  return null;
                },
                ({ words }) => toast(words),
              );
            }}
          />
        ) : null}
      </Dialog>
    </DeskFrame>
  );
}

/** What was handed to whom, the last first. */
function HandedList({ handed, today }: { readonly handed: Desk['handed']; readonly today: Day }) {
  return (
    <section aria-label="Handed over">
      <h3 className="border-b border-rule pb-1 text-base">Handed over</h3>
      {handed.length === 0 ? <p className="pt-2 text-soft">Nothing yet: note it under “About” of a piece.</p> : null}
      <ul>
        {handed.map((one) => (
          <li key={one.id} className="flex items-baseline gap-2 py-1">
            <span className="w-32 shrink-0 text-sm text-soft">{dayWords(one.on, today)}</span>
            <span className="text-[15px]">
              <Link
                href={`/pieces/${one.piece}/about`}
                prefetch={false}
                className="font-semibold underline underline-offset-4"
              >
                {one.title}
              </Link>
              : {one.what} to {one.to}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is said of the series that is looked at. */
function SeriesLine({
  series,
  onNote,
  onDelete,
}: {
  readonly series: KeptSeries;
  readonly onNote: (note: string) => void;
  readonly onDelete: () => void;
}) {
  return (
    <div className="flex flex-wrap items-end gap-3 pb-4">
      <div className="min-w-64 flex-1">
        <LineField
          label={`About the series “${series.name}”`}
          value={series.note}
          onTake={(note) => {
            onNote(note.slice(0, 600));
            return { ok: true, value: null };
          }}
        />
      </div>
      <Button tone="quiet" onClick={onDelete}>
        Delete the series
      </Button>
    </div>
  );
}

/** Which series is looked at, how, and a new request. */
function DeskControls({
  list,
  series,
  view,
  onSeries,
  onView,
  onNew,
}: {
  readonly list: readonly KeptSeries[];
  readonly series: string;
  readonly view: 'board' | 'days';
  readonly onSeries: (id: string) => void;
  readonly onView: (view: 'board' | 'days') => void;
  readonly onNew: () => void;
}) {
  return (
    <>
      {list.length > 0 ? (
        <label className="flex items-center gap-2 text-[15px] text-soft">
          Series
          <select
            value={series}
            onChange={(event) => onSeries(event.target.value)}
            className="min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-ink"
          >
            <option value="">all</option>
            {list.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      ) : null}
      <div role="group" aria-label="View" className="flex gap-1">
        <Button
          tone={view === 'board' ? 'plain' : 'quiet'}
          aria-pressed={view === 'board'}
          onClick={() => onView('board')}
        >
          Board
        </Button>
        <Button
          tone={view === 'days' ? 'plain' : 'quiet'}
          aria-pressed={view === 'days'}
          onClick={() => onView('days')}
        >
          By day
        </Button>
      </div>
      <Button tone="yours" onClick={() => onNew()}>
        <Plus size={18} aria-hidden /> Request
      </Button>
    </>
  );
}

import { useRef, type KeyboardEvent } from 'react';
import { dayWords, REQUEST_STATES, STATE_WORDS, type Day, type RequestState } from '@/core/desk';
import type { RequestId } from '@/server/ids';
import type { KeptRequest } from '@/server/repositories/desk';
import { cn } from '@/ui/cn';
import { askedWords, coverWords } from './words';

/** The media type a card is dragged by. */
const CARD = 'application/x-intonazione-request';
const COLUMNS: readonly RequestState[] = ['asked', 'accepted', 'working', 'ready'];

/**
 * Requests by how far they have come. A card is opened by Enter, chosen by the arrow keys, and moved to another column
 * by Alt with the arrow keys or by dragging it.
 */
export function Board({
  requests,
  today,
  onOpen,
  onMove,
}: {
  readonly requests: readonly KeptRequest[];
  readonly today: Day;
  readonly onOpen: (id: RequestId) => void;
  readonly onMove: (one: KeptRequest, state: RequestState) => void;
}) {
  const board = useRef<HTMLDivElement>(null);
  const columns = COLUMNS.map((state) => requests.filter((one) => one.request.state === state));
  const ended = requests.filter((one) => one.request.state === 'handed' || one.request.state === 'declined');
  const focus = (id: string): void =>
    // After the card stands in its new column.
    void requestAnimationFrame(() => board.current?.querySelector<HTMLElement>(`[data-card="${id}"]`)?.focus());
  const keys = (event: KeyboardEvent, column: number, row: number): void => {
    const one = columns[column]?.[row];
    if (!one) return;
    const aside = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (event.altKey && aside !== 0) {
      event.preventDefault();
      const state = REQUEST_STATES[column + aside];
      if (!state) return;
      onMove(one, state);
      focus(one.id);
      return;
    }
    const next =
      event.key === 'ArrowDown'
        ? columns[column]?.[row + 1]
        : event.key === 'ArrowUp'
          ? columns[column]?.[row - 1]
          : aside === 0
            ? undefined
            : columns
                .filter((list, i) => list.length > 0 && (aside < 0 ? i < column : i > column))
                .at(aside < 0 ? -1 : 0)?.[0];
    if (!next) return;
    event.preventDefault();
    focus(next.id);
  };
  return (
    <div ref={board}>
      <p className="sr-only" id="board-keys">
        Arrow keys go from card to card, Alt with left or right moves a card, Enter opens it.
      </p>
      <div className="grid grid-cols-4 gap-4 max-[899px]:grid-cols-1">
        {COLUMNS.map((state, column) => (
          <section
            key={state}
            aria-label={STATE_WORDS[state]}
            onDragOver={(event) => {
              if (event.dataTransfer.types.includes(CARD)) event.preventDefault();
            }}
            onDrop={(event) => {
              const one = requests.find(({ id }) => id === event.dataTransfer.getData(CARD));
              if (one && one.request.state !== state) onMove(one, state);
            }}
          >
            <h2 className="border-b-2 border-ink pb-1 text-lg">
              {STATE_WORDS[state]} <span className="text-soft">{columns[column]?.length ?? 0}</span>
            </h2>
            <ul className="mt-2 flex min-h-16 flex-col gap-2" aria-describedby="board-keys">
              {columns[column]?.map((one, row) => (
                <li key={one.id}>
                  <Card {...{ one, today, onOpen }} onKeyDown={(event) => keys(event, column, row)} />
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      {ended.length > 0 ? (
        <details className="mt-6">
          <summary className="cursor-pointer font-semibold text-soft">{ended.length} handed over or declined</summary>
          <ul className="mt-2 grid grid-cols-4 gap-2 max-[899px]:grid-cols-1">
            {ended.map((one) => (
              <li key={one.id}>
                <Card {...{ one, today, onOpen }} />
              </li>
            ))}
          </ul>
        </details>
      ) : null}
    </div>
  );
}

function Card({
  one: { id, request, piece },
  today,
  onOpen,
  onKeyDown,
}: {
  readonly one: KeptRequest;
  readonly today: Day;
  readonly onOpen: (id: RequestId) => void;
  readonly onKeyDown?: (event: KeyboardEvent) => void;
}) {
  const late = request.due !== null && request.due < today && request.state !== 'handed';
  const cover = coverWords(request);
  return (
    <button
      type="button"
      data-card={id}
      draggable={onKeyDown !== undefined}
      onDragStart={(event) => event.dataTransfer.setData(CARD, id)}
      onClick={() => onOpen(id)}
      {...{ onKeyDown }}
      className="w-full rounded-sm border border-line/60 bg-sheet px-3 py-2 text-left hover:border-ink"
    >
      <span className="block font-display text-lg leading-6 font-semibold">{request.title}</span>
      <span className="block text-[15px] text-soft">{askedWords(request)}</span>
      {cover ? <span className="mt-1 block text-[15px] leading-5">{cover}</span> : null}
      <span className="mt-1 flex gap-3 text-sm">
        {request.due ? (
          <span className={cn(late ? 'font-semibold text-trouble' : 'text-soft')}>
            {late ? 'was due ' : 'due '}
            {dayWords(request.due, today)}
          </span>
        ) : null}
        {request.state === 'declined' ? <span className="text-soft">declined</span> : null}
        {piece ? <span className="text-proposed">on the shelf</span> : null}
      </span>
    </button>
  );
}

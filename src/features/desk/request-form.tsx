import { Link } from '@/ui/link';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import {
  REQUEST_STATES,
  STATE_WORDS,
  VERSION_WORDS,
  VERSIONS,
  type Day,
  type Request,
  type RequestItem,
  type Version,
} from '@/core/desk';
import type { Finding } from '@/core/base';
import type { SeriesId } from '@/server/ids';
import type { KeptRequest, KeptSeries } from '@/server/repositories/desk';
import { Button } from '@/ui/button';
import { SelectField, TextField } from '@/ui/field';

const KINDS: Readonly<Record<RequestItem['kind'], string>> = {
  covered: 'covered',
  leftOut: 'left out',
  later: 'promised for later',
};
const LEVELS = { recorded: 'as recorded', live: 'as played live', teaching: 'for teaching', starter: 'for a start' };
const box = 'min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px] text-ink';

export interface RequestDraft {
  readonly request: Request;
  readonly series: SeriesId | null;
  /** The name of a series that is begun with it. */
  readonly newSeries: string;
}

/** Everything that was said when somebody asked, and what was promised. */
export function RequestForm({
  kept,
  start,
  series,
  today,
  busy,
  fault,
  onKeep,
  onMake,
  onDelete,
}: {
  readonly kept: KeptRequest | null;
  readonly start: Request;
  readonly series: readonly KeptSeries[];
  readonly today: Day;
  readonly busy: boolean;
  readonly fault: Finding | null;
  readonly onKeep: (draft: RequestDraft) => void;
  readonly onMake: (draft: RequestDraft) => void;
  readonly onDelete: () => void;
}) {
  const [request, setRequest] = useState(start);
  const [inSeries, setInSeries] = useState<string>(kept?.series ?? '');
  const [newSeries, setNewSeries] = useState('');
  const set = (over: Partial<Request>): void => setRequest((now) => ({ ...now, ...over }));
  const draft = (): RequestDraft => ({
    request: { ...request, items: request.items.filter((item) => item.what.trim() !== '') },
    series: inSeries === '' || inSeries === 'new' ? null : (inSeries as SeriesId),
    newSeries: inSeries === 'new' ? newSeries.trim() : '',
  });
  const at = fault?.locus.path?.join('.') ?? '';
  const error = (path: string): string | null => (fault && at.endsWith(path) ? fault.words : null);
  const known = ['title', 'due', 'release', 'asked'].some((path) => at.endsWith(path));
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        onKeep(draft());
      }}
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-3 max-[599px]:grid-cols-1">
        <TextField
          label="Piece asked for"
          value={request.title}
          maxLength={160}
          error={error('title')}
          onChange={(event) => set({ title: event.target.value })}
        />
        <TextField
          label="Who asked"
          value={request.asker}
          maxLength={120}
          onChange={(event) => set({ asker: event.target.value })}
        />
        <SelectField
          label="Version"
          value={request.version ?? ''}
          onChange={(event) => set({ version: (event.target.value || null) as Version | null })}
        >
          <option value="">not said</option>
          {VERSIONS.map((version) => (
            <option key={version} value={version}>
              {VERSION_WORDS[version]}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Level"
          value={request.level ?? ''}
          onChange={(event) => set({ level: (event.target.value || null) as Request['level'] })}
        >
          <option value="">not said</option>
          {Object.entries(LEVELS).map(([level, words]) => (
            <option key={level} value={level}>
              {words}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Asked on"
          type="date"
          required
          value={request.asked}
          error={error('asked')}
          onChange={(event) => set({ asked: event.target.value })}
        />
        <TextField
          label="Due"
          type="date"
          value={request.due ?? ''}
          error={error('due')}
          onChange={(event) => set({ due: event.target.value || null })}
        />
        <SelectField
          label="State"
          value={request.state}
          onChange={(event) => set({ state: event.target.value as Request['state'] })}
        >
          {REQUEST_STATES.map((state) => (
            <option key={state} value={state}>
              {STATE_WORDS[state]}
            </option>
          ))}
        </SelectField>
        <SelectField label="Series" value={inSeries} onChange={(event) => setInSeries(event.target.value)}>
          <option value="">none</option>
          {series.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          <option value="new">a new one…</option>
        </SelectField>
        {inSeries === 'new' ? (
          <TextField
            label="Name of the new series"
            value={newSeries}
            maxLength={120}
            onChange={(event) => setNewSeries(event.target.value)}
          />
        ) : null}
        {inSeries === '' ? null : (
          <TextField
            label="Comes out"
            type="date"
            value={request.release ?? ''}
            error={error('release')}
            onChange={(event) => set({ release: event.target.value || null })}
          />
        )}
      </div>
      <Items items={request.items} today={today} onItems={(items) => set({ items })} />
      <div className="grid grid-cols-2 gap-x-4 gap-y-3 max-[599px]:grid-cols-1">
        <TextField
          label="Credit"
          hint="Stands under every sheet of the piece."
          value={request.credit}
          maxLength={300}
          onChange={(event) => set({ credit: event.target.value })}
        />
        <TextField
          label="Who it is for, and which words suit them"
          value={request.audience}
          maxLength={600}
          onChange={(event) => set({ audience: event.target.value })}
        />
      </div>
      <label className="flex flex-col gap-1">
        <span className="text-sm font-semibold text-soft">Note</span>
        <textarea
          rows={2}
          value={request.note}
          maxLength={2000}
          className={`${box} py-1.5`}
          onChange={(event) => set({ note: event.target.value })}
        />
      </label>
      {fault && !known ? (
        <p role="alert" className="text-sm font-semibold text-trouble">
          {fault.words}
        </p>
      ) : null}
      <div className="flex flex-wrap gap-3">
        <Button tone="yours" type="submit" disabled={busy}>
          Save
        </Button>
        {kept?.piece ? (
          <Link
            href={`/pieces/${kept.piece.id}`}
            className="inline-flex min-h-9 items-center rounded-sm border border-rule bg-sheet px-3 text-[15px] font-semibold hover:border-line"
          >
            Open “{kept.piece.title}”
          </Link>
        ) : (
          <Button disabled={busy} onClick={() => onMake(draft())}>
            Make the piece
          </Button>
        )}
        {kept ? (
          <Button tone="quiet" className="ml-auto" disabled={busy} onClick={onDelete}>
            Delete
          </Button>
        ) : null}
      </div>
    </form>
  );
}

/** What is covered, left out and promised for later, a line each. */
function Items({
  items,
  today,
  onItems,
}: {
  readonly items: readonly RequestItem[];
  readonly today: Day;
  readonly onItems: (items: readonly RequestItem[]) => void;
}) {
  const put = (index: number, over: Partial<RequestItem>): void =>
    onItems(items.map((item, i) => (i === index ? { ...item, ...over } : item)));
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="mb-1 text-sm font-semibold text-soft">Covered, left out, promised for later</legend>
      {items.map((item, i) => (
        <div key={i} className="flex flex-wrap items-center gap-2">
          <select
            aria-label={`Item ${i + 1}: covered or not`}
            className={box}
            value={item.kind}
            onChange={(event) => put(i, { kind: event.target.value as RequestItem['kind'] })}
          >
            {Object.entries(KINDS).map(([kind, words]) => (
              <option key={kind} value={kind}>
                {words}
              </option>
            ))}
          </select>
          <input
            aria-label={`Item ${i + 1}: what`}
            className={`${box} min-w-40 flex-1`}
            value={item.what}
            maxLength={200}
            onChange={(event) => put(i, { what: event.target.value })}
          />
          {item.kind === 'leftOut' ? null : (
            <>
              <input
                type="date"
                aria-label={`Item ${i + 1}: due`}
                className={box}
                value={item.due ?? ''}
                onChange={(event) => put(i, { due: event.target.value || null })}
              />
              <label className="flex items-center gap-1.5 text-[15px]">
                <input
                  type="checkbox"
                  checked={item.done !== null}
                  onChange={(event) => put(i, { done: event.target.checked ? today : null })}
                />
                done
              </label>
            </>
          )}
          <Button
            tone="quiet"
            size="icon"
            aria-label={`Delete item ${i + 1}`}
            onClick={() => onItems(items.filter((_, other) => other !== i))}
          >
            <X size={16} aria-hidden />
          </Button>
        </div>
      ))}
      <Button
        className="self-start"
        size="small"
        onClick={() =>
          onItems([...items, { kind: items.length === 0 ? 'covered' : 'later', what: '', due: null, done: null }])
        }
      >
        <Plus size={16} aria-hidden /> Item
      </Button>
    </fieldset>
  );
}

import { X } from 'lucide-react';
import { useState, useTransition } from 'react';
import { dayWords, type Day } from '@/core/desk';
import { usePiece } from '@/features/piece/provider';
import type { HandoutId, PieceId } from '@/server/ids';
import type { KeptHandout } from '@/server/repositories/desk';
import { Button } from '@/ui/button';
import { TextField } from '@/ui/field';
import { handOverAction, takeBackHandoutAction } from './actions';

/** What of the piece was handed to whom, and when. */
export function Handouts({ initial, today }: { readonly initial: readonly KeptHandout[]; readonly today: Day }) {
  const id = usePiece((state) => state.document.id);
  const [list, setList] = useState(initial);
  const [draft, setDraft] = useState({ to: '', what: 'the sheet', on: today });
  const [fault, setFault] = useState<{ readonly at: string; readonly words: string } | null>(null);
  const [busy, begin] = useTransition();
  const set = (over: Partial<typeof draft>): void => setDraft((now) => ({ ...now, ...over }));
  const error = (at: string): string | null => (fault?.at === at ? fault.words : null);
  return (
    <section aria-label="Handed over" className="flex flex-col gap-2">
      <h2 className="border-b border-rule pb-1 text-xl">Handed over</h2>
      <ul>
        {list.map((one) => (
          <li key={one.id} className="flex items-center gap-2">
            <span className="w-28 shrink-0 text-sm text-soft">{dayWords(one.on, today)}</span>
            <span className="min-w-0 flex-1">
              {one.what} to <b>{one.to}</b>
            </span>
            <Button
              tone="quiet"
              size="icon"
              aria-label={`Delete: ${one.what} to ${one.to}`}
              onClick={() =>
                begin(async () => {
                  await takeBackHandoutAction(one.id as HandoutId);
                  setList((now) => now.filter((each) => each.id !== one.id));
                })
              }
            >
              <X size={16} aria-hidden />
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-start gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          begin(async () => {
            const made = await handOverAction(id as PieceId, draft);
            if (made.ok) {
              setList(made.value);
              set({ to: '' });
            }
            const at = made.ok ? '' : String(made.error.locus.path?.[0] ?? 'to');
            setFault(made.ok ? null : { at, words: made.error.words });
          });
        }}
      >
        <TextField
          label="What"
          value={draft.what}
          error={error('what')}
          onChange={(e) => set({ what: e.target.value })}
        />
        <TextField label="To whom" value={draft.to} error={error('to')} onChange={(e) => set({ to: e.target.value })} />
        <TextField
          label="On"
          type="date"
          value={draft.on}
          error={error('on')}
          onChange={(e) => set({ on: e.target.value })}
        />
        <Button type="submit" disabled={busy} className="mt-6">
          Note it
        </Button>
      </form>
    </section>
  );
}

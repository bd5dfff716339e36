import { useState, useTransition } from 'react';
import { usePiece } from '@/features/piece/provider';
import type { PieceId } from '@/server/ids';
import type { HistoryLine } from '@/server/repositories/history';
import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';
import { historyLinesAction } from './actions';
import { PastDialog } from './past-dialog';

const when = new Intl.DateTimeFormat('en-GB', {
  ...{ day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', timeZone: 'UTC' },
});
/** How a line reads where it is not simply what somebody did. */
const KIND: Readonly<Record<HistoryLine['kind'], string>> = {
  do: '',
  follow: 'the program: ',
  undo: 'undone: ',
  redo: 'made again: ',
};

/** How the piece came about, in words; any earlier state can be looked at and brought back. */
export function HistoryList({ initial }: { readonly initial: readonly HistoryLine[] }) {
  const id = usePiece((state) => state.document.id);
  const toast = useToast();
  const [lines, setLines] = useState(initial);
  const [whole, setWhole] = useState(false);
  const [past, setPast] = useState<HistoryLine | null>(null);
  const [busy, begin] = useTransition();
  const oldest = lines.at(-1);
  // What the program did on its own stands with the step it followed, unless all is asked for.
  const shown = whole ? lines : lines.filter((line) => line.kind !== 'follow');
  return (
    <section aria-label="History">
      <div className="flex items-baseline gap-4 border-b border-rule pb-1">
        <h2 className="text-xl">History</h2>
        <label className="ml-auto flex items-center gap-1.5 text-[15px] text-soft">
          <input type="checkbox" checked={whole} onChange={(event) => setWhole(event.target.checked)} />
          also what the program did
        </label>
      </div>
      {lines.length === 0 ? <p className="pt-2 text-soft">Nothing was changed since the piece was made.</p> : null}
      <ol>
        {shown.map((line) => (
          <li key={line.revision} className="group flex items-baseline gap-3 border-b border-rule/60 py-1">
            <time dateTime={line.madeAt} className="w-28 shrink-0 text-sm text-soft">
              {when.format(new Date(line.madeAt))}
            </time>
            <span className="min-w-0 flex-1 text-[15px]">
              {KIND[line.kind]}
              {line.what}
            </span>
            {line.kept ? (
              <Button
                tone="word"
                size="small"
                onClick={() => setPast(line)}
                aria-label={`See the piece as it was after: ${line.what}`}
              >
                see
              </Button>
            ) : null}
          </li>
        ))}
      </ol>
      {oldest && oldest.revision > 1 ? (
        <Button
          className="mt-3"
          disabled={busy}
          onClick={() =>
            begin(async () => {
              const more = await historyLinesAction(id as PieceId, oldest.revision).catch(() => null);
              if (more === null) toast('The server did not answer. Try again in a moment.');
              else setLines((now) => [...now, ...more]);
            })
          }
        >
          Show more
        </Button>
      ) : null}
      {past ? <PastDialog line={past} when={when.format(new Date(past.madeAt))} onClose={() => setPast(null)} /> : null}
    </section>
  );
}

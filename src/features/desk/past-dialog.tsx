import { useRouter } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import { fail, type Result } from '@/core/base';
import { withSomeForm } from '@/core/command';
import { usePiece } from '@/features/piece/provider';
import { PieceSheet } from '@/features/teach/piece-sheet';
import type { PieceId } from '@/server/ids';
import type { PastPiece } from '@/server/pieces';
import type { HistoryLine } from '@/server/repositories/history';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { useToast } from '@/ui/toast';
import { copyPastAction, pastPieceAction } from './actions';

const NO_ANSWER = 'The server did not answer. Close this and try again.';

/** The piece as it was, to be looked at, brought back, or kept as a piece of its own. */
export function PastDialog({
  line,
  when,
  onClose,
}: {
  readonly line: HistoryLine;
  readonly when: string;
  readonly onClose: () => void;
}) {
  const router = useRouter();
  const toast = useToast();
  const id = usePiece((state) => state.document.id);
  const flush = usePiece((state) => state.flush);
  const dispatch = usePiece((state) => state.dispatch);
  const [past, setPast] = useState<Result<PastPiece> | null>(null);
  const [busy, begin] = useTransition();
  useEffect(() => {
    void (async () => {
      // What is typed but not sent belongs to what leads back.
      await flush();
      setPast(await pastPieceAction(id as PieceId, line.revision).catch(() => fail('no-answer', NO_ANSWER, {})));
    })();
  }, [id, line.revision, flush]);
  const bringBack = (): void => {
    if (!past?.ok) return;
    const what = `brought back the piece as of ${when}`;
    const done = dispatch({ type: 'batch', what, edits: [...past.value.back] }, what);
    if (!done.ok) toast(done.error.words);
    onClose();
  };
  const document = past?.ok ? withSomeForm(past.value.document) : null;
  return (
    <Dialog open wide onOpenChange={onClose} title={`As it was on ${when}`} description={`After: ${line.what}`}>
      {past === null ? <p className="text-soft">Going back…</p> : null}
      {past && !past.ok ? <p role="alert">{past.error.words}</p> : null}
      {past?.ok && document ? (
        <div className="flex flex-col gap-4">
          <div className="flex flex-wrap gap-3">
            <Button tone="yours" disabled={past.value.back.length === 0} onClick={bringBack}>
              Bring it back
            </Button>
            <Button
              disabled={busy}
              onClick={() =>
                begin(async () => {
                  const made = await copyPastAction(id as PieceId, line.revision);
                  if (made.ok) router.push(made.value);
                  else toast(made.error.words);
                })
              }
            >
              Make it a piece of its own
            </Button>
          </div>
          <div className="overflow-x-auto bg-white p-4 text-black">
            <PieceSheet
              piece={document}
              choice={{
                parts: document.parts.map((part) => part.id),
                ...{ sections: null, unfolded: false, staff: false, fingers: true, strokes: false },
                ...{ spoken: false, large: false, tones: true, together: false },
              }}
            />
          </div>
        </div>
      ) : null}
    </Dialog>
  );
}

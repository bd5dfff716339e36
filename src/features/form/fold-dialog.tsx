import { useMemo, useState } from 'react';
import { foldRiff } from '@/core/command';
import { counted, ok, type Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { blockWords, differenceWords, foldPlan, letterOf, moveWords, withoutBlocks, type FoldPlan } from '@/core/form';
import { barCount, keyOf, type Part, type Piece, type Riff } from '@/core/score';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { useSchools } from '@/ui/schools';

interface Props {
  readonly piece: Piece;
  readonly edit: (made: Result<Edit>) => Result<unknown>;
  readonly onClose: () => void;
  readonly onMade: (section: string) => void;
}

/** A long riff told as riffs and repeats: what comes again is offered piece by piece. */
export function FoldDialog({ piece, edit, onClose, onMade }: Props) {
  const long = useMemo(
    () =>
      piece.parts
        .flatMap((part) => part.riffs.map((riff) => ({ part, riff })))
        .filter(({ riff }) => barCount(riff) >= 2)
        .sort((a, b) => barCount(b.riff) - barCount(a.riff)),
    [piece],
  );
  const [id, setId] = useState(long[0]?.riff.id ?? '');
  const found = long.find((one) => one.riff.id === id);
  return (
    <Dialog
      open
      wide
      onOpenChange={(open) => (open ? undefined : onClose())}
      title="Fold a part"
      description="Stretches that come again are told once. Nothing sounds otherwise; one undo brings all of it back."
    >
      <label className="flex items-center gap-2">
        Riff
        <select
          className="min-h-9 rounded-sm border border-line/70 bg-sheet px-2"
          value={id}
          onChange={(event) => setId(event.target.value)}
        >
          {long.map(({ part, riff }) => (
            <option key={riff.id} value={riff.id}>
              {part.name} · {riff.name}, {counted(barCount(riff), 'bar')}
            </option>
          ))}
        </select>
      </label>
      {found ? (
        <Offer
          key={id}
          {...found}
          piece={piece}
          onFold={(plan) => {
            const made = foldRiff(piece, found.riff.id, plan);
            if (!edit(made.ok ? ok(made.value.edit) : made).ok || !made.ok) return;
            onMade(made.value.section);
            onClose();
          }}
        />
      ) : null}
    </Dialog>
  );
}

function Offer({
  piece,
  part,
  riff,
  onFold,
}: {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly onFold: (plan: FoldPlan) => void;
}) {
  const schools = useSchools();
  const plan = useMemo(() => foldPlan(riff, part.setup), [riff, part.setup]);
  const [refused, setRefused] = useState<ReadonlySet<number>>(new Set());
  if (!plan) return <p className="mt-4 text-soft">Nothing of it comes again, neither as it is nor moved.</p>;
  const words = { meters: riff.meters, key: keyOf(piece, riff), schools };
  let letters = 0;
  const named = plan.blocks.map((block) => (block.of === null ? letterOf(letters++) : ''));
  const used = withoutBlocks(plan, refused);
  const riffs = used.blocks.filter((block) => block.of === null).length;
  return (
    <>
      <ol className="mt-4 flex max-h-[45vh] flex-col gap-1 overflow-y-auto" aria-label="Stretches">
        {plan.blocks.map((block, i) => (
          <li key={block.bar} className="rounded-sm border border-rule bg-sheet px-3 py-1.5">
            {block.of === null ? (
              <p>
                <b>{named[i]}</b> {blockWords(plan, i, moveWords)}
              </p>
            ) : (
              <label className="flex items-start gap-2">
                <input
                  type="checkbox"
                  className="mt-1"
                  checked={!refused.has(i)}
                  onChange={(event) => {
                    const next = new Set(refused);
                    if (event.target.checked) next.delete(i);
                    else next.add(i);
                    setRefused(next);
                  }}
                />
                <span>
                  <b>{named[block.of]}</b> {blockWords(plan, i, moveWords)}
                  {block.differences.map((one) => (
                    <span key={`${one.at}${one.kind}`} className="block text-[15px] text-soft">
                      {differenceWords(one, words)}
                    </span>
                  ))}
                </span>
              </label>
            )}
          </li>
        ))}
      </ol>
      <div className="mt-4 flex items-center gap-3">
        <Button tone="yours" onClick={() => onFold(used)}>
          Fold into {riffs} {riffs === 1 ? 'riff' : 'riffs'}
        </Button>
        <p className="text-soft">A section “{riff.name}” plays them in order.</p>
      </div>
    </>
  );
}

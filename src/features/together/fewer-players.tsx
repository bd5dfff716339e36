import { counted } from '@/core/base';
import { useDeferredValue, useMemo, useState } from 'react';
import { lostBars, reduce, REDUCE_MOST, type TakenNote } from '@/core/arrange';
import type { Result } from '@/core/base';
import { reducedParts } from '@/core/command';
import type { Edit } from '@/core/edit';
import type { Line } from '@/core/form';
import { ADULT_HAND } from '@/core/hand';
import { keyOf, modelOf, type Piece } from '@/core/score';
import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';

const HOW: Readonly<Record<TakenNote['how'], string>> = {
  doubled: 'sound there already',
  free: 'while the hand is free',
  beside: 'beside what is played',
};

/** What fewer players could play: who plays on, what they take of the others, what is lost. */
export function FewerPlayers({
  piece,
  lines,
  edit,
}: {
  readonly piece: Piece;
  readonly lines: readonly Line[];
  readonly edit: (made: Result<Edit>) => boolean;
}) {
  const toast = useToast();
  const most = Math.min(REDUCE_MOST, lines.filter(({ part }) => !modelOf(piece, part)).length) - 1;
  const [players, setPlayers] = useState(Math.max(1, most));
  const [without, setWithout] = useState<ReadonlySet<string>>(
    () => new Set(lines.filter(({ part }) => modelOf(piece, part)).map(({ part }) => part.id)),
  );
  const looked = useMemo(() => lines.filter((line) => !without.has(line.part.id)), [lines, without]);
  const asked = useDeferredValue(players);
  const made = useMemo(() => reduce(looked, asked, (line) => line.part.player?.profile ?? ADULT_HAND), [looked, asked]);
  if (lines.length < 2) return <p className="text-soft">There is one part only: nobody is to be done without.</p>;
  const name = (id: string): string => piece.parts.find((part) => part.id === id)?.name ?? '?';
  const lost = lostBars(made, keyOf(piece, null));
  const groups = new Map<string, TakenNote[]>();
  for (const one of made.taken) {
    const id = `${one.by} ${one.part} ${one.how}`;
    groups.set(id, [...(groups.get(id) ?? []), one]);
  }
  return (
    <div className="grid grid-cols-2 gap-10 max-[899px]:grid-cols-1">
      <section aria-label="Who plays what" className="flex flex-col gap-3">
        <div className="flex flex-wrap items-center gap-3">
          <label className="flex items-center gap-2">
            Players
            <input
              type="number"
              min={1}
              max={Math.max(1, looked.length)}
              value={players}
              onChange={(event) =>
                setPlayers(Math.max(1, Math.min(lines.length, Math.round(Number(event.target.value)) || 1)))
              }
              className="min-h-9 w-16 rounded-sm border border-line/70 bg-sheet px-2 text-right font-figures"
            />
          </label>
          <fieldset className="flex flex-wrap gap-x-4">
            <legend className="sr-only">Parts looked at</legend>
            {lines.map(({ part }) => (
              <label key={part.id} className="flex items-center gap-1.5 text-[15px]">
                <input
                  type="checkbox"
                  checked={!without.has(part.id)}
                  onChange={(event) =>
                    setWithout((now) => {
                      const next = new Set(now);
                      if (event.target.checked) next.delete(part.id);
                      else next.add(part.id);
                      return next;
                    })
                  }
                />
                {part.name}
              </label>
            ))}
          </fieldset>
        </div>
        <p role="status" className="text-[17px]">
          <b>{new Intl.ListFormat('en').format(made.keep.map(name))}</b> {made.keep.length === 1 ? 'plays' : 'play'} on.{' '}
          {Math.round(100 * made.share)} % of what is heard is kept.
        </p>
        {groups.size > 0 ? (
          <ul className="flex flex-col gap-1">
            {[...groups.values()].map((notes) => {
              const [first] = notes as [TakenNote, ...TakenNote[]];
              return (
                <li key={`${first.by} ${first.part} ${first.how}`}>
                  {first.how === 'doubled'
                    ? `${counted(notes.length, 'note')} of ${name(first.part)} ${HOW.doubled} at ${name(first.by)}.`
                    : `${name(first.by)} takes ${counted(notes.length, 'note')} of ${name(first.part)} ${HOW[first.how]}.`}
                </li>
              );
            })}
          </ul>
        ) : null}
        <Button
          className="self-start"
          disabled={looked.length === 0}
          onClick={() => {
            if (edit(reducedParts(piece, made, (part) => `${part.name}, for ${made.keep.length}`.slice(0, 120))))
              toast('The parts for fewer players stand behind the others, each as one riff.');
          }}
        >
          Write it out as parts
        </Button>
        <p className="text-sm text-soft">
          What is heard is counted in seconds, the outer voices double, by the level of each part; a hand reaches as far
          as its player’s.
        </p>
      </section>
      <section aria-label="What is lost">
        <h3 className="border-b border-rule pb-1 text-lg">What is lost, what is heard most first</h3>
        {lost.length === 0 ? <p className="pt-2 text-soft">Nothing.</p> : null}
        <ol className="text-[15px]">
          {lost.slice(0, 100).map((one) => (
            <li key={`${one.part} ${one.bar}`} className="flex gap-3 border-b border-rule/60 py-1">
              <span className="w-16 shrink-0 font-figures text-soft">bar {one.bar + 1}</span>
              <span className="w-28 shrink-0">{name(one.part)}</span>
              <span>{one.words}</span>
            </li>
          ))}
        </ol>
      </section>
    </div>
  );
}

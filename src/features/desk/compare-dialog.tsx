import { useEffect, useMemo, useState } from 'react';
import { withSomeForm } from '@/core/command';
import { comparedBars, likenessOf, resolve, type ComparedBar } from '@/core/form';
import { keyOf, type Part, type Piece } from '@/core/score';
import { usePiece } from '@/features/piece/provider';
import type { PieceId } from '@/server/ids';
import { Dialog } from '@/ui/dialog';
import { useSchools } from '@/ui/schools';
import { otherPieceAction } from './actions';

/** Two versions of a piece, part against part, bar by bar. */
export function CompareDialog({
  other,
  onClose,
}: {
  readonly other: { readonly id: string; readonly title: string };
  readonly onClose: () => void;
}) {
  const piece = usePiece((state) => state.document);
  const [theirs, setTheirs] = useState<Piece | null | 'waiting'>('waiting');
  useEffect(() => {
    void otherPieceAction(other.id as PieceId)
      .then(setTheirs)
      .catch(() => setTheirs(null));
  }, [other.id]);
  return (
    <Dialog open wide onOpenChange={onClose} title={`Compared with “${other.title}”`}>
      {theirs === 'waiting' ? (
        <p className="text-soft">Reading the other piece…</p>
      ) : theirs === null ? (
        <p role="alert">The other piece could not be read. Close this and try again.</p>
      ) : (
        <ComparedParts one={piece} other={theirs} />
      )}
    </Dialog>
  );
}

const box = 'min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]';

/** Which part is compared with which, and how they differ. */
export function ComparedParts({
  one,
  other,
  start,
}: {
  readonly one: Piece;
  readonly other: Piece;
  readonly start?: { readonly part: string; readonly with: string };
}) {
  const schools = useSchools();
  const [part, setPart] = useState(start?.part ?? one.parts[0]?.id ?? '');
  const named = (list: readonly Part[], id: string): Part | undefined => list.find((each) => each.id === id);
  const like = other.parts.find((each) => each.name === named(one.parts, part)?.name) ?? other.parts[0];
  const [chosen, setChosen] = useState<string | null>(start?.with ?? null);
  const against = chosen ?? like?.id ?? '';
  const bars = useMemo(() => {
    const [mine, theirs] = [withSomeForm(one), withSomeForm(other)];
    const [a, b] = [resolve(mine, part), resolve(theirs, against)];
    return a && b ? comparedBars(a, b, { key: keyOf(one, null), schools }) : [];
  }, [one, other, part, against, schools]);
  const choice = (label: string, value: string, list: readonly Part[], onChange: (id: string) => void) => (
    <label className="flex items-center gap-2 text-[15px]">
      {label}
      <select className={box} value={value} onChange={(event) => onChange(event.target.value)}>
        {list.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-4">
        {choice('Here', part, one.parts, setPart)}
        {choice('There', against, other.parts, setChosen)}
      </div>
      <ComparedBars bars={bars} />
    </div>
  );
}

/** The bars that differ, with what the second has otherwise. */
export function ComparedBars({ bars }: { readonly bars: readonly ComparedBar[] }) {
  const { same, of } = likenessOf(bars);
  const different = bars.filter((bar) => bar.differences.length > 0);
  return (
    <>
      <p role="status">{of === 0 ? 'Neither plays a note.' : `${same} of ${of} bars are the same.`}</p>
      {different.length === 0 ? null : (
        <table className="w-full text-[15px]">
          <thead className="text-left text-sm text-soft">
            <tr>
              <th className="w-16 py-1">Bar</th>
              <th>There, instead of here</th>
            </tr>
          </thead>
          <tbody>
            {different.slice(0, 200).map(({ bar, words }) => (
              <tr key={bar} className="border-t border-rule align-baseline">
                <td className="py-1 font-figures">{bar < 0 ? 'pickup' : bar + 1}</td>
                <td>
                  {words.slice(0, 4).join('; ')}
                  {words.length > 4 ? `; and ${words.length - 4} more` : ''}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

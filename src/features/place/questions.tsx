import { Link } from '@/ui/link';
import { useState } from 'react';
import type { Result } from '@/core/base';
import { mendEdit } from '@/core/command';
import type { Piece, Part, Riff, RiffEvent } from '@/core/score';
import type { Edit } from '@/core/edit';
import type { Blocked, BlockedWithMends } from '@/core/place';
import { placeInBars } from '@/core/rhythm';
import { usePlacement } from '@/features/piece/provider';
import { Button } from '@/ui/button';

interface Props {
  readonly piece: Piece;
  readonly part: Part;
  readonly blocked: readonly Blocked[];
  readonly riff: Riff;
  readonly edit: (made: Result<Edit>) => boolean;
  readonly onShow: (event: RiffEvent) => void;
}

const SHOWN = 40;

/** What the program could not do, each a question with its evidence, what clashes, and ways out that were tried. */
export function Questions({ piece, part, blocked, riff, edit, onShow }: Props) {
  if (blocked.length === 0) return null;
  return (
    <section aria-label="Open questions" className="flex flex-col gap-2">
      <h2 className="text-lg">Open questions</h2>
      <ul className="flex flex-col gap-2">
        {blocked.slice(0, SHOWN).map((b, i) => {
          const event = riff.events.find((event) => event.id === b.locus.event);
          return (
            <li key={`${b.locus.event}.${i}`} className="border-l-4 border-question pl-3 text-[15px]">
              <p>{b.words}</p>
              {event ? (
                <button
                  type="button"
                  className="font-semibold underline decoration-line underline-offset-4"
                  onClick={() => onShow(event)}
                >
                  Show {placeInBars(riff.meters, event.at)}
                </button>
              ) : null}
              <WaysOut
                key={`${riff.id}${b.locus.event}`}
                piece={piece}
                part={part}
                riff={riff}
                blocked={b}
                edit={edit}
              />
            </li>
          );
        })}
      </ul>
      {blocked.length > SHOWN ? (
        <p className="text-soft">
          And {blocked.length - SHOWN} more. Another octave or set-up may settle most of them.
        </p>
      ) : null}
    </section>
  );
}

function WaysOut({
  piece,
  part,
  riff,
  blocked,
  edit,
}: {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly blocked: Blocked;
  readonly edit: Props['edit'];
}) {
  const { keeper } = usePlacement();
  const [answer, setAnswer] = useState<{ readonly riff: Riff; readonly found: BlockedWithMends } | null>(null);
  const [asked, setAsked] = useState(false);
  const ask = (): void => {
    setAsked(true);
    void keeper?.mends(riff, blocked).then((found) => {
      if (found) setAnswer({ riff, found });
    });
  };
  const found = answer?.riff === riff ? answer.found : null;
  if (!found)
    return (
      <Button size="small" className="mt-1 flex" disabled={asked && answer === null} onClick={ask}>
        {asked && answer === null ? 'Trying ways out…' : 'Ways out'}
      </Button>
    );
  return (
    <div className="mt-1 flex flex-col gap-1">
      {found.clash.length > 0 ? (
        <p className="text-soft">These can’t be had together: {found.clash.map((item) => item.words).join('; ')}.</p>
      ) : null}
      {found.mends.length === 0 ? (
        <p className="text-soft">No single change helps. Leave it open, or change the notes around it.</p>
      ) : null}
      <div className="flex flex-wrap gap-1">
        {found.mends.map((one) => {
          if (one.kind === 'tuning' || one.kind === 'instrument') {
            const query = one.kind === 'tuning' ? `tuning=${one.tuning}` : `instrument=${one.instrument}`;
            return (
              <Link
                key={one.words}
                className="inline-flex min-h-8 items-center rounded-sm border border-rule bg-sheet px-2 text-sm font-semibold"
                href={`/pieces/${piece.id}/parts/${part.id}?${query}`}
              >
                {one.words}…
              </Link>
            );
          }
          const made = mendEdit(piece, riff.id, one);
          return made ? (
            <Button key={one.words} size="small" onClick={() => edit(made)}>
              {one.words}
            </Button>
          ) : null;
        })}
      </div>
    </div>
  );
}

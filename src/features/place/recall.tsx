import { useEffect, useState } from 'react';
import type { Result } from '@/core/base';
import { chooseWay } from '@/core/command';
import type { Piece, Riff } from '@/core/score';
import type { Edit } from '@/core/edit';
import type { Recalled } from '@/server/learning';
import { Button } from '@/ui/button';
import type { PhraseAnswer } from '@/workers/place.worker';
import { recallAction } from './actions';

interface Props {
  readonly piece: Piece;
  readonly riff: Riff;
  readonly phrase: PhraseAnswer;
  readonly edit: (made: Result<Edit>) => boolean;
}

/** Milliseconds a phrase stands still before the studio's other riffs are looked through. */
const STILL = 600;

/** The same phrase placed before in this studio: offered in the same shape. */
export function Recall({ piece, riff, phrase, edit }: Props) {
  const [answer, setAnswer] = useState<{ readonly to: string; readonly list: readonly Recalled[] } | null>(null);
  const from = riff.events.findIndex((event) => event.id === phrase.from);
  const events = riff.events.slice(from, riff.events.findIndex((event) => event.id === phrase.to) + 1);
  // What is asked: the phrase's pitches, times and what is decided of it.
  const asked = JSON.stringify(
    events.map((event) => [
      event.id,
      event.at,
      event.notes.map((note) => [note.pitch.midi, note.place?.locked ? [note.place.string, note.place.fret] : 0]),
    ]),
  );
  useEffect(() => {
    let wanted = true;
    const ids = (JSON.parse(asked) as [string][]).map(([id]) => id);
    const timer = setTimeout(
      () =>
        void recallAction(piece.id, riff.id, ids).then(
          (list) => {
            if (wanted) setAnswer({ to: asked, list });
          },
          () => undefined,
        ),
      STILL,
    );
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [asked, piece.id, riff.id]);
  if (answer?.to !== asked || answer.list.length === 0) return null;
  return (
    <section aria-label="Placed before" className="flex flex-col gap-1 text-[15px]">
      <h2 className="text-lg">You placed this before</h2>
      <ul className="divide-y divide-rule border-y border-rule">
        {answer.list.map((recalled, i) => {
          const frets = recalled.places.map((place) => place.fret).filter((f) => f > 0);
          const words = frets.length > 0 ? `frets ${Math.min(...frets)} to ${Math.max(...frets)}` : 'open strings';
          return (
            <li key={i} className="py-1.5">
              <b>{recalled.riffName}</b> in {recalled.title}
              {recalled.whole ? '' : ', a part of it'}
              <div className="flex items-baseline justify-between gap-2 text-soft">
                <span>
                  {words}
                  {recalled.moved === 0
                    ? ', where it lay'
                    : `, ${Math.abs(recalled.moved)} fret${Math.abs(recalled.moved) === 1 ? '' : 's'} ${recalled.moved > 0 ? 'higher' : 'lower'}`}
                </span>
                <Button
                  size="small"
                  aria-label={`The same shape: ${words}`}
                  onClick={() =>
                    edit(
                      chooseWay(
                        piece,
                        riff.id,
                        recalled.places.map((place) => ({ ...place, finger: place.fret === 0 ? (0 as const) : null })),
                        `took the shape of ${recalled.riffName}`,
                      ),
                    )
                  }
                >
                  The same shape
                </Button>
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

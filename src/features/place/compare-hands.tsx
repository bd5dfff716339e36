import { useEffect, useState } from 'react';
import type { Player, Riff } from '@/core/score';
import { usePlacement } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { SelectField } from '@/ui/field';
import { usePlayers } from '@/features/account/players-context';
import type { HandAnswer } from '@/workers/place.worker';
import { factWords, regionWords } from './way-words';

/** The same riff for this part's hand and another: what each would be given, and how many notes differ. */
export function CompareHands({ riff, player }: { readonly riff: Riff; readonly player: Player | undefined }) {
  const { keeper } = usePlacement();
  const players = usePlayers();
  const [open, setOpen] = useState(false);
  const others = players.filter((one) => one.id !== (player?.id ?? 'adult'));
  const [chosen, setChosen] = useState('');
  const other = others.find((one) => one.id === chosen) ?? others[0] ?? null;
  const [answer, setAnswer] = useState<{
    readonly riff: Riff;
    readonly to: string;
    readonly mine: HandAnswer;
    readonly theirs: HandAnswer;
  } | null>(null);
  const otherId = other?.id ?? null;
  useEffect(() => {
    const them = players.find((one) => one.id === otherId);
    if (!open || !keeper || !them) return;
    let wanted = true;
    void Promise.all([keeper.hand(riff, player ?? null), keeper.hand(riff, them.id === 'adult' ? null : them)]).then(
      ([mine, theirs]) => {
        if (wanted && mine && theirs) setAnswer({ riff, to: them.id ?? '', mine, theirs });
      },
    );
    return () => {
      wanted = false;
    };
  }, [open, keeper, riff, player, players, otherId]);
  if (!other || riff.events.length === 0) return null;
  const now = answer?.riff === riff && answer.to === other.id ? answer : null;
  return (
    <section aria-label="Hands compared" className="flex flex-col gap-2 text-[15px]">
      <Button size="small" className="self-start" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Hide the other hand' : 'The same for another hand'}
      </Button>
      {open ? (
        <>
          <SelectField label="Compared with" value={other.id ?? ''} onChange={(event) => setChosen(event.target.value)}>
            {others.map((one) => (
              <option key={one.id} value={one.id ?? ''}>
                {one.name}
              </option>
            ))}
          </SelectField>
          {now === null ? (
            <p className="text-soft">Placing it twice…</p>
          ) : (
            <dl className="border-y border-rule py-1">
              {(
                [
                  [player?.name ?? 'Adult hand', now.mine],
                  [other.name, now.theirs],
                ] as const
              ).map(([name, hand]) => (
                <div key={name} className="py-1">
                  <dt className="font-semibold">
                    {name}: {regionWords(hand.facts)}
                  </dt>
                  <dd className="text-soft">
                    {factWords(hand.facts)}
                    {hand.blocked > 0 ? ` ${hand.blocked} thing${hand.blocked === 1 ? '' : 's'} can’t be played.` : ''}
                  </dd>
                </div>
              ))}
              <div className="py-1">
                <dt className="sr-only">Difference</dt>
                <dd>{differenceWords(now.mine, now.theirs)}</dd>
              </div>
            </dl>
          )}
        </>
      ) : null}
    </section>
  );
}

function differenceWords(a: HandAnswer, b: HandAnswer): string {
  const places = new Map(a.places.map((place) => [place.note, place]));
  const moved = b.places.filter((place) => {
    const one = places.get(place.note);
    return one && (one.string !== place.string || one.fret !== place.fret);
  }).length;
  const fingered = b.places.filter((place) => {
    const one = places.get(place.note);
    return one && one.string === place.string && one.fret === place.fret && one.finger !== place.finger;
  }).length;
  if (moved === 0 && fingered === 0) return 'Both are given the same places and fingers.';
  return `${moved === 0 ? 'The same places' : `${moved} note${moved === 1 ? ' lies' : 's lie'} elsewhere`}${fingered > 0 ? `, ${fingered} with another finger` : ''}.`;
}

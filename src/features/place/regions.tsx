import type { Result } from '@/core/base';
import { chooseWay } from '@/core/command';
import type { Piece, Riff } from '@/core/score';
import type { Edit } from '@/core/edit';
import { placeInBars } from '@/core/rhythm';
import { Button } from '@/ui/button';
import type { PhraseAnswer } from '@/workers/place.worker';
import { regionWords } from './way-words';

interface Props {
  readonly piece: Piece;
  readonly riff: Riff;
  readonly phrase: PhraseAnswer;
  readonly edit: (made: Result<Edit>) => boolean;
}

/** The regions of the neck a phrase may lie in, each with how likely it is and a click to take it. */
export function Regions({ piece, riff, phrase, edit }: Props) {
  const first = riff.events.find((event) => event.id === phrase.from);
  if (!first || phrase.regions.length === 0) return null;
  return (
    <section aria-label="Regions" className="flex flex-col gap-1 text-[15px]">
      <h2 className="text-lg">This phrase, from {placeInBars(riff.meters, first.at)}</h2>
      <ul className="divide-y divide-rule border-y border-rule">
        {phrase.regions.map((one, i) => (
          <li key={i} className="flex items-baseline justify-between gap-2 py-1.5">
            <span>
              <b>{regionWords(one)}</b>
              <span className="text-soft">
                , {stringWords(one.places)}
                {one.open > 0 ? `, ${one.open} open` : ''}
              </span>
            </span>
            <span className="flex shrink-0 items-baseline gap-2">
              <span className="font-figures text-soft">{Math.round(one.share * 100)} %</span>
              {phrase.regions.length > 1 ? (
                <Button
                  size="small"
                  tone="word"
                  aria-label={`Take ${regionWords(one)}`}
                  onClick={() => edit(chooseWay(piece, riff.id, one.places, `took ${regionWords(one)} for a phrase`))}
                >
                  take
                </Button>
              ) : null}
            </span>
          </li>
        ))}
      </ul>
      {phrase.regions.length === 1 ? <p className="text-soft">Nothing else lies nearly as well.</p> : null}
    </section>
  );
}

/** The strings a way runs over: "strings 5 to 2". */
function stringWords(places: PhraseAnswer['regions'][number]['places']): string {
  const strings = places.map((place) => place.string);
  const thick = Math.max(...strings);
  const thin = Math.min(...strings);
  return thick === thin ? `string ${thin}` : `strings ${thick} to ${thin}`;
}

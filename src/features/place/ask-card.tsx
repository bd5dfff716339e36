import type { AnchorChoice } from '@/core/place';
import { noteName, type Key } from '@/core/pitch';
import { placeInBars } from '@/core/rhythm';
import { fretWordsBy, stringCall } from '@/core/schools';
import type { Part, Riff } from '@/core/score';
import { useSchools } from '@/ui/schools';
import type { PhraseAnswer } from '@/workers/place.worker';
import { offered } from './asking';

interface Props {
  readonly part: Part;
  readonly riff: Riff;
  readonly keyShown: Key | null;
  readonly phrase: PhraseAnswer;
  readonly onAnswer: (choice: AnchorChoice) => void;
  readonly onShow: (event: string) => void;
  readonly onPass: () => void;
}

/** The one note whose place would settle most of a phrase, asked for; one key or click answers. */
export function AskCard({ part, riff, keyShown, phrase, onAnswer, onShow, onPass }: Props) {
  const schools = useSchools();
  const { ask } = phrase;
  const event = riff.events.find((event) => event.id === ask?.event);
  const note = event?.notes[ask?.note ?? 0];
  if (!ask || !event || !note) return null;
  const name = noteName(note.pitch.midi, { key: keyShown, naming: schools.notes });
  return (
    <section
      aria-label="The program asks"
      className="border-l-4 border-question bg-question-wash/50 py-2 pr-2 pl-3 text-[15px]"
    >
      <p>
        Where is the{' '}
        <button
          type="button"
          className="font-semibold underline decoration-line underline-offset-4"
          onClick={() => onShow(event.id)}
        >
          {name} of {placeInBars(riff.meters, event.at)}
        </button>
        ? <span className="text-soft">It settles most of this phrase.</span>
      </p>
      <ul className="mt-1.5 flex flex-col gap-1">
        {offered(ask).map((place, i) => (
          <li key={`${place.string}.${place.fret}`}>
            <button
              type="button"
              onClick={() => onAnswer(place)}
              className="flex w-full items-baseline gap-2 rounded-sm border border-line/60 bg-sheet px-2 py-1 text-left hover:border-ink"
            >
              <span aria-hidden className="font-figures text-sm text-soft">
                Alt {i + 1}
              </span>
              <b className="flex-1">
                {stringCall(part.setup, place.string, schools, keyShown)},{' '}
                {fretWordsBy(part.setup, place.string, place.fret, schools.frets)}
              </b>
              <span className="font-figures text-soft">{Math.round(place.share * 100)} %</span>
            </button>
          </li>
        ))}
      </ul>
      <button type="button" onClick={onPass} className="mt-1 text-sm underline decoration-line underline-offset-4">
        Not now
      </button>
    </section>
  );
}

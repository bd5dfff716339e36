import type { Blocked } from '@/core/place';
import { placeInBars } from '@/core/rhythm';
import type { Riff, RiffEvent } from '@/core/score';

interface Props {
  readonly blocked: readonly Blocked[];
  readonly riff: Riff;
  readonly onShow: (event: RiffEvent) => void;
}

/** What the program could not do, each a question with its evidence and the way to its place. */
export function Questions({ blocked, riff, onShow }: Props) {
  if (blocked.length === 0) return null;
  return (
    <section aria-label="Open questions" className="flex flex-col gap-2">
      <h2 className="text-lg">Open questions</h2>
      <ul className="flex flex-col gap-2">
        {blocked.slice(0, 40).map((b, i) => {
          const event = riff.events.find((e) => e.id === b.event);
          return (
            <li key={`${b.event}.${i}`} className="border-l-4 border-question pl-3 text-[15px]">
              <p>{b.why}</p>
              {event ? (
                <button type="button" className="font-semibold underline decoration-line underline-offset-4" onClick={() => onShow(event)}>
                  Show {placeInBars(riff.meters, event.at)}
                </button>
              ) : null}
            </li>
          );
        })}
      </ul>
      {blocked.length > 40 ? <p className="text-soft">And {blocked.length - 40} more. Another octave or set-up may settle most of them.</p> : null}
    </section>
  );
}

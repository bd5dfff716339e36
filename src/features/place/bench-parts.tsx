import { counted } from '@/core/base';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { nutOf, type Setup } from '@/core/instrument';
import { riffEnd, riffStart, type Riff, type RiffEvent } from '@/core/score';
import { barOf, barStart, type Quarter } from '@/core/time';
import { usePlacement } from '@/features/piece/provider';
import type { NeckPlace } from '@/ui/draw/neck';
import { useWidth } from '@/ui/use-width';
import type { useAlternatives } from './use-alternatives';

/** What the bench works out of a riff before it draws. */

const NO_ANSWER = { hands: new Map<string, number>(), blocked: [] as const };

/**
 * The worker's answer for a riff: the hand at each event, and what is blocked. The last answer stands until the next.
 */
export function useAnswer(riff: Riff) {
  const { keeper, version } = usePlacement();
  const [last, setLast] = useState<ReturnType<typeof read> | null>(null);
  const fresh = useMemo(() => read(keeper, riff, version), [keeper, riff, version]);
  useEffect(() => {
    if (keeper && !keeper.answerTo(riff)) keeper.look(riff.id);
  }, [keeper, riff]);
  if (fresh && fresh !== last) setLast(fresh);
  return fresh ?? last ?? NO_ANSWER;
}

/** By what the worker said, so that the same answer is read once, however often it is looked at. */
const readings = new WeakMap<readonly number[], ReadonlyMap<string, number>>();

function read(keeper: ReturnType<typeof usePlacement>['keeper'], riff: Riff, _version: number) {
  const answer = keeper?.answerTo(riff);
  if (!answer) return null;
  const hands = readings.get(answer.hands) ?? new Map(riff.events.map((event, i) => [event.id, answer.hands[i] ?? 0]));
  readings.set(answer.hands, hands);
  return { hands, blocked: answer.blocked };
}

export function stretchOf(riff: Riff, events: readonly RiffEvent[]): { from: Quarter; to: Quarter; partial: boolean } {
  const first = events[0];
  const last = events.at(-1);
  if (!first || !last || first === last) return { from: riffStart(riff), to: riffEnd(riff), partial: false };
  const next = riff.events[riff.events.indexOf(last) + 1];
  const { bar } = barOf(riff.meters, last.at);
  return { from: first.at, to: next ? next.at : barStart(riff.meters, bar + 1), partial: true };
}

export function neckPlaces(
  focus: RiffEvent | null,
  noteId: string,
  weighed: ReturnType<typeof useAlternatives>,
  setup: Setup,
): NeckPlace[] {
  const marks: NeckPlace[] = [];
  for (const note of focus?.notes ?? []) {
    if (!note.place || note.id === noteId) continue;
    marks.push({
      string: note.place.string,
      fretFromNut: note.place.fret + nutOf(setup, note.place.string),
      kind: 'other',
      text: note.place.finger ? String(note.place.finger) : '0',
      title: 'another note of this chord',
    });
  }
  const note = focus?.notes.find((note) => note.id === noteId);
  for (const a of weighed?.list ?? []) {
    if (note?.place?.string === a.string && note.place.fret === a.fret) continue;
    marks.push({
      string: a.string,
      fretFromNut: a.fretFromNut,
      kind: a.extra === null ? 'other' : 'possible',
      text: a.extra === null ? '—' : `+${a.extra.toFixed(1)}`,
      title: a.reason,
    });
  }
  if (note?.place) {
    const { string, fret, finger, locked } = note.place;
    marks.push({
      string,
      fretFromNut: fret + nutOf(setup, string),
      kind: locked ? 'locked' : 'chosen',
      text: fret === 0 ? '0' : finger ? String(finger) : '•',
      title: locked ? 'yours' : 'proposed',
    });
  }
  return marks;
}

export function Overview({ riff, lines }: { readonly riff: Riff; readonly lines: readonly string[] }) {
  const notes = riff.events.reduce((n, event) => n + event.notes.length, 0);
  const yours = riff.events.reduce((n, event) => n + event.notes.filter((note) => note.place?.locked).length, 0);
  return (
    <section aria-label="Riff" className="flex flex-col gap-3">
      <h2 className="text-xl">{riff.name}</h2>
      {notes === 0 ? (
        <p>
          Empty so far. Press <b className="font-figures">C</b> and call the first notes, for example{' '}
          <span className="font-figures">on 6 open 3 on 5 5</span>.
        </p>
      ) : (
        <p className="text-soft">
          {counted(notes, 'note')}, {yours} placed by you, {notes - yours} by the program. Choose one to see every place
          it has and what each costs.
        </p>
      )}
      {lines.length > 0 ? (
        <>
          <h3 className="text-base">Last done</h3>
          <ol className="flex flex-col gap-1 text-[15px] text-soft">
            {lines
              .slice(-8)
              .reverse()
              .map((line, i) => (
                <li key={`${lines.length - i}`}>{line}</li>
              ))}
          </ol>
        </>
      ) : null}
    </section>
  );
}

/** Gives the neck the width it has. */
export function NeckFrame({ children }: { readonly children: (width: number) => ReactNode }) {
  const [measure, width] = useWidth();
  return (
    <div ref={measure} className="shrink-0">
      {width > 0 ? children(width) : null}
    </div>
  );
}

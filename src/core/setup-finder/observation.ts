import { setupWords } from '../instrument';
import { asciiPitch, noteName } from '../pitch';
import type { PlaceEvent } from '../place';
import { barOf, cmp } from '../time';
import type { FinderQuestion, Observation, Ranked } from './types';

/**
 * The one thing to listen or look for that decides between two answers: a note that is open in one and stopped in the
 * other, the longest such; else one that lies on another string. Null where both ways are alike at every note.
 */
export function observation(
  { meters }: Pick<FinderQuestion, 'meters'>,
  events: readonly PlaceEvent[],
  first: Ranked,
  second: Ranked,
): Observation | null {
  let best: { event: number; note: number; open: 'first' | 'second' | null } | null = null;
  events.forEach((event, i) =>
    event.notes.forEach((_, k) => {
      const a = first.way.events[i]?.notes[k];
      const b = second.way.events[i]?.notes[k];
      if (!a || !b) return;
      const open = a.fret === 0 && b.fret > 0 ? 'first' : b.fret === 0 && a.fret > 0 ? 'second' : null;
      if (open === null && a.string === b.string) return;
      const held = best && events[best.event];
      const better =
        !best ||
        (best.open === null && open !== null) ||
        ((best.open === null) === (open === null) && held && cmp(event.dur, held.dur) > 0);
      if (better) best = { event: i, note: k, open };
    }),
  );
  const found = best as { event: number; note: number; open: 'first' | 'second' | null } | null;
  const event = found && events[found.event];
  const pitch = found && event?.notes[found.note]?.pitch;
  if (!found || !event || typeof pitch !== 'number') return null;
  const { bar } = barOf(meters, event.at);
  const [a, b] = [first, second].map((one) => one.way.events[found.event]?.notes[found.note]);
  const say = (at: typeof a): string =>
    !at ? '' : at.fret === 0 ? `open string ${at.string}` : `string ${at.string}, fret ${at.fret}`;
  const name = noteName(pitch);
  const question =
    found.open === null
      ? `On which string is the ${name} (${asciiPitch(pitch)}) of bar ${bar + 1}`
      : `Is the ${name} (${asciiPitch(pitch)}) of bar ${bar + 1} an open string`;
  return {
    event: event.id,
    note: found.note,
    bar,
    first: say(a),
    second: say(b),
    words: `${question}? ${cap(say(a))} speaks for ${setupWords(first.setup)}; ${say(b)} for ${setupWords(second.setup)}.`,
  };
}

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

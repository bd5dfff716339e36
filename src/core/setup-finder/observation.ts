import { setupWords } from '../instrument';
import { asciiPitch, noteName } from '../pitch';
import type { PlacedNote, PlaceEvent } from '../place';
import { barOf, cmp } from '../time';
import type { FinderQuestion, Observation, Ranked } from './types';

/**
 * The one thing to listen or look for that decides between two answers: a note that is open in one and stopped in the
 * other, the longest such; else one that lies on another string, or at another fret. Null where both ways are alike.
 */
export function observation(
  { meters }: Pick<FinderQuestion, 'meters'>,
  events: readonly PlaceEvent[],
  first: Ranked,
  second: Ranked,
): Observation | null {
  // An open string against a stopped one is heard; another string, or another fret of the same, has to be seen.
  let best: { event: number; note: number; rank: number } | null = null;
  events.forEach((event, i) =>
    event.notes.forEach((_, k) => {
      const a = first.way.events[i]?.notes[k];
      const b = second.way.events[i]?.notes[k];
      if (!a || !b || (a.string === b.string && a.fret === b.fret)) return;
      const rank = (a.fret === 0) !== (b.fret === 0) ? 2 : a.string !== b.string ? 1 : 0;
      const held = best && events[best.event];
      if (!best || rank > best.rank || (rank === best.rank && held && cmp(event.dur, held.dur) > 0))
        best = { event: i, note: k, rank };
    }),
  );
  const found = best as { event: number; note: number; rank: number } | null;
  const event = found && events[found.event];
  const pitch = found && event?.notes[found.note]?.pitch;
  if (!found || !event || typeof pitch !== 'number') return null;
  const { bar } = barOf(meters, event.at);
  const [a, b] = [first, second].map((one) => one.way.events[found.event]?.notes[found.note]);
  if (!a || !b) return null;
  const { note } = found;
  const side = (at: PlacedNote): Observation['first'] =>
    found.rank === 2
      ? {
          words: at.fret === 0 ? `open string ${at.string}` : `stopped, string ${at.string}, fret ${at.fret}`,
          clue: { kind: at.fret === 0 ? 'open' : 'stopped', event: event.id, note },
        }
      : {
          words: `string ${at.string}, fret ${at.fret}`,
          clue: { kind: 'string', event: event.id, note, string: at.string, fret: at.fret },
        };
  const name = `${noteName(pitch)} (${asciiPitch(pitch)}) of bar ${bar + 1}`;
  const question =
    found.rank === 2
      ? `Is the ${name} an open string`
      : found.rank === 1
        ? `On which string is the ${name}`
        : `At which fret is the ${name}`;
  const [one, other] = [side(a), side(b)];
  return {
    ...{ event: event.id, note, bar, first: one, second: other },
    words: `${question}? ${cap(one.words)} speaks for ${setupWords(first.setup)}; ${other.words} for ${setupWords(second.setup)}.`,
  };
}

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

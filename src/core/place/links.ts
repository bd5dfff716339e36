import { pairJoins, type Join } from '../score';
import type { Slice, Voice } from './slice';
import type { PlaceEvent, PlaceLink, PlaceNote } from './types';

/** Which notes of two events lead to each other, as the solver needs it. */

type Linked = Slice['linked'];

export const UNLINKED: { readonly linked: Linked; readonly still: readonly (readonly [number, number])[] } = {
  linked: [],
  still: [],
};

const linkOfNote = (event: PlaceEvent, note: PlaceNote): PlaceLink | null =>
  note.link === undefined ? event.link : note.link;

/** How an event leads on, by the first of its notes that does; null where none does. */
export function firstLink(event: PlaceEvent): PlaceLink | null {
  for (const note of event.notes) {
    const link = linkOfNote(event, note);
    if (link) return link;
  }
  return event.notes.length === 0 ? event.link : null;
}

export const leads = (event: PlaceEvent): boolean => firstLink(event) !== null;

/** What a slice as a whole is led to by: sliding where any finger slides. */
export const linkOf = (linked: Linked): PlaceLink | null => {
  const links = linked.map(([, , link]) => link);
  return links.includes('slide') ? 'slide' : (links.find((link) => link !== null) ?? null);
};

/** Whether the picking hand strikes a voice, where `led` are those others lead to. */
export const isStruckBeside =
  (led: ReadonlySet<number>, event: PlaceEvent) =>
  (voice: Voice, index: number): boolean =>
    voice.over < 0 && !led.has(index) && event.notes[voice.note]?.hammered !== true;

/**
 * The pairs of voices joined between two slices, paired as the document pairs them (`pairJoins`): `linked` are led
 * somewhere else, `still` stay as they are and are not struck again. Where the picking hand taps one end and the other
 * lies the right way, only the string is shared.
 */
export function pairs(
  before: PlaceEvent,
  event: PlaceEvent,
  voicesBefore: readonly Voice[],
  at: number,
  struck: readonly Voice[],
): typeof UNLINKED {
  const own = (list: readonly Voice[], which: (voice: Voice) => boolean): number[] =>
    list.flatMap((voice, i) => (voice.over < 0 && which(voice) ? [i] : []));
  const from = own(voicesBefore, (voice) => voice.event === at);
  const to = own(struck, () => true);
  const end = (voice: Voice | undefined) => ({
    pitch: (voice?.pitch ?? 0) + (voice?.cents ?? 0) / 100,
    string: voice?.lock?.string ?? null,
    dead: voice?.kind === 'dead',
  });
  const joins = from.map((i): Join | null => {
    const note = before.notes[voicesBefore[i]?.note ?? -1];
    return note ? linkOfNote(before, note) : null;
  });
  const found = pairJoins(
    from.map((i) => end(voicesBefore[i])),
    joins,
    to.map((i) => {
      const voice = struck[i];
      return event.notes[voice?.note ?? -1]?.hammered ? { ...end(voice), dead: true } : end(voice);
    }),
  );
  const linked: [number, number, PlaceLink | null][] = [];
  const still: [number, number][] = [];
  for (const pair of found) {
    const [a, b] = [from[pair.from] ?? -1, to[pair.to] ?? -1];
    if (pair.how === 'hold') still.push([a, b]);
    else linked.push([a, b, handLink(pair.how as PlaceLink, voicesBefore[a], struck[b])]);
  }
  return { linked, still };
}

/** What a join asks of the fretting hand: nothing but the string where the other hand taps one end, the right way. */
function handLink(link: PlaceLink, from: Voice | undefined, to: Voice | undefined): PlaceLink | null {
  if (from?.kind !== 'tapped' && to?.kind !== 'tapped') return link;
  const up = (to?.pitch ?? 0) - (from?.pitch ?? 0);
  const right = link === 'hammer' ? up > 0 : link === 'pull' ? up < 0 : up !== 0;
  return right ? null : link;
}

import type { Join } from '../score';
import type { CalledEvent, CalledNote } from './types';

/** Why two events can't be joined so, or null: a join stays on one string and goes the right way. */
export function whyNotLinked(link: Join, before: CalledEvent, notes: readonly CalledNote[]): string | null {
  const [a] = before.notes;
  const [b] = notes;
  if (!a || !b || before.notes.length > 1 || notes.length > 1) return null;
  if (a.place && b.place && a.place.string !== b.place.string)
    return `A ${LINK_NOUN[link]} stays on one string; this goes from string ${a.place.string} to ${b.place.string}.`;
  if (link === 'hammer' && b.pitch <= a.pitch) return 'A hammer-on goes to a higher fret; to a lower one say "pull".';
  if (link === 'pull' && b.pitch >= a.pitch) return 'A pull-off goes to a lower fret; to a higher one say "hammer".';
  const slid = link === 'slide' || link === 'shift';
  if (slid && b.pitch === a.pitch && a.cents === b.cents) return 'A slide goes to another fret.';
  if (slid && (a.place?.fret === 0 || b.place?.fret === 0))
    return 'A slide needs a finger on the string at both ends; one end is open.';
  return null;
}

const LINK_NOUN: Record<Join, string> = { hammer: 'hammer-on', pull: 'pull-off', slide: 'slide', shift: 'shift slide' };

import { stableId } from '../base';
import { makeEvent, makeNote, makePlace, articulationOf, type RiffEvent } from '../score';
import type { Called } from './types';

/** Called events as events of a document, with ids that are free in the riff they go to. */
export function calledToEvents(called: Called, taken: ReadonlySet<string>): RiffEvent[] {
  const ids = new Set(taken);
  let next = ids.size;
  const fresh = (prefix: string): string => {
    const id = stableId(prefix, ids, next++);
    ids.add(id);
    return id;
  };
  return called.events.map((event) =>
    makeEvent(
      fresh('e'),
      event.at,
      event.dur,
      event.notes.map((note) => {
        const { place, finger, technique: techniques } = note;
        return makeNote(fresh('n'), note.pitch, 'instructor', {
          dur: note.dur,
          ...(note.join ? { join: note.join } : {}),
          ...(note.certainty ? { certainty: note.certainty } : {}),
          ...(note.evidence ? { evidence: note.evidence } : {}),
          ...(note.cents ? { pitch: { midi: note.pitch, cents: note.cents, by: 'instructor' as const } } : {}),
          ...(techniques ? { technique: techniques } : {}),
          place: place
            ? makePlace(place.string, place.fret, place.sure ? 'instructor' : 'solver', {
                locked: place.sure,
                ...(techniques?.dead || techniques?.tapped ? { finger: 0 as const } : {}),
                ...(note.reason ? { reason: note.reason } : {}),
                ...(note.otherPlace ? { otherPlace: note.otherPlace } : {}),
                ...(finger?.or !== undefined ? { otherFinger: finger.or } : {}),
                ...(finger
                  ? { finger: finger.finger, fingerBy: finger.sure ? ('instructor' as const) : ('solver' as const) }
                  : {}),
              })
            : null,
        });
      }),
      {
        letRing: event.letRing,
        ...(event.slideBar ? { slideBar: true as const } : {}),
        ...articulationOf(event),
      },
    ),
  );
}

import { useMemo, useState } from 'react';
import type { Offer } from '@/core/hearing';
import type { HeardNote, Listened } from '@/core/listen';

export type What = 'line' | 'chords';

/** Whether one clear pitch after another fills what sounds: chords have no such line. */
function isLine({ notes, strokes, seconds }: Listened): boolean {
  const held = notes.reduce((sum, note) => sum + (note.until - note.at), 0);
  const clear = notes.reduce((sum, note) => sum + note.certainty * (note.until - note.at), 0) / Math.max(1e-9, held);
  return clear > 0.72 && notes.length > 0.4 * strokes.length && held > 0.3 * seconds;
}

const offerOf = (note: HeardNote): Offer => ({
  at: note.at,
  until: note.until,
  midi: note.midi,
  cents: note.cents,
  certainty: note.certainty,
  begins: note.begins,
  manner: note.manner,
  by: 'program',
  basis: 'attack',
});
/** A note by ear takes the place of one the program heard so near. */
const SAME = 0.06;

export interface Offers {
  /** What the program heard, and how it is understood. */
  readonly listening: Listened | null;
  readonly what: What;
  readonly setWhat: (what: What) => void;
  /** The chosen reading of each chord, by its number. */
  readonly reading: Readonly<Record<number, number>>;
  readonly choose: (set: number, reading: number) => void;
  readonly setHeard: (sounding: Listened | null) => void;
  /** Notes on their way into the part: those understood so, and those by the own ear. */
  readonly all: readonly Offer[];
}

/** What was heard, as a line or as chords with the readings chosen, together with what the own ear put down. */
export function useOffers(own: readonly Offer[]): Offers {
  const [soundings, setHeard] = useState<Listened | null>(null);
  const [what, setWhat] = useState<What>('line');
  const [reading, setReading] = useState<Readonly<Record<number, number>>>({});
  const all = useMemo((): Offer[] => {
    const program: Offer[] = !soundings
      ? []
      : what === 'line'
        ? soundings.notes.map(offerOf)
        : soundings.sets.flatMap((set, i) => {
            const chosen = set.readings[reading[i] ?? 0];
            return (chosen?.notes ?? []).map((place): Offer => ({
              at: set.at,
              until: set.until,
              midi: place.midi,
              cents: 0,
              certainty: (chosen?.explains ?? 0.5) * Math.min(1, 0.5 + place.strength / 2),
              begins: 'struck',
              manner: null,
              by: 'program',
              basis: 'attack',
            }));
          });
    return [...program.filter((offer) => !own.some((one) => Math.abs(one.at - offer.at) < SAME)), ...own];
  }, [soundings, own, what, reading]);
  return {
    listening: soundings,
    what,
    setWhat,
    reading,
    all,
    choose: (set, chosen) => setReading({ ...reading, [set]: chosen }),
    setHeard: (got) => {
      // Other beats of the same notes change nothing that was chosen among them.
      if (got && got.notes !== soundings?.notes) {
        setReading({});
        setWhat(isLine(got) ? 'line' : 'chords');
      }
      setHeard(got);
    },
  };
}

import { must } from '@/core/base';
import { makeSetup, type Setup } from '@/core/instrument';
import { DEFAULT_OPTIONS, placeLink, viewOf, type PlaceEvent, type Problem, type Sample } from '@/core/place';
import { FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import type { Phrase } from './phrases';

/** A phrase as the program is asked about it: pitches without places, and the player's places beside. */
export interface Asked {
  readonly phrase: Phrase;
  readonly setup: Setup;
  readonly problem: Problem;
  /** "string.fret" of every note, in order. */
  readonly wanted: readonly string[];
}

export function asked(phrase: Phrase): Asked {
  const { setup } = must(makeSetup({ instrument: phrase.instrument, tuning: phrase.tuning, capo: phrase.capo ?? 0 }));
  const meters = [{ bar: 0, beats: 4, unit: 4 }];
  const called = readCalls(phrase.calls, { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  if (called.faults[0])
    throw new Error(
      `${phrase.name}: ${called.faults[0].words} at "${phrase.calls.slice(called.faults[0].locus.text.from, called.faults[0].locus.text.to)}"`,
    );
  const events = called.events.map((event, i): PlaceEvent => ({
    id: `e${i}`,
    at: event.at,
    dur: event.dur,
    link: null,
    ring: event.letRing,
    notes: event.notes.map((note) => ({
      pitch: note.pitch,
      lock: null,
      dur: note.dur,
      link: placeLink(note.join ?? null),
    })),
  }));
  const wanted = called.events.flatMap((event) =>
    event.notes.map((note) => `${note.place?.string}.${note.place?.fret}`),
  );
  return {
    phrase,
    setup,
    wanted,
    problem: { setup, events, tempo: [{ at: ZERO, bpm: phrase.tempo }], meters, options: DEFAULT_OPTIONS },
  };
}

/** The problem with the player's place given for one note. */
export function withPlace({ problem, wanted }: Asked, event: number, note: number): Problem {
  const before = problem.events.slice(0, event).reduce((n, event) => n + event.notes.length, 0);
  const [string, fret] = (wanted[before + note] ?? '1.0').split('.').map(Number);
  return {
    ...problem,
    events: problem.events.map((other, i) =>
      i === event
        ? {
            ...other,
            notes: other.notes.map((one, index) =>
              index === note ? { ...one, lock: { string: string ?? 1, fret: fret ?? 0, finger: null } } : one,
            ),
          }
        : other,
    ),
  };
}

/** The player's place of the one note the program asks for; the problem as it is where it asks for none. */
export function withAsked(a: Asked, problem: Problem = a.problem): Problem {
  const { ask } = viewOf(problem, { from: 0, to: problem.events.length - 1 });
  return ask
    ? withPlace(
        { ...a, problem },
        problem.events.findIndex((event) => event.id === ask.event),
        ask.note,
      )
    : problem;
}

export function sampleOf(a: Asked, problem: Problem = a.problem): Sample {
  let k = 0;
  const chosen = problem.events.flatMap((other, event) =>
    other.notes.map((_, note) => {
      const [string, fret] = (a.wanted[k++] ?? '1.0').split('.').map(Number);
      return { event, note, string: string ?? 1, fret: fret ?? 0 };
    }),
  );
  return { problem, chosen };
}

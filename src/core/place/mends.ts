import { INSTRUMENTS, makeSetup, tuningsFor, type Setup } from '../instrument';
import { noteName } from '../pitch';
import { quarter, sub } from '../time';
import { clashOf } from './clash';
import { bestWay, solve } from './solve';
import type { Blocked, ClashItem, PlaceEvent, PlaceNote, Problem } from './types';

/** A way out of something that can't be played; each was tried and does away with it. */
export type Mend =
  | { readonly kind: 'release'; readonly event: string; readonly note: number; readonly words: string }
  | { readonly kind: 'unlink'; readonly event: string; readonly words: string }
  | { readonly kind: 'unlock'; readonly event: string; readonly note: number; readonly words: string }
  | { readonly kind: 'allow'; readonly event: string; readonly words: string }
  | {
      readonly kind: 'octave';
      readonly event: string;
      readonly note: number;
      readonly by: 12 | -12;
      readonly words: string;
    }
  | { readonly kind: 'unbend'; readonly event: string; readonly note: number; readonly words: string }
  | { readonly kind: 'leave'; readonly event: string; readonly note: number; readonly words: string }
  | { readonly kind: 'tuning'; readonly tuning: string; readonly words: string }
  | { readonly kind: 'instrument'; readonly instrument: string; readonly words: string };

export interface BlockedWithMends {
  readonly clash: readonly ClashItem[];
  readonly mends: readonly Mend[];
}

/** Other tunings and instruments offered at most. */
const SETUPS_OFFERED = 2;

/** What clashes, and everything that would do away with it, each tried on the stretch where it clashes. */
export function mendsOf(problem: Problem, blocked: Blocked): BlockedWithMends {
  const clash = clashOf(problem, blocked);
  const index = problem.events.findIndex((event) => event.id === blocked.locus.event);
  const [from, to] = blocked.within ?? [index, index];
  const stretch = problem.events.slice(from, to + 1);
  const before = faults({ ...problem, events: stretch });
  const works = (events: readonly PlaceEvent[], setup: Setup = problem.setup): boolean =>
    faults({ ...problem, setup, events }) < before;
  const change = (event: string, n: number, by: (note: PlaceNote) => PlaceNote | null): PlaceEvent[] =>
    stretch
      .map((other) =>
        other.id === event
          ? { ...other, notes: other.notes.flatMap((note, i) => (i === n ? (by(note) ?? []) : [note])) }
          : other,
      )
      .filter((event) => event.notes.length > 0);
  const name = (event: string, n: number): string =>
    noteName(problem.events.find((other) => other.id === event)?.notes[n]?.pitch ?? 0, { octave: true });
  const mends: Mend[] = [];
  const offer = (mend: Mend, events: readonly PlaceEvent[]): void => {
    if (works(events)) mends.push(mend);
  };

  const involved =
    clash.length > 0
      ? clash
      : blocked.notes.map((note): ClashItem => ({ event: blocked.locus.event, note, what: 'note', words: '' }));
  for (const { event, note, what } of involved) {
    const n = note ?? 0;
    if (what === 'ring' || what === 'keep') {
      const short = stretch.map((other, i) =>
        other.id === event
          ? {
              ...other,
              ring: false,
              dur: shortened(stretch, i),
              notes: other.notes.map((note) => ({ ...note, dur: null, keep: undefined })),
            }
          : other,
      );
      offer(
        {
          kind: 'release',
          event,
          note: n,
          words:
            what === 'keep' ? `Lift the finger on ${name(event, n)}` : `Let ${name(event, n)} end at the next note`,
        },
        short,
      );
    } else if (what === 'link') {
      offer(
        { kind: 'unlink', event, words: 'Pick it anew instead' },
        stretch.map((other) => (other.id === event ? { ...other, link: null } : other)),
      );
    } else if (what === 'lock') {
      offer(
        { kind: 'unlock', event, note: n, words: `Free ${name(event, n)} from its string` },
        change(event, n, (note) => ({ ...note, lock: null })),
      );
    }
  }
  for (const { event, note, what } of involved) {
    if (note === null || what === 'link' || what === 'ring' || what === 'keep') continue;
    const asked = problem.events.find((other) => other.id === event)?.notes[note];
    if (!asked) continue;
    if (asked.lock && blocked.rule === 'lock' && clash.length === 0)
      offer(
        { kind: 'unlock', event, note, words: `Free ${name(event, note)} from its string` },
        change(event, note, (note) => ({ ...note, lock: null })),
      );
    if (asked.bend)
      offer(
        { kind: 'unbend', event, note, words: `Play ${name(event, note)} without its bend` },
        change(event, note, (note) => ({ ...note, bend: undefined })),
      );
    if (problem.events.find((other) => other.id === event)?.wish?.avoid?.length)
      offer(
        { kind: 'allow', event, words: 'Allow every string here' },
        stretch.map((other) => (other.id === event ? { ...other, wish: { ...other.wish, avoid: [] } } : other)),
      );
    if (asked.lock === null) {
      for (const by of [12, -12] as const)
        offer(
          { kind: 'octave', event, note, by, words: `${name(event, note)} an octave ${by > 0 ? 'up' : 'down'}` },
          change(event, note, (note) => ({ ...note, pitch: note.pitch + by })),
        );
      offer(
        { kind: 'leave', event, note, words: `Leave ${name(event, note)} out` },
        change(event, note, () => null),
      );
    }
  }
  mends.push(...setups(problem, stretch));
  return { clash, mends };
}

/** How much of a stretch can't be played. */
const faults = (problem: Problem): number => solve(problem).blocked.length;

/** The length that ends an event where the next begins; times are compared by the solver, so the shortest will do. */
function shortened(stretch: readonly PlaceEvent[], i: number): PlaceEvent['dur'] {
  const next = stretch[i + 1];
  return next && stretch[i] ? sub(next.at, stretch[i].at) : (stretch[i]?.dur ?? quarter(1));
}

/** Tunings of this instrument, and instruments, on which the stretch can be played as it sounds; the easiest first. */
function setups(problem: Problem, stretch: readonly PlaceEvent[]): Mend[] {
  const free = stretch.map((event) => ({
    ...event,
    notes: event.notes.map((note) => ({ ...note, lock: null })),
    wish: event.wish ? { ...event.wish, avoid: [], prefer: [] } : undefined,
  }));
  // Where it only takes freeing what is locked, nobody needs to tune.
  if (solve({ ...problem, events: free }).blocked.length === 0) return [];
  const { instrument } = problem.setup;
  const rank = (list: readonly { readonly setup: Setup; readonly mend: Mend }[]): Mend[] =>
    list
      .flatMap(({ setup, mend }) => {
        const solution = solve({ ...problem, setup, events: free });
        return solution.blocked.length > 0 ? [] : [{ mend, cost: bestWay(solution).cost }];
      })
      .sort((a, b) => a.cost - b.cost)
      .slice(0, SETUPS_OFFERED)
      .map((one) => one.mend);
  const capo = problem.setup.capos.map((capo) => ({ fret: capo.fret, strings: capo.strings }));
  const tunings = tuningsFor(instrument)
    .filter((tuning) => tuning.id !== problem.setup.tuningId)
    .flatMap((tuning) => {
      const made = makeSetup({ instrument, tuning: tuning.id, capo });
      return made.ok
        ? [
            {
              setup: made.value.setup,
              mend: { kind: 'tuning' as const, tuning: tuning.id, words: `Tune to ${tuning.name}` },
            },
          ]
        : [];
    });
  const others = INSTRUMENTS.filter((one) => one.id !== instrument.id).flatMap((instrument) => {
    const made = makeSetup({ instrument: instrument });
    return made.ok
      ? [
          {
            setup: made.value.setup,
            mend: { kind: 'instrument' as const, instrument: instrument.id, words: `Play it on: ${instrument.name}` },
          },
        ]
      : [];
  });
  return [...rank(tunings), ...rank(others)];
}

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
  const index = problem.events.findIndex((e) => e.id === blocked.locus.event);
  const [from, to] = blocked.within ?? [index, index];
  const stretch = problem.events.slice(from, to + 1);
  const before = faults({ ...problem, events: stretch });
  const works = (events: readonly PlaceEvent[], setup: Setup = problem.setup): boolean =>
    faults({ ...problem, setup, events }) < before;
  const change = (event: string, n: number, by: (note: PlaceNote) => PlaceNote | null): PlaceEvent[] =>
    stretch
      .map((e) => (e.id === event ? { ...e, notes: e.notes.flatMap((x, i) => (i === n ? (by(x) ?? []) : [x])) } : e))
      .filter((e) => e.notes.length > 0);
  const name = (event: string, n: number): string =>
    noteName(problem.events.find((e) => e.id === event)?.notes[n]?.pitch ?? 0, { octave: true });
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
      const short = stretch.map((e, i) =>
        e.id === event
          ? {
              ...e,
              ring: false,
              dur: shortened(stretch, i),
              notes: e.notes.map((x) => ({ ...x, dur: null, keep: undefined })),
            }
          : e,
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
        stretch.map((e) => (e.id === event ? { ...e, link: null } : e)),
      );
    } else if (what === 'lock') {
      offer(
        { kind: 'unlock', event, note: n, words: `Free ${name(event, n)} from its string` },
        change(event, n, (x) => ({ ...x, lock: null })),
      );
    }
  }
  for (const { event, note, what } of involved) {
    if (note === null || what === 'link' || what === 'ring' || what === 'keep') continue;
    const asked = problem.events.find((e) => e.id === event)?.notes[note];
    if (!asked) continue;
    if (asked.lock && blocked.rule === 'lock' && clash.length === 0)
      offer(
        { kind: 'unlock', event, note, words: `Free ${name(event, note)} from its string` },
        change(event, note, (x) => ({ ...x, lock: null })),
      );
    if (asked.bend)
      offer(
        { kind: 'unbend', event, note, words: `Play ${name(event, note)} without its bend` },
        change(event, note, (x) => ({ ...x, bend: undefined })),
      );
    if (problem.events.find((e) => e.id === event)?.wish?.avoid?.length)
      offer(
        { kind: 'allow', event, words: 'Allow every string here' },
        stretch.map((e) => (e.id === event ? { ...e, wish: { ...e.wish, avoid: [] } } : e)),
      );
    if (asked.lock === null) {
      for (const by of [12, -12] as const)
        offer(
          { kind: 'octave', event, note, by, words: `${name(event, note)} an octave ${by > 0 ? 'up' : 'down'}` },
          change(event, note, (x) => ({ ...x, pitch: x.pitch + by })),
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
  const free = stretch.map((e) => ({
    ...e,
    notes: e.notes.map((n) => ({ ...n, lock: null })),
    wish: e.wish ? { ...e.wish, avoid: [], prefer: [] } : undefined,
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
      .map((x) => x.mend);
  const capo = problem.setup.capos.map((c) => ({ fret: c.fret, strings: c.strings }));
  const tunings = tuningsFor(instrument)
    .filter((t) => t.id !== problem.setup.tuningId)
    .flatMap((t) => {
      const made = makeSetup({ instrument, tuning: t.id, capo });
      return made.ok
        ? [{ setup: made.value.setup, mend: { kind: 'tuning' as const, tuning: t.id, words: `Tune to ${t.name}` } }]
        : [];
    });
  const others = INSTRUMENTS.filter((i) => i.id !== instrument.id).flatMap((i) => {
    const made = makeSetup({ instrument: i });
    return made.ok
      ? [
          {
            setup: made.value.setup,
            mend: { kind: 'instrument' as const, instrument: i.id, words: `Play it on: ${i.name}` },
          },
        ]
      : [];
  });
  return [...rank(tunings), ...rank(others)];
}

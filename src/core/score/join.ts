import type { Note, RiffEvent } from './schema';
import type { Join } from './technique';

/**
 * Joins go note by note: within a chord one finger hammers while the others hold. A note says how it leads on; which
 * note it leads to is found here, in one way for the document, the solver, the sound and the drawings.
 */

/** One end of a join, as far as pairing needs it. */
export interface JoinEnd {
  /** Sounding pitch in semitones, cents as a fraction. */
  readonly pitch: number;
  /** Null where it is not known yet. */
  readonly string: number | null;
  /** A click without pitch leads nowhere, and nothing leads to it. */
  readonly dead: boolean;
}

/** Two notes joined: their indices in the event before and in this one. `hold`: the same note, not struck again. */
export interface JoinPair {
  readonly from: number;
  readonly to: number;
  readonly how: Join | 'hold';
}

/** What a pair costs that goes the wrong way, and a joined note that leads nowhere: more than any distance. */
const WRONG_WAY = 1000;
const NOWHERE = 5000;
/** What staying costs, so that a note of its own pitch is held rather than led away. */
const HELD = 0.5;

function pairCost(join: Join, from: JoinEnd, to: JoinEnd): number {
  if (from.string !== null && to.string !== null && from.string !== to.string) return Infinity;
  const up = to.pitch - from.pitch;
  if (up === 0) return HELD;
  const wrong = (join === 'hammer' && up < 0) || (join === 'pull' && up > 0);
  return Math.abs(up) + (wrong ? WRONG_WAY : 0);
}

/**
 * Which notes belong together where some notes of an event lead to the next: by string where strings are known, the
 * rest in order of pitch, so that as many as can go the right way and the fingers go the shortest way. `joins`: how
 * each note of `before` leads on, null where it doesn't. Two single notes always belong together, so that what can't
 * be played is told and not passed over.
 */
export function pairJoins(
  before: readonly JoinEnd[],
  joins: readonly (Join | null)[],
  after: readonly JoinEnd[],
): JoinPair[] {
  const first = joins[0];
  if (before.length === 1 && after.length === 1) {
    if (!first || before[0]?.dead || after[0]?.dead) return [];
    return [{ from: 0, to: 0, how: first }];
  }
  return matchJoins(before, joins, after);
}

/** The same without the rule for single notes: notes known to lie on two strings never belong together. */
export function matchJoins(
  before: readonly JoinEnd[],
  joins: readonly (Join | null)[],
  after: readonly JoinEnd[],
): JoinPair[] {
  const pair = (from: number, to: number): JoinPair => ({
    from,
    to,
    how: before[from]?.pitch === after[to]?.pitch ? 'hold' : (joins[from] ?? 'slide'),
  });
  const living = (ends: readonly JoinEnd[]): number[] =>
    ends.flatMap((end, i) => (end.dead ? [] : [i])).sort((a, b) => (ends[a]?.pitch ?? 0) - (ends[b]?.pitch ?? 0));
  const sources = living(before).filter((i) => joins[i]);
  const targets = living(after);
  const pairs: JoinPair[] = [];
  const taken = new Set<number>();
  const open = sources.filter((from) => {
    const string = before[from]?.string ?? null;
    const to = string === null ? undefined : targets.find((i) => after[i]?.string === string);
    if (to === undefined) return true;
    pairs.push(pair(from, to));
    taken.add(to);
    return false;
  });
  const free = targets.filter((to) => !taken.has(to));
  pairs.push(...inOrder(open, free, (from, to) => costOf(before, joins, after, from, to)).map(([a, b]) => pair(a, b)));
  return pairs.sort((a, b) => a.to - b.to);
}

function costOf(
  before: readonly JoinEnd[],
  joins: readonly (Join | null)[],
  after: readonly JoinEnd[],
  from: number,
  to: number,
): number {
  const [a, b, join] = [before[from], after[to], joins[from]];
  return a && b && join ? pairCost(join, a, b) : Infinity;
}

/** The cheapest pairing of two lists that keeps their order; by what is left of each list. */
function inOrder(
  from: readonly number[],
  to: readonly number[],
  cost: (from: number, to: number) => number,
): [number, number][] {
  const width = to.length + 1;
  const least = new Float64Array((from.length + 1) * width);
  for (let i = from.length - 1; i >= 0; i--) {
    for (let j = to.length; j >= 0; j--) {
      const skip = NOWHERE + (least[(i + 1) * width + j] ?? 0);
      const pass = j < to.length ? (least[i * width + j + 1] ?? 0) : Infinity;
      const both = j < to.length ? cost(from[i] ?? -1, to[j] ?? -1) + (least[(i + 1) * width + j + 1] ?? 0) : Infinity;
      least[i * width + j] = Math.min(skip, pass, both);
    }
  }
  const pairs: [number, number][] = [];
  for (let i = 0, j = 0; i < from.length && j < to.length;) {
    const here = least[i * width + j] ?? 0;
    if (here === cost(from[i] ?? -1, to[j] ?? -1) + (least[(i + 1) * width + j + 1] ?? 0)) {
      pairs.push([from[i++] ?? -1, to[j++] ?? -1]);
    } else if (here === least[i * width + j + 1]) j++;
    else i++;
  }
  return pairs;
}

const endOf = (note: Note): JoinEnd => ({
  pitch: note.pitch.midi + note.pitch.cents / 100,
  string: note.place?.string ?? null,
  dead: note.technique?.dead === true,
});

/** The same of a note as one that is led to: nothing leads to what is hammered from nowhere. */
const targetOf = (note: Note): JoinEnd => (note.technique?.hammered ? { ...endOf(note), dead: true } : endOf(note));

type Joined = Pick<RiffEvent, 'notes'> | null | undefined;

/** How the notes of an event are joined to those of the event before it. */
export function joinPairs(before: Joined, event: Pick<RiffEvent, 'notes'>): JoinPair[] {
  if (!before?.notes.some((note) => note.join)) return [];
  return pairJoins(
    before.notes.map(endOf),
    before.notes.map((note) => note.join ?? null),
    event.notes.map(targetOf),
  );
}

/** By the id of each note that is led to: from which note, and how. */
export function joinsInto(
  before: Joined,
  event: Pick<RiffEvent, 'notes'>,
): ReadonlyMap<string, { readonly from: Note; readonly how: JoinPair['how'] }> {
  return new Map(
    joinPairs(before, event).flatMap(({ from, to, how }) => {
      const [origin, note] = [before?.notes[from], event.notes[to]];
      return origin && note ? [[note.id, { from: origin, how }] as const] : [];
    }),
  );
}

/** Whether the picking hand strikes a note of an event, after the event before it. */
export function isStruck(before: Joined, event: Pick<RiffEvent, 'notes'>): boolean {
  if (event.notes.length === 0) return true;
  const into = joinsInto(before, event);
  return event.notes.some(({ id, technique }) => {
    const how = into.get(id)?.how;
    return (how === undefined || how === 'shift') && !technique?.hammered && !technique?.tapped;
  });
}

/** How an event is joined to the next one, by the first of its notes that is; null where none is. */
export const joinOf = (event: Joined): Join | null => event?.notes.find((note) => note.join)?.join ?? null;

/** A note joined to the next in a way, or with null to none. */
export function withNoteJoin({ join: _, ...note }: Note, join: Join | null): Note {
  return join === null ? note : { ...note, join };
}

/** An event all notes of which are joined to the next event in one way, or with null none. */
export const withJoin = (event: RiffEvent, join: Join | null): RiffEvent =>
  event.notes.every((note) => (note.join ?? null) === join)
    ? event
    : { ...event, notes: event.notes.map((note) => withNoteJoin(note, join)) };

/**
 * An event joined in one way to the event after it: the notes that lead to one of it, and no others. `only`: of these
 * notes alone; the others stay as they are.
 */
export function joinedTo(
  event: RiffEvent,
  next: Pick<RiffEvent, 'notes'>,
  join: Join,
  only: ReadonlySet<string> | null = null,
): RiffEvent {
  const asked = event.notes.map((note) => (only === null || only.has(note.id) ? join : (note.join ?? null)));
  const leads = new Set(pairJoins(event.notes.map(endOf), asked, next.notes.map(targetOf)).map(({ from }) => from));
  return {
    ...event,
    notes: event.notes.map((note, i) =>
      only !== null && !only.has(note.id) ? note : withNoteJoin(note, leads.has(i) ? join : null),
    ),
  };
}

import { expose } from 'comlink';
import type { Finger } from '@/core/base';
import {
  alternativesFor,
  bestWay,
  bestWays,
  differing,
  explainEvent,
  LOOKED_THROUGH,
  mendsOf,
  phrasesOf,
  priced,
  problemOf,
  proposals,
  solve,
  solving,
  termWords,
  viewOf,
  wayFacts,
  type Alternative,
  type Anchor,
  type Blocked,
  type BlockedWithMends,
  type Priced,
  type Problem,
  type Solution,
  type Term,
  type Way,
  type WayFacts,
} from '@/core/place';
import type { Place, Riff } from '@/core/score';
import { TaskMemory, type Asked, type Task } from './place-tasks';

export interface Placement {
  readonly changes: readonly { readonly note: string; readonly place: Place | null }[];
  readonly blocked: readonly Blocked[];
  /** The hand position at each event of the riff, in order: the fret of the index from the capo. */
  readonly hands: readonly number[];
}

/** The places of one note with their prices, and why it lies where it does: null until that is worked out. */
export interface Weighed {
  readonly list: readonly Alternative[];
  readonly why: string | null;
}

/** A place of one note in a way. */
export interface WayPlace {
  readonly event: string;
  readonly note: string;
  readonly string: number;
  readonly fret: number;
  readonly finger: Finger;
}

/** One way of playing the events chosen: what it costs above the best, its figures, and every place. */
export interface WayAnswer {
  readonly extra: number;
  readonly facts: WayFacts;
  /** Hand position of every event of the riff. */
  readonly hands: readonly number[];
  readonly places: readonly WayPlace[];
}

/** A phrase with its regions, and the question that would settle most. */
export interface PhraseAnswer {
  readonly from: string;
  readonly to: string;
  readonly sure: number;
  readonly regions: readonly {
    readonly share: number;
    readonly extra: number;
    readonly lowest: number;
    readonly highest: number;
    readonly open: number;
    readonly places: readonly WayPlace[];
  }[];
  readonly ask: Anchor | null;
}

/** Everything an event and the move into it are made of. */
export interface WhyAnswer {
  readonly hold: readonly WhyTerm[];
  readonly move: readonly WhyTerm[];
}

interface WhyTerm {
  readonly words: string;
  readonly cost: number;
}

/** The same riff for another hand. */
export interface HandAnswer {
  readonly cost: number;
  readonly facts: WayFacts;
  readonly blocked: number;
  readonly places: readonly WayPlace[];
}

/** Milliseconds of work before the worker looks whether something newer was asked. */
const BREATH = 12;
/** Riffs whose last solution is kept for the next question. */
const KEPT = 6;

const solutions = new Map<string, { readonly version: number; readonly solution: Solution }>();
let pricedLast: { readonly version: number; readonly known: Priced } | null = null;
let turn = 0;
let looks = 0;

function remember(task: Task, solution: Solution): Solution {
  solutions.delete(task.riff.id);
  solutions.set(task.riff.id, { version: task.version, solution });
  for (const id of solutions.keys()) if (solutions.size > KEPT) solutions.delete(id);
  return solution;
}

const problem = ({ riff, setup, tempo, options }: Task): Problem => problemOf(riff, setup, tempo, options);

function solved(task: Task): Solution {
  const known = solutions.get(task.riff.id);
  return known?.version === task.version
    ? known.solution
    : remember(task, solve(problem(task), known?.solution ?? null));
}

const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

function placesOf(riff: Riff, way: Way, from = 0): WayPlace[] {
  return way.events.flatMap((event, i) => {
    const written = riff.events[from + i];
    return event.notes.flatMap((to, index) => {
      const note = written?.notes[index];
      return to && written && note
        ? [{ event: written.id, note: note.id, string: to.string, fret: to.fret, finger: to.finger }]
        : [];
    });
  });
}

const whyTerms = (terms: readonly Term[]): WhyTerm[] =>
  terms
    .filter((term) => term.cost >= 0.005)
    .sort((a, b) => b.cost - a.cost)
    .map((term) => ({ words: termWords(term), cost: term.cost }));

const memory = new TaskMemory();
const taken = (asked: Asked): Task => memory.task(asked);

/** The door to core/place: one question at a time, plain data in and out. */
const door = {
  /** Places a riff, reusing what did not change since it was last asked. Null when `stop` was called meanwhile. */
  async solve(asked: Asked): Promise<Placement | null> {
    const task = taken(asked);
    const mine = ++turn;
    const steps = solving(problem(task), solutions.get(task.riff.id)?.solution ?? null);
    let until = performance.now() + BREATH;
    for (let step = steps.next(); ; step = steps.next()) {
      if (step.done) {
        const solution = remember(task, step.value);
        const way = bestWay(solution);
        return {
          changes: proposals(task.riff, way),
          blocked: solution.blocked,
          hands: way.events.map((event) => event.hand),
        };
      }
      if (performance.now() < until) continue;
      await breathe();
      if (mine !== turn) return null;
      until = performance.now() + BREATH;
    }
  },
  /** Drops the solving that is under way: its riff has changed. */
  stop(): void {
    turn++;
  },
  /** A few ways of playing chosen events that differ as a player would say, everything else as it lies now. */
  ways(given: Asked, chosen: readonly string[], howMany: number): WayAnswer[] {
    const task = taken(given);
    const { riff } = task;
    const asked = problem(task);
    const events = asked.events.map((event, i) => {
      if (chosen.includes(event.id)) return event;
      return {
        ...event,
        notes: event.notes.map((note, index) => {
          const place = riff.events[i]?.notes[index]?.place;
          return place
            ? { ...note, lock: { string: place.string, fret: place.fret, finger: note.lock?.finger ?? null } }
            : note;
        }),
      };
    });
    const solution = solve({ ...asked, events });
    const found = bestWays(solution, LOOKED_THROUGH);
    // Regions first: what only differs by a detail must not crowd them out.
    const first =
      chosen.length === asked.events.length
        ? viewOf({ ...asked, events }, { from: 0, to: events.length - 1 }).regions.map((region) => region.way)
        : [];
    const ways = differing(
      [...first, ...found].sort((a, b) => a.cost - b.cost),
      howMany,
    );
    const least = ways[0]?.cost ?? 0;
    return ways.map((way) => ({
      extra: way.cost - least,
      facts: wayFacts(solution, way),
      hands: way.events.map((event) => event.hand),
      places: placesOf(riff, way).filter((place) => chosen.includes(place.event)),
    }));
  },
  /** What a mixture of ways costs, and whether it can be played at all. */
  mixed(given: Asked, places: readonly WayPlace[]): { cost: number; blocked: number; facts: WayFacts } {
    const task = taken(given);
    const asked = problem(task);
    const at = new Map(places.map((place) => [place.note, place]));
    const events = asked.events.map((event, i) => ({
      ...event,
      notes: event.notes.map((note, index) => {
        const place = at.get(task.riff.events[i]?.notes[index]?.id ?? '');
        return place ? { ...note, lock: { string: place.string, fret: place.fret, finger: null } } : note;
      }),
    }));
    const solution = solve({ ...asked, events });
    const way = bestWay(solution);
    return { cost: way.cost, blocked: solution.blocked.length, facts: wayFacts(solution, way) };
  },
  alternatives(given: Asked, event: number, note: number): Weighed {
    const task = taken(given);
    const asked = problem(task);
    if (pricedLast?.version !== task.version) pricedLast = { version: task.version, known: priced(asked) };
    const list = alternativesFor(asked, event, note, pricedLast.known);
    const known = solutions.get(task.riff.id);
    const events = known?.version === task.version ? bestWay(known.solution).events : [];
    const placed = events[event];
    return { list, why: placed ? explainEvent(placed, events[event - 1] ?? null) : null };
  },
  /** What the event with this index, and the move into it, cost, term by term. */
  why(given: Asked, event: number): WhyAnswer {
    const task = taken(given);
    const placed = bestWay(solved(task)).events[event];
    return { hold: whyTerms(placed?.hold ?? []), move: whyTerms(placed?.move ?? []) };
  },
  /**
   * Phrases of the riff with the regions each may lie in, or only the one an event belongs to. Null
   * when something newer is asked meanwhile: placing goes first.
   */
  async phrases(given: Asked, only: string | null): Promise<PhraseAnswer[] | null> {
    const task = taken(given);
    const mine = ++looks;
    const placing = turn;
    const asked = problem(task);
    const at = asked.events.findIndex((event) => event.id === only);
    const answers: PhraseAnswer[] = [];
    for (const phrase of phrasesOf(asked.events, asked.meters)) {
      if (only !== null && (at < phrase.from || at > phrase.to)) continue;
      const { from, to, sure, regions, ask } = viewOf(asked, phrase);
      answers.push({
        from,
        to,
        sure,
        ask,
        regions: regions.map(({ way, share, extra, lowest, highest, open }) => ({
          share,
          extra,
          lowest,
          highest,
          open,
          places: placesOf(task.riff, way, phrase.from),
        })),
      });
      await breathe();
      if (mine !== looks || placing !== turn) return null;
    }
    return answers;
  },
  /** What clashes and what would mend it. */
  mends(given: Asked, blocked: Blocked): BlockedWithMends {
    return mendsOf(problem(taken(given)), blocked);
  },
  /** The riff for this task's hand, nothing locked that is not the instructor's. */
  hand(task: Task): HandAnswer {
    const solution = solve(problem(task));
    const way = bestWay(solution);
    return {
      cost: way.cost,
      facts: wayFacts(solution, way),
      blocked: solution.blocked.length,
      places: placesOf(task.riff, way),
    };
  },
};

export type PlaceDoor = typeof door;
expose(door);

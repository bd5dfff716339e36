import { noteName } from '../pitch';
import type { Slice } from './slice';
import { makeSlices, noteKey, type Relaxed } from './slices';
import { playable, type Workspace } from './search';
import { blockedAt } from './blocked';
import type { Blocked, Problem } from './types';

interface Candidate {
  readonly weight: number;
  readonly blocked: Blocked;
  readonly give: (relaxed: Relaxed) => void;
}

/** What is given up for a dead end lies at most so many slices before it. */
export const RELAX_REACH = 7;

/** Combinations tried at most at one place; beyond that what can stay is found piece by piece. */
const TRIES = 400;

/**
 * Finds the smallest set of limits to give up where the search dies at slice `dead`, gives it up
 * in `relaxed`, and says so. Rings are given up before links, links before notes. Exhaustive by
 * growing size over everything that meets at that slice, as far as that is few enough; beyond, a set of which nothing
 * can be taken back by itself.
 */
export function relaxAt(
  problem: Problem,
  desk: Workspace,
  slices: readonly Slice[],
  relaxed: Relaxed,
  dead: number,
): Blocked[] {
  const start = chainStart(slices, dead);
  const candidates = candidatesAt(problem, slices, relaxed, start, dead);
  const works = (set: readonly Candidate[]): boolean => {
    const trial = copyOf(relaxed);
    for (const candidate of set) candidate.give(trial);
    return playable(desk, makeSlices(problem, trial, start, dead + 1));
  };
  const giveUp = (set: readonly Candidate[]): Blocked[] => {
    for (const candidate of set) candidate.give(relaxed);
    return set.map((candidate) => ({ ...candidate.blocked, within: [start, dead] }));
  };
  let tries = 0;
  for (let size = leastToGive(slices[dead], problem); size <= candidates.length; size++) {
    tries += choose(candidates.length, size);
    if (tries > TRIES) break;
    const sets = combinations(candidates, size).sort((a, b) => weigh(a) - weigh(b));
    for (const set of sets) if (works(set)) return giveUp(set);
  }
  // Too many to try them all: everything is given up, and then taken back piece by piece where that can be played.
  let given: readonly Candidate[] = candidates;
  for (const candidate of [...candidates].sort((a, b) => b.weight - a.weight)) {
    const fewer = given.filter((one) => one !== candidate);
    if (works(fewer)) given = fewer;
  }
  return giveUp(given);
}

/** More notes at once than strings can't be played by any hand: so many have to go at least. */
function leastToGive(slice: Slice | undefined, { setup }: Problem): number {
  const strings = setup.instrument.strings.length - setup.absent.length;
  return Math.max(1, (slice?.voices.length ?? 0) - strings);
}

/** How many combinations of `size` out of `count` there are. */
function choose(count: number, size: number): number {
  let ways = 1;
  for (let i = 1; i <= size; i++) ways = (ways * (count - size + i)) / i;
  return ways;
}

const weigh = (set: readonly Candidate[]): number => set.reduce((sum, candidate) => sum + candidate.weight, 0);

/** Back to the last slice that nothing from before binds. */
export function chainStart(slices: readonly Slice[], dead: number): number {
  let start = dead;
  while (
    start > 0 &&
    (slices[start]?.linked.length ||
      slices[start]?.still.length ||
      slices[start]?.voices.some((voice) => voice.heldFrom >= 0))
  )
    start--;
  return start;
}

function candidatesAt(
  problem: Problem,
  slices: readonly Slice[],
  relaxed: Relaxed,
  start: number,
  dead: number,
): Candidate[] {
  const found: Candidate[] = [];
  const eventId = (e: number): string => problem.events[e]?.id ?? '';
  const name = (pitch: number): string => noteName(pitch, { octave: true });
  const here = slices[dead];
  for (const [from] of here?.same ?? []) {
    const voice = slices[dead - 1]?.voices[from];
    if (!voice) continue;
    found.push({
      weight: 1,
      blocked: blockedAt(
        eventId(voice.event),
        [],
        'ring',
        `The finger on ${name(voice.pitch)} can't be kept down until it comes again.`,
      ),
      give: (relaxed) => relaxed.released.set(noteKey(voice.event, voice.note), dead),
    });
  }
  for (const voice of here?.voices ?? []) {
    if (voice.heldFrom < 0) continue;
    found.push({
      weight: 1,
      blocked: blockedAt(
        eventId(voice.event),
        [],
        'ring',
        voice.silent
          ? `The finger on ${name(voice.pitch)} can't be kept down here: the hand needs it.`
          : `${name(voice.pitch)} can't ring on under the note at ${problem.events[dead]?.at ?? ''}: string or fingers are needed.`,
      ),
      give: (relaxed) => relaxed.released.set(noteKey(voice.event, voice.note), dead),
    });
  }
  for (let i = Math.max(start + 1, dead - RELAX_REACH + 1); i <= dead; i++) {
    const slice = slices[i];
    const link = slice?.link ?? (slice?.still.length ? 'hold' : null);
    if (!link || relaxed.unlinked.has(i - 1)) continue;
    found.push({
      weight: 3,
      blocked: blockedAt(
        eventId(i - 1),
        [],
        'link',
        `${LINK_WORDS[link]} to ${problem.events[i]?.notes.map((note) => name(note.pitch)).join(', ') ?? ''} can't be made on one string in that direction.`,
      ),
      give: (relaxed) => relaxed.unlinked.add(i - 1),
    });
  }
  for (const voice of here?.voices ?? []) {
    if (voice.heldFrom >= 0 || voice.over >= 0) continue;
    const limit = voice.lock ? 'lock' : 'reach';
    const why = voice.lock
      ? `${name(voice.pitch)} locked on string ${voice.lock.string}, fret ${voice.lock.fret} can't be held together with the rest of this chord.`
      : voice.bend > 0 && (here?.voices.length ?? 0) === 1
        ? `No place of ${name(voice.pitch)} lets a finger bend it so far.`
        : `No hand reaches ${name(voice.pitch)} together with the rest of this chord.`;
    found.push({
      weight: voice.lock ? 14 : 10,
      blocked: blockedAt(eventId(voice.event), [voice.note], limit, why),
      give: (relaxed) => relaxed.dropped.add(noteKey(voice.event, voice.note)),
    });
  }
  return found;
}

const LINK_WORDS = {
  hammer: 'The hammer-on',
  pull: 'The pull-off',
  slide: 'The slide',
  hold: 'The chord held',
} as const;

function copyOf(relaxed: Relaxed): Relaxed {
  return {
    dropped: new Set(relaxed.dropped),
    unlinked: new Set(relaxed.unlinked),
    released: new Map(relaxed.released),
  };
}

export function combinations<T>(list: readonly T[], size: number): T[][] {
  if (size === 0) return [[]];
  return list.flatMap((item, i) => combinations(list.slice(i + 1), size - 1).map((rest) => [item, ...rest]));
}

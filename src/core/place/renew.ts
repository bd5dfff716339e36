import equal from 'fast-deep-equal';
import type { Slice } from './slice';
import { cutting, nothingRelaxed, PEDAL_REACH } from './slices';
import type { Problem } from './types';

/** How far a change of one event reaches back: what a pedal is depends on so many events after it. */
const REACH_BACK = PEDAL_REACH + 1;

/** Whether nothing from before binds a slice or sounds in it. */
const unbound = (slice: Slice): boolean =>
  slice.linked.length === 0 &&
  slice.still.length === 0 &&
  slice.same.length === 0 &&
  slice.voices.every((voice) => voice.heldFrom < 0);

/**
 * The slices of a problem, taken from those of an earlier one where its events are the same. Only
 * for problems of which nothing has to be given up; linear in the events only by comparing them.
 */
export function renewSlices(problem: Problem, earlier: Problem, old: readonly Slice[]): Slice[] {
  const { events } = problem;
  const before = earlier.events;
  const least = Math.min(events.length, before.length);
  let head = 0;
  while (head < least && equal(events[head], before[head])) head++;
  if (head === events.length && head === before.length) return [...old];
  let tail = 0;
  while (tail < least - head && equal(events[events.length - 1 - tail], before[before.length - 1 - tail])) tail++;
  let from = Math.max(0, head - REACH_BACK);
  const own = (e: number): Slice | undefined => old[e];
  while (from > 0 && !(own(from) && unbound(own(from) as Slice))) from--;
  const slices = old.slice(0, from);
  const cut = cutting(problem, nothingRelaxed(), from, from > 0 ? (own(from - 1)?.quiet ?? null) : null);
  const shift = before.length - events.length;
  for (let e = from; e < events.length; e++) {
    const slice = cut(e);
    slices.push(slice);
    const then = own(e + shift);
    if (
      e < events.length - tail + REACH_BACK ||
      !then ||
      !unbound(slice) ||
      !unbound(then) ||
      slice.key !== then.key ||
      slice.moveKey !== then.moveKey ||
      slice.quiet !== then.quiet
    )
      continue;
    for (let i = e + 1; i < events.length; i++) {
      const kept = own(i + shift);
      if (kept)
        slices.push(
          shift === 0
            ? kept
            : { ...kept, event: i, voices: kept.voices.map((voice) => ({ ...voice, event: voice.event - shift })) },
        );
    }
    break;
  }
  return slices;
}

import type { Setup } from '../instrument';
import type { Riff, RiffEvent } from '../score';
import type { TempoStep } from '../time';
import { DEFAULT_OPTIONS } from './options';
import { problemOf, proposals } from './riff';
import { bestWay, solve } from './solve';
import type { Blocked, PlaceOptions, Way } from './types';

/** A riff with the best way's places and fingers filled in around what is locked, and what could not be placed. */
export function placeRiff(
  riff: Riff,
  setup: Setup,
  tempo: readonly TempoStep[],
  options: PlaceOptions = DEFAULT_OPTIONS,
): { riff: Riff; blocked: readonly Blocked[] } {
  const solution = solve(problemOf(riff, setup, tempo, options));
  return { riff: inWay(riff, bestWay(solution)), blocked: solution.blocked };
}

/** A riff as a way plays it: places and fingers filled in around what is locked. */
export function inWay(riff: Riff, way: Way): Riff {
  const changes = new Map(proposals(riff, way).map((one) => [one.note, one.place]));
  const events = riff.events.map((event): RiffEvent => ({
    ...event,
    notes: event.notes.map((note) => (changes.has(note.id) ? { ...note, place: changes.get(note.id) ?? null } : note)),
  }));
  return { ...riff, events };
}

import type { Riff, RiffEvent } from './schema';

/** What makes one riff of another that has the same events at the same places of its list, most of them untouched. */
export interface Difference {
  /** The riff without its events. */
  readonly frame: Omit<Riff, 'events'>;
  /** Events that are not the same object, by their index. */
  readonly put: readonly (readonly [index: number, event: RiffEvent])[];
}

/**
 * What changed from one version of a riff to the next, told by identity: documents are never
 * changed in place. Null where events came, went or more than a quarter of them changed: then the
 * whole riff is the shorter thing to say.
 */
export function differenceOf(before: Riff, after: Riff): Difference | null {
  if (before.id !== after.id || before.events.length !== after.events.length) return null;
  const put: [number, RiffEvent][] = [];
  for (const [i, event] of after.events.entries()) if (event !== before.events[i]) put.push([i, event]);
  if (put.length > after.events.length / 4) return null;
  const { events: _, ...frame } = after;
  return { frame, put };
}

/**
 * The later version of a riff: `before` with a difference laid over it. Events that did not change stay the same
 * objects.
 */
export function withDifference(before: Riff, { frame, put }: Difference): Riff {
  const events = [...before.events];
  for (const [i, event] of put) events[i] = event;
  return { ...frame, events };
}

import type { RiffEvent } from '../score';

/** What holds for all of a stretch is said once before it, and not again at every note. */

/** Ways of playing that may hold throughout. */
const COMMON = ['mute', 'letRing', 'slideBar', 'gate', 'stroke'] as const;
type Common = (typeof COMMON)[number];

/** As many events as a stretch has at least before anything is said of all of them. */
const LEAST = 3;

/**
 * The events without what all of them have in common, and that by itself: an event of it, to be spoken. Null where
 * nothing is.
 */
export function withoutCommon(events: readonly RiffEvent[]): {
  readonly events: readonly RiffEvent[];
  readonly common: Pick<RiffEvent, Common> | null;
} {
  const played = events.filter((event) => !event.kind && !event.grace);
  const first = played[0];
  if (!first || played.length < LEAST) return { events, common: null };
  const same = COMMON.filter((name) => first[name] && played.every((event) => event[name] === first[name]));
  if (same.length === 0) return { events, common: null };
  const common = Object.fromEntries(same.map((name) => [name, first[name]])) as unknown as Pick<RiffEvent, Common>;
  return {
    events: events.map((event) =>
      event.kind || event.grace
        ? event
        : ({
            ...event,
            ...Object.fromEntries(same.map((name) => [name, name === 'letRing' ? false : undefined])),
          } as RiffEvent),
    ),
    common,
  };
}

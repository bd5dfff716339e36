import equal from 'fast-deep-equal';
import { fail, freshIds, ok, type Result } from '../base';
import type { Edit, SimpleEdit } from '../edit';
import { findRiff, type Note, type Piece, type Riff, type RiffEvent } from '../score';
import { setFrame, type FrameChange } from './frame';
import { amountWords } from '../rhythm';
import { cmp, maxQuarter, sub, ZERO, type Quarter, type TempoStep } from '../time';

/** What a note says, without its id and who said it. */
const noteSaid = ({ id: _, pitch, place, ...note }: Note): unknown => ({
  ...note,
  midi: pitch.midi,
  cents: pitch.cents,
  place: place && {
    string: place.string,
    fret: place.fret,
    locked: place.locked,
    finger: place.finger,
    or: place.otherFinger,
    reason: place.reason,
    yours: place.finger !== null && place.fret > 0 && place.fingerBy === 'instructor',
  },
});

const eventSaid = ({ id: _, notes, ...event }: RiffEvent): string =>
  JSON.stringify(sorted({ ...event, notes: notes.map(noteSaid) }));

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, one]) => one !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, one]) => [key, sorted(one)]),
  );
}

/**
 * Writes events in place of others: those that say the same as before stay what they were, with
 * their ids, who decided and all. Refused where the new ones would run over what is not replaced.
 */
export function rewriteEvents(
  piece: Piece,
  riffId: string,
  replaced: readonly string[],
  events: readonly RiffEvent[],
  until: Quarter,
): Result<SimpleEdit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const gone = new Set(replaced);
  const from = events[0]?.at;
  const covered =
    from === undefined
      ? undefined
      : riff.events.find(
          (event) => !gone.has(event.id) && !event.grace && cmp(event.at, from) >= 0 && cmp(event.at, until) < 0,
        );
  if (covered)
    return fail(
      'no-room',
      `That is longer than what it replaces and would cover the note after it by ${amountWords(sub(until, covered.at))}. Shorten it, or choose more notes.`,
      { event: covered.id },
    );
  const old = new Map(riff.events.filter((event) => gone.has(event.id)).map((event) => [eventSaid(event), event]));
  const kept = new Set<string>();
  for (const event of events) {
    const same = old.get(eventSaid(event));
    if (same) kept.add(same.id);
  }
  const fresh = freshIds(piece.lastId);
  const put = events.flatMap((event) =>
    old.get(eventSaid(event))
      ? []
      : [{ ...event, id: fresh('e'), notes: event.notes.map((note) => ({ ...note, id: fresh('n') })) }],
  );
  const remove = riff.events.filter((event) => gone.has(event.id) && !kept.has(event.id)).map((event) => event.id);
  const ids = new Set(put.map((event) => event.id));
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put, remove: remove.filter((id) => !ids.has(id)) });
}

/** What was said of a riff's frame in calls. */
export interface SaidFrame {
  readonly meters?: Riff['meters'];
  readonly tempo?: readonly TempoStep[];
  readonly feel?: NonNullable<Riff['feel']>;
  readonly pickup?: Quarter;
  /** Bars that were filled with rests at the end. */
  readonly bars?: number;
}

/** Lays a frame said in a stretch over a riff's own; `whole` replaces it. Null where it changes nothing. */
export function saidFrame(
  piece: Piece,
  riffId: string,
  frame: SaidFrame,
  until: Quarter,
  whole: boolean,
): Result<Edit> | null {
  const found = findRiff(piece, riffId);
  if (!found) return null;
  const { riff } = found;
  const over = <T extends { readonly at: Quarter }>(
    now: readonly T[],
    spec: readonly T[] | undefined,
  ): readonly T[] | null => {
    if (spec === undefined) return null;
    const first = spec[0]?.at ?? ZERO;
    return [
      ...now.filter((one) => cmp(one.at, first) < 0),
      ...spec,
      ...now.filter((one) => cmp(one.at, until) >= 0 && !spec.some((other) => other.at === one.at)),
    ];
  };
  const base = riff.tempo ?? piece.context.tempo.slice(0, 1);
  const straight = riff.feel ?? [{ at: ZERO, swing: 50, unit: '1/2' as const }];
  const change: FrameChange = whole
    ? {
        meters: frame.meters ?? riff.meters,
        tempo: frame.tempo ? startsAtZero(frame.tempo, base) : null,
        feel: frame.feel ? startsAtZero(frame.feel, straight) : null,
        ...(frame.pickup ? { pickup: frame.pickup } : {}),
      }
    : {
        ...(frame.meters ? { meters: frame.meters } : {}),
        ...(frame.tempo ? { tempo: over(base, frame.tempo) } : {}),
        ...(frame.feel ? { feel: over(straight, frame.feel) } : {}),
        ...(frame.bars !== undefined && frame.bars > riff.bars ? { bars: frame.bars } : {}),
        ...(frame.pickup ? { pickup: maxQuarter(frame.pickup, riff.pickup) } : {}),
      };
  const news = Object.entries(change).filter(
    ([key, value]) => !equal(value ?? null, riff[key as 'meters' | 'tempo' | 'feel' | 'pickup' | 'bars'] ?? null),
  );
  return news.length === 0 ? null : setFrame(piece, riffId, Object.fromEntries(news) as FrameChange);
}

const startsAtZero = <T extends { readonly at: Quarter }>(steps: readonly T[], before: readonly T[]): readonly T[] => {
  const [first] = before;
  return steps[0]?.at === ZERO || !first ? steps : [{ ...first, at: ZERO }, ...steps];
};

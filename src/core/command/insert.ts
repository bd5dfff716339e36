import { fail, freshIds, ok, type Result } from '../base';
import type { Edit, SimpleEdit } from '../edit';
import { findRiff, type Piece, type Riff, type RiffEvent } from '../score';
import { add, barLength, barOf, barStart, cmp, sub, ZERO, type Quarter } from '../time';
import { setFrame } from './frame';
import { together } from './fields';

/** Putting notes where others may stand: over them, or with room made for them. Nothing goes without being told. */

/**
 * How notes go into a riff: over what begins in their stretch, refused where some of it is locked; over locked notes
 * too; or with the later music moved by their length, or by whole bars.
 */
export type Insertion = 'over' | 'over-locked' | 'by-beat' | 'by-bar';

/** What begins in a stretch, and how many of its notes the instructor has locked to their places. */
export interface Standing {
  readonly events: readonly RiffEvent[];
  readonly locked: number;
}

export function standingIn(riff: Pick<Riff, 'events'>, from: Quarter, until: Quarter): Standing {
  const events = riff.events.filter((event) => cmp(event.at, from) >= 0 && cmp(event.at, until) < 0);
  const locked = events.flatMap((event) => event.notes).filter((note) => note.place?.locked).length;
  return { events, locked };
}

/** Puts events into a riff from a time on. Ids are made fresh. */
export function insertEvents(
  piece: Piece,
  riffId: string,
  events: readonly RiffEvent[],
  until: Quarter,
  how: Insertion = 'over',
): Result<Edit> {
  const found = findRiff(piece, riffId);
  const first = events[0];
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  if (!first) return fail('nothing', 'There is nothing to put in.', { riff: riffId });
  const { part, riff } = found;
  const fresh = freshIds(piece.lastId);
  const put = events.map((event) => ({
    ...event,
    id: fresh('e'),
    notes: event.notes.map((note) => ({ ...note, id: fresh('n') })),
  }));
  if (how === 'over' || how === 'over-locked') {
    const standing = standingIn(riff, first.at, until);
    if (standing.locked > 0 && how === 'over')
      return fail(
        'locked',
        `${standing.locked === 1 ? 'A note you locked stands' : `${standing.locked} notes you locked stand`} there. Insert instead, free ${standing.locked === 1 ? 'it' : 'them'}, or write over on purpose.`,
        { event: standing.events[0]?.id ?? '' },
      );
    return ok({ type: 'putEvents', part: part.id, riff: riff.id, put, remove: standing.events.map(({ id }) => id) });
  }
  const from = cmp(first.at, ZERO) < 0 ? ZERO : first.at;
  const length = sub(until, first.at);
  const by = how === 'by-beat' ? length : wholeBars(riff, from, length);
  const later = riff.events
    .filter((event) => cmp(event.at, first.at) >= 0)
    .map((event) => ({ ...event, at: add(event.at, by) }));
  const moved: SimpleEdit = { type: 'putEvents', part: part.id, riff: riff.id, put: [...later, ...put], remove: [] };
  const edits: Edit[] = [moved];
  for (const step of [frameMoved(piece, riff, from, by), placesMoved(riff, part.id, from, by)]) {
    if (step === null) continue;
    if (!step.ok) return step;
    // What frames the notes goes first: a bar that isn't there yet can't hold them.
    edits.unshift(step.value);
  }
  return ok(edits.length === 1 ? moved : together(`inserted ${events.length} notes`, edits));
}

/** As many whole bars as hold a length, from the bar a time lies in. */
function wholeBars(riff: Riff, from: Quarter, length: Quarter): Quarter {
  const meter = riff.meters.filter((one) => one.bar <= barOf(riff.meters, from).bar).at(-1);
  const bar = barLength(meter ?? { beats: 4, unit: 4 });
  let by = bar;
  while (cmp(by, length) < 0) by = add(by, bar);
  return by;
}

/** Meters, tempo and feel after `from` move with the music; nothing where there are none. */
function frameMoved(piece: Piece, riff: Riff, from: Quarter, by: Quarter): Result<Edit> | null {
  const { bar } = barOf(riff.meters, from);
  const bars = barOf(riff.meters, add(barStart(riff.meters, Math.max(0, bar)), by));
  const whole = bars.offset === ZERO ? bars.bar - Math.max(0, bar) : 0;
  const later = <T extends { readonly at: Quarter }>(steps: readonly T[] | undefined): T[] | undefined =>
    steps?.map((step) => (cmp(step.at, from) >= 0 && step.at !== ZERO ? { ...step, at: add(step.at, by) } : step));
  const meters = riff.meters.map((meter) => (meter.bar > bar ? { ...meter, bar: meter.bar + whole } : meter));
  const change = {
    bars: riff.bars + whole,
    meters,
    ...(riff.tempo ? { tempo: later(riff.tempo) } : {}),
    ...(riff.feel ? { feel: later(riff.feel) } : {}),
  };
  return whole === 0 && !riff.tempo && !riff.feel ? null : setFrame(piece, riff.id, change);
}

/** Wishes and alternatives after `from` move with the music they are about. */
function placesMoved(riff: Riff, part: string, from: Quarter, by: Quarter): Result<Edit> | null {
  if (!riff.wishes && !riff.alternatives) return null;
  const stretch = <T extends { readonly from: Quarter; readonly to: Quarter }>(one: T): T =>
    cmp(one.from, from) >= 0 ? { ...one, from: add(one.from, by), to: add(one.to, by) } : one;
  const set = {
    ...(riff.wishes ? { wishes: riff.wishes.map(stretch) } : {}),
    ...(riff.alternatives
      ? {
          alternatives: riff.alternatives.map((one) =>
            cmp(one.from, from) >= 0
              ? { ...stretch(one), events: one.events.map((event) => ({ ...event, at: add(event.at, by) })) }
              : one,
          ),
        }
      : {}),
  };
  return ok({ type: 'patchRiff', part, riff: riff.id, set, clear: [] });
}

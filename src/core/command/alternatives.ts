import { fail, freshIds, ok, type Result } from '../base';
import type { Edit, SimpleEdit } from '../edit';
import { findRiff, joinOf, riffIds, withJoin, type Alternative, type Piece, type Riff, type RiffEvent } from '../score';
import { cmp, type Quarter } from '../time';

const inside = (riff: Riff, from: Quarter, to: Quarter): RiffEvent[] =>
  riff.events.filter((event) => cmp(startOf(riff, event), from) >= 0 && cmp(startOf(riff, event), to) < 0);

/** Where an event stands for a stretch: a grace note where the note it leads to stands. */
function startOf(riff: Riff, event: RiffEvent): Quarter {
  if (!event.grace) return event.at;
  const main = riff.events.slice(riff.events.indexOf(event)).find((event) => !event.grace);
  return main ? main.at : event.at;
}

const patchAlternatives = (part: string, riff: string, alternatives: readonly Alternative[]): SimpleEdit =>
  alternatives.length > 0
    ? { type: 'patchRiff', part, riff, set: { alternatives }, clear: [] }
    : { type: 'patchRiff', part, riff, set: {}, clear: ['alternatives'] };

/** Keeps a stretch as it is written now, as an alternative beside it, so that it may be written otherwise. */
export function keepAlternative(
  piece: Piece,
  riffId: string,
  from: Quarter,
  to: Quarter,
  name: string,
  remark = '',
): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  if (cmp(to, from) <= 0)
    return fail('empty-stretch', 'An alternative needs a stretch that ends after it begins.', { riff: riffId });
  const kept = riff.alternatives ?? [];
  const alternative: Alternative = {
    id: freshIds(piece.lastId)('v'),
    name,
    remark,
    from,
    to,
    events: inside(riff, from, to),
  };
  return ok(patchAlternatives(part.id, riff.id, [...kept, alternative]));
}

/**
 * Writes a kept alternative; what stood there is kept in its place, so nothing is lost and taking it again gives it
 * back.
 */
export function swapAlternative(piece: Piece, riffId: string, id: string): Result<Edit> {
  const found = findRiff(piece, riffId);
  const alternative = found?.riff.alternatives?.find((one) => one.id === id);
  if (!found || !alternative)
    return fail('no-alternative', 'That alternative is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const now = inside(riff, alternative.from, alternative.to);
  const taken = riffIds(riff);
  for (const event of now) {
    taken.delete(event.id);
    for (const note of event.notes) taken.delete(note.id);
  }
  const next = freshIds(piece.lastId);
  const fresh = (given: string, prefix: string): string => {
    const free = taken.has(given) ? next(prefix) : given;
    taken.add(free);
    return free;
  };
  const put = alternative.events.map((event) => ({
    ...event,
    id: fresh(event.id, 'e'),
    notes: event.notes.map((note) => ({ ...note, id: fresh(note.id, 'n') })),
  }));
  const before = riff.events[riff.events.indexOf(now[0] ?? (riff.events[0] as RiffEvent)) - 1];
  const edits: SimpleEdit[] = [
    {
      type: 'putEvents',
      part: part.id,
      riff: riff.id,
      put: [...(before && joinOf(before) && now.length > 0 ? [withJoin(before, null)] : []), ...put],
      remove: now.filter((event) => !put.some((other) => other.id === event.id)).map((event) => event.id),
    },
    patchAlternatives(
      part.id,
      riff.id,
      (riff.alternatives ?? []).map((one) =>
        one.id === id ? { ...one, name: swapped(alternative.name), events: now } : one,
      ),
    ),
  ];
  return ok({ type: 'batch', what: `took the alternative "${alternative.name}"`, edits });
}

/** What stood there before keeps the name with a mark, and loses the mark when it is taken back. */
const BEFORE = 'instead of ';
const swapped = (name: string): string =>
  name.startsWith(BEFORE) ? name.slice(BEFORE.length) : `${BEFORE}${name}`.slice(0, 80);

export function deleteAlternative(piece: Piece, riffId: string, id: string): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const left = (found.riff.alternatives ?? []).filter((one) => one.id !== id);
  return ok(patchAlternatives(found.part.id, riffId, left));
}

/** A riff as it would be with an alternative written, for hearing it beside. */
export function withAlternative(riff: Riff, alternative: Alternative): Riff {
  const now = new Set(inside(riff, alternative.from, alternative.to));
  const events = [
    ...riff.events.filter((event) => !now.has(event)),
    ...alternative.events.map((event) => ({ ...event, id: `${alternative.id}-${event.id}` })),
  ].sort((a, b) => cmp(a.at, b.at));
  return { ...riff, events };
}

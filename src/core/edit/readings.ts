import { fail, ok, stableId, type Result } from '../base';
import { findRiff, riffIds, type Piece, type Reading, type Riff, type RiffEvent } from '../score';
import { cmp, type Quarter } from '../time';
import type { Edit, SimpleEdit } from './types';

const inside = (riff: Riff, from: Quarter, to: Quarter): RiffEvent[] =>
  riff.events.filter((e) => cmp(startOf(riff, e), from) >= 0 && cmp(startOf(riff, e), to) < 0);

/** Where an event stands for a stretch: a grace note where the note it leads to stands. */
function startOf(riff: Riff, event: RiffEvent): Quarter {
  if (!event.grace) return event.at;
  const main = riff.events.slice(riff.events.indexOf(event)).find((e) => !e.grace);
  return main ? main.at : event.at;
}

/** Keeps a stretch as it is written now, as a reading beside it, so that it may be written otherwise. */
export function keepReading(
  piece: Piece,
  riffId: string,
  from: Quarter,
  to: Quarter,
  name: string,
  say = '',
): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  if (cmp(to, from) <= 0)
    return fail('empty-stretch', 'A reading needs a stretch that ends after it begins.', { riff: riffId });
  const kept = riff.readings ?? [];
  const reading: Reading = {
    id: stableId('v', new Set(kept.map((r) => r.id))),
    name,
    say,
    from,
    to,
    events: inside(riff, from, to),
  };
  return ok({ type: 'setReadings', part: part.id, riff: riff.id, readings: [...kept, reading] });
}

/**
 * Writes a kept reading; what stood there is kept in its place, so nothing is lost and taking it again gives it back.
 */
export function takeReading(piece: Piece, riffId: string, id: string): Result<Edit> {
  const found = findRiff(piece, riffId);
  const reading = found?.riff.readings?.find((r) => r.id === id);
  if (!found || !reading) return fail('no-reading', 'That reading is not there any more.', id);
  const { part, riff } = found;
  const now = inside(riff, reading.from, reading.to);
  const taken = riffIds(riff);
  for (const e of now) {
    taken.delete(e.id);
    for (const n of e.notes) taken.delete(n.id);
  }
  const fresh = (given: string, prefix: string): string => {
    const free = taken.has(given) ? stableId(prefix, taken) : given;
    taken.add(free);
    return free;
  };
  const put = reading.events.map((e) => ({
    ...e,
    id: fresh(e.id, 'e'),
    notes: e.notes.map((n) => ({ ...n, id: fresh(n.id, 'n') })),
  }));
  const before = riff.events[riff.events.indexOf(now[0] ?? (riff.events[0] as RiffEvent)) - 1];
  const edits: SimpleEdit[] = [
    {
      type: 'putEvents',
      part: part.id,
      riff: riff.id,
      put: [...(before?.link && now.length > 0 ? [{ ...before, link: null }] : []), ...put],
      remove: now.filter((e) => !put.some((p) => p.id === e.id)).map((e) => e.id),
    },
    {
      type: 'setReadings',
      part: part.id,
      riff: riff.id,
      readings: (riff.readings ?? []).map((r) =>
        r.id === id ? { ...r, name: swapped(reading.name), events: now } : r,
      ),
    },
  ];
  return ok({ type: 'batch', what: `took the reading "${reading.name}"`, edits });
}

/** What stood there before keeps the name with a mark, and loses the mark when it is taken back. */
const BEFORE = 'instead of ';
const swapped = (name: string): string =>
  name.startsWith(BEFORE) ? name.slice(BEFORE.length) : `${BEFORE}${name}`.slice(0, 80);

export function dropReading(piece: Piece, riffId: string, id: string): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  return ok({
    type: 'setReadings',
    part: found.part.id,
    riff: riffId,
    readings: (found.riff.readings ?? []).filter((r) => r.id !== id),
  });
}

/** A riff as it would be with a reading written, for hearing it beside. */
export function withReading(riff: Riff, reading: Reading): Riff {
  const now = new Set(inside(riff, reading.from, reading.to));
  const events = [
    ...riff.events.filter((e) => !now.has(e)),
    ...reading.events.map((e) => ({ ...e, id: `${reading.id}-${e.id}` })),
  ].sort((a, b) => cmp(a.at, b.at));
  return { ...riff, events };
}

import equal from 'fast-deep-equal';
import { finding, textMark, type Finding } from '../base';
import type { Note, Riff, RiffEvent, Variant } from '../score';
import { add, cmp, sub, type Quarter } from '../time';

/**
 * A variant is its riff with changes told by event. What is not changed follows every correction of the riff; what is
 * changed follows its event in time, and says where the event was corrected or deleted since.
 */
export interface Varied {
  /** The riff's events with the changes made, in order of time, no two at once. */
  readonly events: readonly RiffEvent[];
  /** Where the variant could not follow its riff. */
  readonly findings: readonly Finding[];
}

type Change = Variant['change'];

/** Before every mark: those of before depended on how a store ordered the fields, and say nothing. */
const MARK = '~';

/** What an event holds beside its time and ids, in a few letters, in whatever order its fields stand. */
export function markOf(event: RiffEvent): string {
  const { id: _, at: __, notes, ...rest } = event;
  const held = [rest, notes.map(({ id: ___, place, ...note }) => [note, place && placed(place)])];
  return MARK + textMark(JSON.stringify(ordered(held)));
}

/** A value with the fields of its records in the order of their names. */
function ordered(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(ordered);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, held]) => [name, ordered(held)]),
  );
}

/** Of a place, what is heard or was decided: a finger the program proposes comes and goes without a correction. */
const placed = (place: NonNullable<Note['place']>): unknown =>
  place.locked ? [place.string, place.fret, place.fingerBy === 'instructor' ? place.finger : null] : null;

/** The events of a riff as a variant plays them. Changes to events that are gone are left out and told. */
export function applyVariant(riff: Riff, variant: Variant): Varied {
  const { change } = variant;
  const present = new Map(riff.events.map((event) => [event.id, event]));
  const base = new Map((change.base ?? []).map((one) => [one.event, one]));
  const anchors = new Map((change.anchors ?? []).map((one) => [one.inserted, one.event]));
  const removed = new Set(change.removed);
  const replaced = new Map(change.replaced.map((event) => [event.id, event]));
  const findings: Finding[] = [];
  const tell = (rule: string, words: string, event: string): void =>
    void findings.push(finding(rule, 'question', words, { riff: riff.id, event }));
  /** How far an event of the riff has moved since the variant was made. */
  const moved = (id: string | undefined): Quarter | null => {
    const was = id === undefined ? undefined : base.get(id);
    const now = id === undefined ? undefined : present.get(id);
    return was && now ? sub(now.at, was.at as Quarter) : null;
  };
  for (const id of [...removed, ...replaced.keys()]) {
    const now = present.get(id);
    const was = base.get(id);
    if (!now)
      tell(
        'variant-lost',
        `"${variant.name}" changes a note of "${riff.name}" that was deleted; the change is left out.`,
        id,
      );
    else if (was?.mark.startsWith(MARK) && was.mark !== markOf(now))
      tell('variant-behind', `A note that "${variant.name}" changes was corrected in "${riff.name}" since.`, id);
  }
  const events: RiffEvent[] = [];
  for (const event of riff.events) {
    if (removed.has(event.id)) continue;
    const instead = replaced.get(event.id);
    const by = instead && moved(event.id);
    events.push(instead ? (by ? { ...instead, at: add(instead.at, by) } : instead) : event);
  }
  for (const event of change.inserted) {
    const anchor = anchors.get(event.id);
    const by = moved(anchor);
    if (anchor !== undefined && by === null)
      tell(
        'variant-adrift',
        `What "${variant.name}" adds stood behind a note that was deleted; it keeps its time.`,
        event.id,
      );
    events.push(by ? { ...event, at: add(event.at, by) } : event);
  }
  return { events: inOrder(events, new Set([...replaced.keys(), ...change.inserted.map((one) => one.id)])), findings };
}

/** By time, one event at a time: of two at once the variant's own stays. */
function inOrder(events: readonly RiffEvent[], own: ReadonlySet<string>): RiffEvent[] {
  const out: RiffEvent[] = [];
  for (const event of [...events].sort((a, b) => cmp(a.at, b.at))) {
    const last = out.at(-1);
    if (last && cmp(last.at, event.at) === 0) {
      if (own.has(event.id) || !own.has(last.id)) out[out.length - 1] = event;
    } else out.push(event);
  }
  return out;
}

const written = new WeakMap<Riff, Map<Variant, Riff>>();

/** The riff with a variant's events in place of its own, as if it were written so. Kept while nothing changes. */
export function asVariant(riff: Riff, variant: Variant): Riff {
  const known = written.get(riff) ?? new Map<Variant, Riff>();
  written.set(riff, known);
  const made = known.get(variant) ?? { ...riff, events: applyVariant(riff, variant).events };
  known.set(variant, made);
  return made;
}

/** What makes other events of a riff's own: the change of a variant. Events that stayed the same say nothing. */
export function changeBetween(riff: Riff, events: readonly RiffEvent[]): Change {
  const now = new Map(events.map((event) => [event.id, event]));
  const before = new Map(riff.events.map((event) => [event.id, event]));
  const replaced = events.filter((event) => {
    const was = before.get(event.id);
    return was !== undefined && was !== event && !equal(was, event);
  });
  const removed = riff.events.filter((event) => !now.has(event.id)).map((event) => event.id);
  const inserted = events.filter((event) => !before.has(event.id));
  const anchors = inserted.flatMap((event) => {
    const behind = riff.events.findLast((one) => cmp(one.at, event.at) <= 0);
    return behind ? [{ inserted: event.id, event: behind.id }] : [];
  });
  const against = new Set([...removed, ...replaced.map((event) => event.id), ...anchors.map((one) => one.event)]);
  return {
    replaced,
    removed,
    inserted,
    base: riff.events
      .filter((event) => against.has(event.id))
      .map((event) => ({ event: event.id, at: event.at, mark: markOf(event) })),
    anchors,
  };
}

/**
 * Other events of a riff, those that begin when an event of the riff does taking its id: so that a change is told of
 * what is there and not as something deleted and something added.
 */
export function alikeIds(riff: Riff, events: readonly RiffEvent[]): RiffEvent[] {
  const at = new Map(riff.events.map((event) => [event.at, event]));
  return events.map((event): RiffEvent => {
    const same = at.get(event.at);
    if (!same) return event;
    return {
      ...event,
      id: same.id,
      notes: event.notes.map((note, i) => ({ ...note, id: same.notes[i]?.id ?? note.id })),
    };
  });
}

import { idNumber } from '../base';
import { migrateSetup } from '../instrument';

/**
 * Old documents in the present form, a step a version. Each step is a plain function from JSON to JSON that touches
 * only what changed, and comes with a fixture of the version it reads. Parts of documents stand in edits as well,
 * so the steps are made of steps for parts, riffs and events.
 */
export type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const each = (value: unknown, migrate: (one: Json) => Json): unknown =>
  Array.isArray(value) ? value.map((one: unknown) => (isObject(one) ? migrate(one) : one)) : value;

/** A copy with keys renamed; keys that are absent stay absent. */
function renamed(value: Json, names: Readonly<Record<string, string>>): Json {
  return Object.fromEntries(Object.entries(value).map(([key, held]) => [names[key] ?? key, held]));
}

/** With one key changed where it is there. */
const changed = (value: Json, key: string, change: (held: unknown) => unknown): Json =>
  key in value ? { ...value, [key]: change(value[key]) } : value;

// 2: capos partial and two at once, string kinds, courses with a gauge of their own, handedness.
const partTo2 = (part: Json): Json => changed(part, 'setup', migrateSetup);

// 4: evidence says what it rests on and where in the clip.
const noteTo4 = (note: Json): Json =>
  typeof note.evidence === 'string' ? { ...note, evidence: { on: null, at: null, say: note.evidence } } : note;
const eventTo4 = (event: Json): Json => changed(event, 'notes', (notes) => each(notes, noteTo4));
const riffTo4 = (riff: Json): Json => changed(riff, 'events', (events) => each(events, eventTo4));
const partTo4 = (part: Json): Json => changed(part, 'riffs', (riffs) => each(riffs, riffTo4));

// 5: the names of the field, joins note by note, ids that are never used again, sections and form.
const EVIDENCE_5 = { on: 'basis', say: 'remark' };
const TECHNIQUE_5 = {
  curve: 'bendCurve',
  toward: 'bendDirection',
  unsaid: 'unspecified',
  under: 'letRing',
  from: 'slideIn',
  off: 'slideOut',
  keep: 'hold',
};
const EVENT_5 = {
  ring: 'letRing',
  bar: 'slideBar',
  what: 'kind',
  cut: 'gate',
  ahead: 'anticipated',
  volume: 'dynamic',
  quick: 'quickSlide',
  why: 'remark',
};
export const placeTo5 = (place: unknown): unknown => (isObject(place) ? renamed(place, { or: 'otherFinger' }) : place);

function noteTo5(note: Json, join: unknown): Json {
  let next = renamed(note, { tech: 'technique' });
  next = changed(next, 'evidence', (held) => (isObject(held) ? renamed(held, EVIDENCE_5) : held));
  next = changed(next, 'technique', (held) => (isObject(held) ? renamed(held, TECHNIQUE_5) : held));
  next = changed(next, 'place', placeTo5);
  return join === null || join === undefined ? next : { ...next, join };
}
function eventTo5({ link, ...event }: Json): Json {
  let next = renamed(event, EVENT_5);
  next = changed(next, 'free', (held) => (isObject(held) ? renamed(held, { say: 'remark' }) : held));
  return changed(next, 'notes', (notes) => each(notes, (note) => noteTo5(note, link)));
}
const alternativeTo5 = (reading: Json): Json =>
  changed(renamed(reading, { say: 'remark' }), 'events', (events) => each(events, eventTo5));
function riffTo5(riff: Json): Json {
  const next = changed(renamed(riff, { readings: 'alternatives' }), 'events', (events) => each(events, eventTo5));
  return changed(next, 'alternatives', (held) => each(held, alternativeTo5));
}
const partTo5 = (part: Json): Json =>
  changed(renamed(part, { unsaid: 'unspecified' }), 'riffs', (riffs) => each(riffs, riffTo5));

/**
 * Before version 5 ids were counted from the number of ids a riff held, and came again after a deletion: no riff could
 * hold so many that a number from here on was ever given.
 */
const NEVER_GIVEN = 32 ** 4;

/** The highest id number anywhere in a value. */
export function highestId(value: unknown): number {
  if (Array.isArray(value)) return value.reduce((most: number, one) => Math.max(most, highestId(one)), 0);
  if (!isObject(value)) return 0;
  let most = typeof value.id === 'string' ? idNumber(value.id) : 0;
  for (const held of Object.values(value))
    if (typeof held === 'object' && held !== null) most = Math.max(most, highestId(held));
  return most;
}

function pieceTo5(old: Json): Json {
  const { lanes, unsaid, ...rest } = old;
  const parts = each(old.parts, partTo5);
  return {
    ...rest,
    schemaVersion: 5,
    lastId: Math.max(NEVER_GIVEN, highestId(parts)),
    context: lanes,
    parts,
    sections: [],
    form: [],
    ...(unsaid === undefined ? {} : { unspecified: unsaid }),
  };
}

/** Steps that bring a document of version n to n+1, by n. */
export const PIECE_STEPS: Readonly<Record<number, (old: Json) => Json>> = {
  1: (old) => ({ ...old, schemaVersion: 2, parts: each(old.parts, partTo2) }),
  // 3: techniques of a note, slide bar, wishes for stretches, the player's hand, the weights: all absent before.
  2: (old) => ({ ...old, schemaVersion: 3 }),
  3: (old) => ({ ...old, schemaVersion: 4, parts: each(old.parts, partTo4) }),
  4: pieceTo5,
};

/** A part, riff or event of version 4 or older as of version 5: for edits that hold one. */
export const partFrom4 = (part: Json): Json => partTo5(partTo4(partTo2(part)));
export const riffFrom4 = (riff: Json): Json => riffTo5(riffTo4(riff));
export const eventFrom4 = (event: Json): Json => eventTo5(eventTo4(event));
export const alternativeFrom4 = (reading: Json): Json =>
  alternativeTo5(changed(reading, 'events', (events) => each(events, eventTo4)));

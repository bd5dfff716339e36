import { alternativeFrom4, SCHEMA_VERSION, type Json } from '../score';
import { EDITS } from './registry';
import type { Step } from './history';

/** Edits of older programs in the present form: by kind in its spec, here only what changed its kind. */

/** The version of edits that carry none: they were written before edits carried one. */
export const UNMARKED = 4;

/** What may be absent of a riff's frame: the whole frame was sent along before version 5, so absent meant cleared. */
const FRAME = ['tempo', 'feel', 'click', 'plays', 'picking'];

const cleared = (value: unknown, key: string): Json =>
  value === null || (Array.isArray(value) && value.length === 0)
    ? { set: {}, clear: [key] }
    : { set: { [key]: value }, clear: [] };

/** Kinds that became patches. */
const TO_PATCH: Readonly<Record<string, (old: Json) => Json>> = {
  setTitle: ({ title }) => ({ type: 'patchPiece', set: { title }, clear: [] }),
  setTempo: ({ tempo }) => ({ type: 'patchContext', set: { tempo }, clear: [] }),
  setKey: ({ key }) => ({ type: 'patchContext', set: { key }, clear: [] }),
  setCosts: ({ costs }) => ({ type: 'patchPiece', ...cleared(costs, 'costs') }),
  setUnsaid: ({ part, unsaid }) => {
    const held = (unsaid as string[]).filter((one) => one === (part === null ? 'tempo' : 'tuning'));
    return part === null
      ? { type: 'patchPiece', ...cleared(held, 'unspecified') }
      : { type: 'patchPart', part, ...cleared(held, 'unspecified') };
  },
  renamePart: ({ part, name, role }) => ({ type: 'patchPart', part, set: { name, role }, clear: [] }),
  setPlayer: ({ part, player }) => ({ type: 'patchPart', part, ...cleared(player, 'player') }),
  setWishes: ({ part, riff, wishes }) => ({ type: 'patchRiff', part, riff, ...cleared(wishes, 'wishes') }),
  setReadings: ({ part, riff, readings }) => ({
    type: 'patchRiff',
    part,
    riff,
    ...cleared((readings as Json[]).map(alternativeFrom4), 'alternatives'),
  }),
  setRiff: ({ type: _, part, riff, ...frame }) => ({
    type: 'patchRiff',
    part,
    riff,
    set: Object.fromEntries(Object.entries(frame).filter(([, value]) => value !== undefined)),
    clear: FRAME.filter((key) => frame[key] === undefined),
  }),
};

/** An edit of an older version as of today; one of today comes back unchanged. Not checked: its schema does that. */
export function migrateEdit(edit: unknown, version: number): unknown {
  if (typeof edit !== 'object' || edit === null || version >= SCHEMA_VERSION) return edit;
  const old = edit as Json;
  if (old.type === 'batch') {
    const edits = (old.edits as unknown[]).map((one) => migrateEdit(one, version));
    return { ...old, edits };
  }
  const patch = TO_PATCH[String(old.type)];
  if (patch) return patch(old);
  const steps = (
    EDITS as Readonly<Record<string, { readonly migrate?: Readonly<Record<number, (one: Json) => Json>> }>>
  )[String(old.type)]?.migrate;
  let current = old;
  for (let to = version + 1; to <= SCHEMA_VERSION; to++) current = steps?.[to]?.(current) ?? current;
  return current;
}

/** A step as it was stored or kept on a device, in today's form. */
export function migrateStep(stored: object): Step {
  const { version = UNMARKED, edit, inverse, ...rest } = stored as Partial<Step> & Json;
  return {
    ...(rest as Pick<Step, 'kind' | 'what'>),
    version: SCHEMA_VERSION,
    edit: migrateEdit(edit, version) as Step['edit'],
    inverse: migrateEdit(inverse, version) as Step['inverse'],
  };
}

import equal from 'fast-deep-equal';
import { z } from 'zod';

/**
 * Changing some fields of a record and leaving the others alone. Setting and removing are said apart: a field that is
 * in neither keeps what it holds, so nobody has to send along what was not changed.
 */
export interface Patch<Fields extends object> {
  readonly set: Partial<Fields>;
  /** Fields that are taken out, which makes them what they are when nobody says anything. */
  readonly clear: readonly (keyof Fields)[];
}

type Shape = Readonly<Record<string, z.ZodType>>;

/** The schema of a patch: every field may be set, only optional ones may be cleared. */
export function patchShape<Fields extends Shape, Key extends keyof Fields & string>(
  fields: Fields,
  clearable: readonly [Key, ...Key[]],
) {
  return {
    set: z.object(fields).partial().strict(),
    clear: z.array(z.enum(clearable)).max(clearable.length),
  };
}

/** A patch as it comes out of its schema, whatever it patches. */
export interface AnyPatch {
  readonly set: object;
  readonly clear: readonly string[];
}

/** A record after a patch. */
export function patched<Fields extends object>(record: Fields, { set, clear }: AnyPatch): Fields {
  const next = { ...record, ...set };
  for (const key of clear) Reflect.deleteProperty(next, key);
  return next;
}

/** The patch that brings back what a patch changes. */
export function inversePatch(record: object, { set, clear }: AnyPatch): AnyPatch {
  const before: Record<string, unknown> = {};
  const absent: string[] = [];
  for (const key of new Set([...Object.keys(set), ...clear])) {
    const held = (record as Record<string, unknown>)[key];
    if (held === undefined) absent.push(key);
    else before[key] = held;
  }
  return { set: before, clear: absent };
}

/**
 * A patch from a change in which undefined leaves a field and null takes it out. Fields that would stay as they are
 * are left out; null where nothing is left.
 */
export function patchOf<Fields extends object>(
  record: Fields,
  change: { readonly [Key in keyof Fields]?: Fields[Key] | null | undefined },
): Patch<Fields> | null {
  const set: Partial<Fields> = {};
  const clear: (keyof Fields)[] = [];
  for (const key of Object.keys(change) as (keyof Fields)[]) {
    const to = change[key];
    if (to === null) {
      if (record[key] !== undefined) clear.push(key);
    } else if (to !== undefined && !equal(to, record[key])) set[key] = to as Fields[keyof Fields];
  }
  return Object.keys(set).length > 0 || clear.length > 0 ? { set, clear } : null;
}

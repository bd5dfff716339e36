import { z } from 'zod';
import { fail, ok } from '../base';
import { checkForm, checkIds, checkRiff, riffFrom4, riffSchema, type Json } from '../score';
import { inserted, noRiff, onPart, onRiff, riffName, riffOf } from './locate';
import { inversePatch, patched, patchShape } from './patch';
import { spec, type Aspect } from './spec';

export const where = { part: z.string(), riff: z.string() };

export const addRiff = spec({
  schema: z.object({ type: z.literal('addRiff'), part: z.string(), riff: riffSchema, at: z.number().int().min(0) }),
  apply: (piece, edit) => {
    const added = onPart(piece, edit.part, (part) => {
      const checked = checkRiff(edit.riff, part.setup);
      return checked.ok ? ok({ ...part, riffs: inserted(part.riffs, edit.at, edit.riff) }) : checked;
    });
    return added.ok ? checkIds(added.value) : added;
  },
  invert: (_, edit) => ok({ type: 'removeRiff', part: edit.part, riff: edit.riff.id }),
  describe: (_, edit) => `added the riff "${edit.riff.name}"`,
  touches: ({ part, riff }) => ({ part, riff: riff.id, aspects: ['riffs'] }),
  migrate: { 5: (old) => ({ ...old, riff: riffFrom4(old.riff as Json) }) },
});

/** Refused while a section uses it. */
export const removeRiff = spec({
  schema: z.object({ type: z.literal('removeRiff'), ...where }),
  apply: (piece, edit) => {
    const removed = onPart(piece, edit.part, (part) =>
      part.riffs.some((riff) => riff.id === edit.riff)
        ? ok({ ...part, riffs: part.riffs.filter((riff) => riff.id !== edit.riff) })
        : noRiff(edit.riff),
    );
    return removed.ok ? checkForm(removed.value) : removed;
  },
  invert: (piece, edit) => {
    const found = riffOf(piece, edit);
    if (!found.ok) return found;
    const { part, riff } = found.value;
    return ok({ type: 'addRiff', part: part.id, riff, at: part.riffs.indexOf(riff) });
  },
  describe: (piece, edit) => `deleted the riff "${riffName(piece, edit)}"`,
  touches: ({ part, riff }) => ({ part, riff, aspects: ['riffs'] }),
});

/**
 * Moves a riff to another place among the riffs of its part, or to a part on whose strings all of it sounds the same
 * at its places.
 */
export const moveRiff = spec({
  schema: z.object({ type: z.literal('moveRiff'), ...where, to: z.string(), at: z.number().int().min(0) }),
  apply: (piece, edit) => {
    const found = riffOf(piece, edit);
    if (!found.ok) return found;
    const { riff } = found.value;
    const taken = onPart(piece, edit.part, (part) => ok({ ...part, riffs: part.riffs.filter((one) => one !== riff) }));
    if (!taken.ok) return taken;
    const moved = onPart(taken.value, edit.to, (part) => {
      const checked = edit.to === edit.part ? ok(riff) : checkRiff(riff, part.setup);
      return checked.ok
        ? ok({ ...part, riffs: inserted(part.riffs, edit.at, riff) })
        : fail('other-strings', `"${riff.name}" does not lie on the strings of ${part.name}: ${checked.error.words}`, {
            part: part.id,
          });
    });
    return moved.ok ? checkForm(moved.value) : moved;
  },
  invert: (piece, edit) => {
    const found = riffOf(piece, edit);
    if (!found.ok) return found;
    const { part, riff } = found.value;
    return ok({ type: 'moveRiff', part: edit.to, riff: riff.id, to: part.id, at: part.riffs.indexOf(riff) });
  },
  describe: (piece, edit) =>
    edit.to === edit.part
      ? `moved the riff "${riffName(piece, edit)}" among those of its part`
      : `moved the riff "${riffName(piece, edit)}" to ${piece.parts.find((part) => part.id === edit.to)?.name ?? 'another part'}`,
  touches: ({ part, riff, to }) => ({ part: to === part ? part : null, riff, aspects: ['riffs'] }),
});

const { id: _id, events: _events, ...fields } = riffSchema.shape;
const optional = [
  'wishes',
  'key',
  'tempo',
  'feel',
  'click',
  'plays',
  'picking',
  'alternatives',
  'variants',
] as const satisfies readonly (keyof typeof fields)[];

/** Everything a riff says beside its events. */
export const patchRiff = spec({
  schema: z.object({
    type: z.literal('patchRiff'),
    ...where,
    ...patchShape(
      {
        ...fields,
        wishes: fields.wishes.unwrap(),
        key: fields.key.unwrap(),
        tempo: fields.tempo.unwrap(),
        feel: fields.feel.unwrap(),
        click: fields.click.unwrap(),
        plays: fields.plays.unwrap(),
        picking: fields.picking.unwrap(),
        alternatives: fields.alternatives.unwrap(),
        variants: fields.variants.unwrap(),
      },
      [...optional],
    ),
  }),
  apply: (piece, edit) => {
    const next = onRiff(piece, edit, (riff) => ok(patched(riff, edit)));
    // A variant that is used can't be taken away.
    return next.ok && touched(edit).includes('variants') ? checkForm(next.value) : next;
  },
  invert: (piece, edit) => {
    const found = riffOf(piece, edit);
    if (!found.ok) return found;
    const { part, riff } = edit;
    return ok({ type: 'patchRiff', part, riff, ...inversePatch(found.value.riff, edit) });
  },
  describe: (piece, edit) => {
    const { set, clear } = edit;
    const keys = [...Object.keys(set), ...clear];
    const now = riffName(piece, edit);
    if (keys.length === 1 && set.name !== undefined) return `named the riff "${set.name}"`;
    if (keys.every((key) => key === 'wishes')) return `changed what is wished for "${now}"`;
    if (keys.every((key) => key === 'alternatives')) return `changed the alternatives kept of "${now}"`;
    if (keys.every((key) => key === 'variants')) return `changed the variants of "${now}"`;
    return `changed ${keys.join(', ')} of "${set.name ?? now}"`;
  },
  touches: (edit) => ({ part: edit.part, riff: edit.riff, aspects: touched(edit) }),
});

const OWN_ASPECT = { wishes: 'wishes', alternatives: 'alternatives', variants: 'variants' } as const;

/** What a patch touches: most fields are the frame the events stand in. */
function touched({ set, clear }: { readonly set: object; readonly clear: readonly string[] }): Aspect[] {
  const keys = [...Object.keys(set), ...clear];
  return [...new Set(keys.map((key): Aspect => (OWN_ASPECT as Readonly<Record<string, Aspect>>)[key] ?? 'frame'))];
}

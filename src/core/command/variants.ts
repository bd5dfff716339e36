import { fail, freshIds, ok, type Result } from '../base';
import { applyEdit, type Edit, type SimpleEdit } from '../edit';
import { asVariant, changeBetween } from '../form';
import { findRiff, type Piece, type RiffEvent, type Variant } from '../score';

/** Variants of a riff: kept as changes, so that correcting the riff corrects them too. */

const patchVariants = (part: string, riff: string, variants: readonly Variant[]): SimpleEdit =>
  variants.length > 0
    ? { type: 'patchRiff', part, riff, set: { variants }, clear: [] }
    : { type: 'patchRiff', part, riff, set: {}, clear: ['variants'] };

const noVariant = (riff: string): Result<never> => fail('no-variant', 'That variant is not there any more.', { riff });

/** A new variant, the same as its riff until something is changed in it; or with the events given. */
export function addVariant(
  piece: Piece,
  riffId: string,
  name: string,
  events?: readonly RiffEvent[],
): Result<{ readonly edit: Edit; readonly id: string }> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const id = freshIds(piece.lastId)('x');
  const change = events ? changeBetween(riff, events) : { replaced: [], removed: [], inserted: [] };
  const variant: Variant = { id, name: name.trim().slice(0, 80) || 'Variant', change };
  return ok({ edit: patchVariants(part.id, riff.id, [...(riff.variants ?? []), variant]), id });
}

/** A name no variant of the riff has yet. */
export function freeVariantName(names: readonly string[], wanted: string): string {
  if (!names.includes(wanted)) return wanted;
  for (let n = 2; ; n++) if (!names.includes(`${wanted} ${n}`)) return `${wanted} ${n}`;
}

/** Renames a variant, or deletes it (null). One that is used can't be deleted. */
export function renameVariant(piece: Piece, riffId: string, id: string, name: string | null): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found?.riff.variants?.some((one) => one.id === id)) return noVariant(riffId);
  const { part, riff } = found;
  const variants = (riff.variants ?? []).flatMap((one) =>
    one.id !== id ? [one] : name === null ? [] : [{ ...one, name: name.trim().slice(0, 80) || one.name }],
  );
  return ok(patchVariants(part.id, riff.id, variants));
}

/** The piece as if a variant were written in its riff: what is worked on when a variant is opened. */
export function pieceAsVariant(piece: Piece, riffId: string, id: string): Piece | null {
  const found = findRiff(piece, riffId);
  const variant = found?.riff.variants?.find((one) => one.id === id);
  if (!found || !variant) return null;
  const riff = asVariant(found.riff, variant);
  return {
    ...piece,
    parts: piece.parts.map((part) =>
      part === found.part ? { ...part, riffs: part.riffs.map((one) => (one === found.riff ? riff : one)) } : part,
    ),
  };
}

/**
 * An edit made to a piece as one of its variants: what it does to the events of the riff becomes a change of the
 * variant, what it does elsewhere is done to the piece.
 */
export function editAsVariant(piece: Piece, riffId: string, id: string, edit: Edit): Result<Edit> {
  const shown = pieceAsVariant(piece, riffId, id);
  const found = findRiff(piece, riffId);
  if (!shown || !found) return noVariant(riffId);
  const edited = applyEdit(shown, edit);
  if (!edited.ok) return edited;
  const now = findRiff(edited.value, riffId);
  const before = findRiff(shown, riffId);
  if (!now || !before)
    return fail('variant-riff', 'A riff is deleted from its own page, not from a variant of it.', { riff: riffId });
  if (now.riff.events === before.riff.events) return ok(edit);
  const others = (edit.type === 'batch' ? edit.edits : [edit]).filter((one) => !touchesEvents(one, riffId));
  const change = changeBetween(found.riff, now.riff.events);
  const variants = (found.riff.variants ?? []).map((one) => (one.id === id ? { ...one, change } : one));
  const patch = patchVariants(found.part.id, riffId, variants);
  const what = edit.type === 'batch' ? edit.what : null;
  if (others.length === 0 && what === null) return ok(patch);
  return ok({ type: 'batch', what: what ?? 'changed a variant', edits: [...others, patch] });
}

/**
 * The program's answer to a variant that is worked on: proposals for what the variant has changed, none for what it
 * takes from its riff. Null where nothing is left to propose.
 */
export function proposalsForVariant(piece: Piece, riffId: string, id: string, edit: Edit): Edit | null {
  if (edit.type !== 'proposePlaces' || edit.riff !== riffId) return edit;
  const change = findRiff(piece, riffId)?.riff.variants?.find((one) => one.id === id)?.change;
  const own = new Set(
    [...(change?.replaced ?? []), ...(change?.inserted ?? [])].flatMap((event) => event.notes.map((note) => note.id)),
  );
  const places = edit.places.filter((one) => own.has(one.note));
  return places.length > 0 ? { ...edit, places } : null;
}

const EVENT_EDITS: ReadonlySet<SimpleEdit['type']> = new Set([
  'putEvents',
  'patchEvents',
  'placeNote',
  'proposePlaces',
]);
const touchesEvents = (edit: SimpleEdit, riff: string): boolean =>
  EVENT_EDITS.has(edit.type) && 'riff' in edit && edit.riff === riff;

/** A variant written out as a riff of its own: from then on the two go their own ways. */
export function variantEvents(piece: Piece, riffId: string, id: string): readonly RiffEvent[] | null {
  const shown = pieceAsVariant(piece, riffId, id);
  return shown ? (findRiff(shown, riffId)?.riff.events ?? null) : null;
}

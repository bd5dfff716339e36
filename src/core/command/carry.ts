import { carryOver, type CarriedRiff, type CarryMode } from '../carry';
import { fail, freshIds, ok, textMark, type Result } from '../base';
import type { Edit, SimpleEdit } from '../edit';
import { markOf } from '../form';
import { setupWords, type Setup } from '../instrument';
import { optionsFor } from '../place';
import { findPart, keyOf, modelOf, tempoOf, type Part, type Piece, type Riff, type RiffEvent } from '../score';
import { partBeside, plainRiff, type MadePart } from './arrange';
import { together } from './fields';

/** Editions of a part on other set-ups, kept linked to the part they are made of. */

/** How an edition is made of its model. */
export interface EditionWish {
  readonly setup: Setup;
  readonly keep: CarryMode;
  /** Absent: the octaves that lose least. */
  readonly octaves?: number | undefined;
  readonly substitute?: boolean | undefined;
}

/** What a riff holds, in a few letters, to see later whether it was changed. */
export const riffMark = (riff: Riff): string =>
  textMark(JSON.stringify(riff.events.map((event) => [event.at, event.dur, markOf(event)])));

/** One riff of a part carried to a set-up, as a table or an edition needs it. */
export function carriedRiff(piece: Piece, part: Part, riff: Riff, wish: EditionWish): CarriedRiff {
  return carryOver({
    ...{ riff, from: part.setup, to: wish.setup, keep: wish.keep, octaves: wish.octaves, substitute: wish.substitute },
    ...{ tempo: tempoOf(piece, riff), key: riff.key ?? keyOf(piece, null), options: optionsFor(piece, part) },
  });
}

/**
 * A part of its own beside its model, carried to another set-up: what is changed in it changes nothing else, and it
 * knows what it was made of, so that a change of the model is seen.
 */
export function editionPart(piece: Piece, partId: string, wish: EditionWish, name: string): Result<MadePart> {
  const model = findPart(piece, partId);
  if (!model) return fail('no-part', 'That part is not there any more.', { part: partId });
  const octaves = wish.octaves ?? commonOctaves(piece, model, wish);
  const riffs = model.riffs.map((riff) => plainRiff(carriedRiff(piece, model, riff, { ...wish, octaves }).riff));
  const { editionOf: _, carried: __, player: ___, ...like } = model;
  const made = partBeside(
    piece,
    model,
    {
      ...{ ...like, name, riffs, setup: wish.setup, editionOf: model.editionOf ?? model.id },
      carried: {
        of: model.id,
        keep: wish.keep,
        octaves,
        ...(wish.substitute ? { substitute: true as const } : {}),
        marks: model.riffs.map(riffMark),
      },
    },
    `carried "${model.name}" over to ${setupWords(wish.setup)}`,
  );
  return made.ok ? ok({ ...made.value, remark: null }) : made;
}

/** The octave most riffs of a part would choose, so that a part stays one. */
function commonOctaves(piece: Piece, model: Part, wish: EditionWish): number {
  const counts = new Map<number, number>();
  for (const riff of model.riffs) {
    const { octaves } = carriedRiff(piece, model, riff, wish);
    counts.set(octaves, (counts.get(octaves) ?? 0) + riff.events.length);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0;
}

/** Riffs of a model that were changed since its edition was made, by name. */
export function behind(piece: Piece, part: Part): readonly string[] {
  const model = carriedModel(piece, part);
  const { carried } = part;
  if (!carried || !model) return [];
  return model.riffs.flatMap((riff, i) => (carried.marks[i] === riffMark(riff) ? [] : [riff.name]));
}

const carriedModel = (piece: Piece, part: Part): Part | undefined =>
  part.carried ? (findPart(piece, part.carried.of) ?? undefined) : modelOf(piece, part);

/** Makes the changed riffs of an edition anew from its model; its other riffs stay as they were worked on. */
export function renewEdition(piece: Piece, partId: string): Result<Edit> {
  const part = findPart(piece, partId);
  const model = part && carriedModel(piece, part);
  if (!part?.carried || !model)
    return fail('no-model', 'The part this edition was made of is not in the piece any more.', { part: partId });
  const { keep, octaves, substitute, marks } = part.carried;
  const wish = { setup: part.setup, keep, octaves, substitute };
  const fresh = freshIds(piece.lastId);
  const puts = model.riffs.flatMap((riff, i): SimpleEdit[] => {
    const own = part.riffs[i];
    if (!own || marks[i] === riffMark(riff)) return [];
    const { events } = carriedRiff(piece, model, riff, wish).riff;
    return [
      {
        type: 'putEvents',
        ...{
          part: part.id,
          riff: own.id,
          put: underFreshIds(events, fresh),
          remove: own.events.map((event) => event.id),
        },
      } as SimpleEdit,
    ];
  });
  const carried = { ...part.carried, marks: model.riffs.map(riffMark) };
  return ok(
    together(`made "${part.name}" anew from "${model.name}"`, [
      ...puts,
      { type: 'patchPart', part: part.id, set: { carried }, clear: [] } as SimpleEdit,
    ]),
  );
}

/** Events under fresh ids: a model's are its own. */
function underFreshIds(events: readonly RiffEvent[], fresh: (prefix: string) => string): RiffEvent[] {
  return events.map((event) => ({
    ...event,
    id: fresh('e'),
    notes: event.notes.map((note) => ({ ...note, id: fresh('n') })),
  }));
}

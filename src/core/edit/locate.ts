import { fail, ok, type Result } from '../base';
import { checkRiff, findPart, type Part, type Piece, type Riff } from '../score';

/** Changing one part or riff of a piece, which is where most edits work. */

export const noPart = (id: string) => fail('no-part', `There is no part "${id}".`, { part: id });
export const noRiff = (id: string) => fail('no-riff', `There is no riff "${id}".`, { riff: id });

export const inserted = <Item>(list: readonly Item[], at: number, item: Item): Item[] => [
  ...list.slice(0, at),
  item,
  ...list.slice(at),
];

/** The part an edit names. */
export function partOf(piece: Piece, id: string): Result<Part> {
  const part = findPart(piece, id);
  return part ? ok(part) : noPart(id);
}

/** The riff an edit names, with its part. */
export function riffOf(piece: Piece, where: RiffRef): Result<{ readonly part: Part; readonly riff: Riff }> {
  const part = findPart(piece, where.part);
  if (!part) return noPart(where.part);
  const riff = part.riffs.find((one) => one.id === where.riff);
  return riff ? ok({ part, riff }) : noRiff(where.riff);
}

export interface RiffRef {
  readonly part: string;
  readonly riff: string;
}

export function onPart(piece: Piece, id: string, change: (part: Part) => Result<Part>): Result<Piece> {
  const found = partOf(piece, id);
  if (!found.ok) return found;
  const next = change(found.value);
  return next.ok
    ? ok({ ...piece, parts: piece.parts.map((part) => (part === found.value ? next.value : part)) })
    : next;
}

/** Changes a riff and checks it: what is the same object as before is not looked into again. */
export function onRiff(piece: Piece, where: RiffRef, change: (riff: Riff) => Result<Riff>): Result<Piece> {
  const found = riffOf(piece, where);
  if (!found.ok) return found;
  const { part, riff } = found.value;
  const next = change(riff);
  if (!next.ok) return next;
  const checked = checkRiff(next.value, part.setup, riff);
  return checked.ok
    ? onPart(piece, part.id, () =>
        ok({ ...part, riffs: part.riffs.map((one) => (one === riff ? checked.value : one)) }),
      )
    : checked;
}

/** The name of a part or riff for the history, or its id where it is gone. */
export const partName = (piece: Piece, id: string): string => findPart(piece, id)?.name ?? id;
export const riffName = (piece: Piece, where: RiffRef): string => {
  const found = riffOf(piece, where);
  return found.ok ? found.value.riff.name : where.riff;
};

import { z } from 'zod';
import type { Brand } from '@/core/base';

/**
 * Ids as they come from outside, read once at the edge: after that the id of a piece can't be given where that of a
 * clip is meant. No id of ours has other signs in it, so that nothing else reaches the database.
 */
export type PieceId = Brand<string, 'PieceId'>;
export type ClipId = Brand<string, 'ClipId'>;
export type InstrumentId = Brand<string, 'InstrumentId'>;
export type TuningId = Brand<string, 'TuningId'>;
export type PlayerId = Brand<string, 'PlayerId'>;
export type FitId = Brand<string, 'FitId'>;
export type RequestId = Brand<string, 'RequestId'>;
export type SeriesId = Brand<string, 'SeriesId'>;
export type LinkId = Brand<string, 'LinkId'>;
export type HandoutId = Brand<string, 'HandoutId'>;
export type OriginalId = Brand<string, 'OriginalId'>;
/** A version that was refused because another was saved first. */
export type RefusedId = Brand<string, 'RefusedId'>;

const ID = /^[A-Za-z0-9_-]{1,64}$/;
const idOf = <Id extends string>() =>
  z
    .string()
    .regex(ID, 'no id of this program')
    .transform((text) => text as Id);

export const pieceId = idOf<PieceId>();
export const clipId = idOf<ClipId>();
export const instrumentId = idOf<InstrumentId>();
export const tuningId = idOf<TuningId>();
export const playerId = idOf<PlayerId>();
export const fitId = idOf<FitId>();
export const requestId = idOf<RequestId>();
export const seriesId = idOf<SeriesId>();
export const linkId = idOf<LinkId>();
export const handoutId = idOf<HandoutId>();
export const originalId = idOf<OriginalId>();
export const refusedId = idOf<RefusedId>();

/** The id, or null where no such thing can be: for the addresses of pages and files. */
export function readId<Id extends string>(schema: z.ZodType<Id, string>, text: string): Id | null {
  const read = schema.safeParse(text);
  return read.success ? read.data : null;
}

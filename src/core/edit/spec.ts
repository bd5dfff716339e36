import type { z } from 'zod';
import type { DeepReadonly, Result } from '../base';
import type { Json, Piece } from '../score';

/** What of a piece an edit may change, so that whoever keeps something made of it can ask. */
export type Aspect =
  | 'title'
  | 'context'
  | 'costs'
  | 'unspecified'
  | 'parts'
  | 'setup'
  | 'player'
  | 'riffs'
  | 'frame'
  | 'wishes'
  | 'alternatives'
  | 'variants'
  | 'events'
  | 'places'
  | 'form'
  | 'said';

export interface Touch {
  /** The part, riff or section it is confined to; null where it may reach further. */
  readonly part: string | null;
  readonly riff: string | null;
  readonly aspects: readonly Aspect[];
}

/**
 * Everything one kind of edit is: its form, what it does to a piece, what takes it back, how the history tells it,
 * what it touches, and how it was written by older programs. One file an edit or family; `registry.ts` lists them.
 */
export interface EditSpec<Schema extends z.ZodType> {
  readonly schema: Schema;
  /** The piece after it, checked where it may have broken something, or why it can't be made. */
  readonly apply: (piece: Piece, edit: DeepReadonly<z.infer<Schema>>) => Result<Piece>;
  /** The edit that takes it back, read against the piece before it. Of the same or another kind. */
  readonly invert: (piece: Piece, edit: DeepReadonly<z.infer<Schema>>) => Result<unknown>;
  /** A line of history in words, read against the piece before it. */
  readonly describe: (piece: Piece, edit: DeepReadonly<z.infer<Schema>>) => string;
  readonly touches: (edit: DeepReadonly<z.infer<Schema>>) => Touch;
  /** Edits of this kind as the version before wrote them, by the version that reads them: see `migrate.ts`. */
  readonly migrate?: Readonly<Record<number, (old: Json) => Json>>;
}

/** Types a spec by its schema. */
export const spec = <Schema extends z.ZodType>(made: EditSpec<Schema>): EditSpec<Schema> => made;

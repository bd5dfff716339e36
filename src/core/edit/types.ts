import { z } from 'zod';
import type { DeepReadonly } from '../base';
import { SCHEMA_VERSION } from '../score';
import { EDITS } from './registry';

/**
 * Edits as values: small, serialisable, each with apply, invert and a line in words. Everything
 * that changes a piece is one of these, whether it comes from a key press, a file or the solver.
 */

/** Edits in one step at most. */
export const MOST_EDITS = 5000;

type Schemas = (typeof EDITS)[keyof typeof EDITS]['schema'];
const simple = Object.values(EDITS).map((one) => one.schema) as [Schemas, ...Schemas[]];

export const simpleEditSchema = z.discriminatedUnion('type', simple);
/** Several edits as one: all of them are made, or none. */
export const batchSchema = z.object({
  type: z.literal('batch'),
  what: z.string().max(200),
  edits: z.array(simpleEditSchema).max(MOST_EDITS),
});
export const editSchema = z.discriminatedUnion('type', [...simple, batchSchema]);

export type SimpleEdit = DeepReadonly<z.infer<typeof simpleEditSchema>>;
export type Edit = DeepReadonly<z.infer<typeof editSchema>>;
export type EditOf<Type extends SimpleEdit['type']> = Extract<SimpleEdit, { readonly type: Type }>;

/** A step of the log as it travels to the server: with the version of the document its edits are written for. */
export const stepSchema = z.object({
  version: z.literal(SCHEMA_VERSION),
  kind: z.enum(['do', 'follow', 'undo', 'redo']),
  edit: editSchema,
  inverse: editSchema,
  what: z.string().max(300),
});

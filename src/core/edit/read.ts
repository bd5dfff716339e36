import { fail, ok, pathOf, wellFormed, type Result } from '../base';
import { editSchema, type Edit } from './types';

/**
 * An edit as both sides take it, on the page before it is made and on the server before it is kept: its texts made
 * storable, then read by its schema, which is the same on both. What one side accepts the other does not refuse.
 */
export function readEdit(value: unknown): Result<Edit> {
  const read = editSchema.safeParse(wellFormed(value));
  if (read.success) return ok(read.data as Edit);
  const issue = deepest(read.error.issues[0]);
  const path = pathOf(issue?.path);
  const field = [...path].reverse().find((step) => typeof step === 'string');
  return fail(
    'schema',
    `${field === undefined ? 'This change' : `"${field}"`} can't be kept: ${issue?.message ?? 'malformed'}.`,
    {
      path,
    },
  );
}

interface Issue {
  readonly path: readonly PropertyKey[];
  readonly message: string;
}

/** Of a union's many complaints the one that says most: the choice that was read furthest. */
function deepest(issue: (Issue & { readonly errors?: readonly (readonly Issue[])[] }) | undefined): Issue | undefined {
  const inner = issue?.errors?.flat() ?? [];
  const best = inner.reduce<Issue | undefined>(
    (most, one) => (!most || one.path.length > most.path.length ? one : most),
    undefined,
  );
  return issue && best ? { path: [...issue.path, ...best.path], message: best.message } : issue;
}

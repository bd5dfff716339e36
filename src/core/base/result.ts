/** An expected failure: where it is, why, and what would mend it. */
export interface Fault {
  /** Stable identifier for programs. */
  readonly code: string;
  /** The reason and the mend, in words for people. */
  readonly message: string;
  /** The place: a path, a line, a token range, a note id. */
  readonly at?: string;
}

/** A value or a fault. The core returns these; it throws only for bugs. */
export type Result<T, F = Fault> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: F };

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });

export const fail = (code: string, message: string, at?: string): { readonly ok: false; readonly error: Fault } => ({
  ok: false,
  error: at === undefined ? { code, message } : { code, message, at },
});

/** The value, or an exception: for places where a fault would be a bug (data shipped with the program, tests). */
export function must<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  throw new Error(`${result.error.code}: ${result.error.message}${result.error.at ? ` (${result.error.at})` : ''}`);
}

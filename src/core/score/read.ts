import { fail, type Result, pathOf } from '../base';
import { liftSetup } from '../instrument';
import { checkPiece } from './invariants';
import { pieceSchema, SCHEMA_VERSION, type Piece } from './schema';

export type Json = Record<string, unknown>;

/**
 * Steps that lift a document of version n to n+1, by n. Each comes with a fixture of the old
 * version in the tests.
 */
const MIGRATIONS: Readonly<Record<number, (old: Json) => Json>> = {
  // 2: capos partial and two at once, string kinds, courses with a gauge of their own, handedness.
  1: (old) => ({
    ...old,
    schemaVersion: 2,
    parts: Array.isArray(old.parts)
      ? old.parts.map((part: unknown) =>
          typeof part === 'object' && part !== null ? { ...part, setup: liftSetup((part as Json).setup) } : part,
        )
      : old.parts,
  }),
  // 3: techniques of a note, slide bar, wishes for stretches, the player's hand, the weights: all absent before.
  2: (old) => ({ ...old, schemaVersion: 3 }),
  // 4: evidence says what it rests on and where in the clip; strokes, mutes, tempo and feel of a riff, readings: all
  // absent before.
  3: (old) => ({ ...old, schemaVersion: 4, parts: list(old.parts, liftPart) }),
};

const list = (value: unknown, lift: (one: Json) => Json): unknown =>
  Array.isArray(value)
    ? value.map((one: unknown) => (typeof one === 'object' && one !== null ? lift(one as Json) : one))
    : value;

/**
 * Lifts the evidence of every note below from a line of text to what document version 4 keeps. Nothing else is
 * touched.
 */
const liftPart = (part: Json): Json => ({ ...part, riffs: list(part.riffs, liftRiff) });
export const liftRiff = (riff: Json): Json => ({ ...riff, events: list(riff.events, liftEvent) });
export const liftEvent = (event: Json): Json => ({
  ...event,
  notes: list(event.notes, (n) =>
    typeof n.evidence === 'string' ? { ...n, evidence: { on: null, at: null, say: n.evidence } } : n,
  ),
});

/** Reads a document from outside: lifts old versions, checks the schema, then the invariants. */
export function readPiece(json: unknown): Result<Piece> {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    return fail('not-a-piece', 'This is no piece: an object was expected.', {});
  let document = json as Record<string, unknown>;
  const version = document.schemaVersion;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return fail('not-a-piece', 'This is no piece: "schemaVersion" is missing.', 'schemaVersion');
  }
  if (version > SCHEMA_VERSION) {
    return fail(
      'newer-version',
      `This piece was written by a newer program (version ${version}, this one reads ${SCHEMA_VERSION}).`,
      'schemaVersion',
    );
  }
  for (let v = version; v < SCHEMA_VERSION; v++) {
    const lift = MIGRATIONS[v];
    if (!lift) return fail('no-migration', `Version ${v} can't be read any more.`, 'schemaVersion');
    document = lift(document);
  }
  const parsed = pieceSchema.safeParse(document);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return fail('schema', `${issue?.message ?? 'malformed'}`, { path: pathOf(issue?.path) });
  }
  return checkPiece(parsed.data);
}

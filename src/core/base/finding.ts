/**
 * Where something was found, as a value: whatever of it is known. Ids point into the document, a `text` stretch into a
 * typed line, a `path` into data from outside (names and indices, outermost first), `byte` into a file.
 */
export interface Locus {
  readonly part?: string;
  readonly riff?: string;
  readonly event?: string;
  readonly note?: string;
  /** Bars count from 0; a pickup is bar -1. */
  readonly bar?: number;
  /** A stretch of characters, its end not counted. */
  readonly text?: { readonly from: number; readonly to: number };
  readonly path?: readonly (string | number)[];
  readonly byte?: number;
}

/**
 * How much a finding matters: an `error` can't be as it is, a `warning` is likely a slip, a `question` is odd and may
 * be meant, `open` was never said.
 */
export type Severity = 'error' | 'warning' | 'question' | 'open';

/**
 * Something found in what was written, typed or brought in, whoever finds it: the invariants, the bar arithmetic, the
 * solver, the call line, the readers of files, the list of what is unspecified. `Mend` is what can be done about it in
 * one step; where nobody offers any, `mends` is empty.
 */
export interface Finding<Mend = never> {
  /** Stable name of the rule that found it, for programs. */
  readonly rule: string;
  readonly severity: Severity;
  readonly locus: Locus;
  /** The reason, and how to mend it, in words for people. */
  readonly words: string;
  /** What speaks for it, in words; null where the words say all. */
  readonly evidence: string | null;
  readonly mends: readonly Mend[];
}

/** A finding with the usual defaults, so that callers only say what is special. */
export function finding<Mend = never>(
  rule: string,
  severity: Severity,
  words: string,
  locus: Locus = {},
  extra: Partial<Pick<Finding<Mend>, 'evidence' | 'mends'>> = {},
): Finding<Mend> {
  return { rule, severity, locus, words, evidence: null, mends: [], ...extra };
}

/** A place in outside data as people write it: "instruments.0.strings.2". Empty where the locus has no path. */
export const pathWords = ({ path }: Locus): string => path?.join('.') ?? '';

/** A locus in one short word for a log or a command line: its path, byte, or innermost id; empty where it has none. */
export function locusWords(locus: Locus): string {
  if (locus.path) return pathWords(locus);
  if (locus.byte !== undefined) return `byte ${locus.byte}`;
  return locus.note ?? locus.event ?? locus.riff ?? locus.part ?? '';
}

/** A locus further out: with names and indices put before its path. */
export const within = (locus: Locus, ...path: readonly (string | number)[]): Locus => ({
  ...locus,
  path: [...path, ...(locus.path ?? [])],
});

/** The path of a schema's complaint as a locus has it. */
export const pathOf = (path: readonly PropertyKey[] = []): (string | number)[] =>
  path.map((step) => (typeof step === 'number' ? step : String(step)));

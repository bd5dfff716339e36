import type { Part, Piece, Riff } from '../score';

/** Everything said in words anywhere in a piece, each with where it was said: what a studio's search looks through. */

export const WORD_KINDS = [
  ...['title', 'part', 'riff', 'section', 'variant', 'reason', 'evidence', 'remark', 'tone', 'cue', 'credit'],
  ...['request', 'handed over', 'series'],
] as const;
export type WordKind = (typeof WORD_KINDS)[number];

/** One thing said: its words, and the place that opens when it is found. */
export interface SaidEntry {
  readonly kind: WordKind;
  readonly words: string;
  readonly part?: string;
  readonly riff?: string;
  readonly section?: string;
}

/** Entries a piece may have: what a hundred pages of remarks need, and no flood. */
export const MOST_ENTRIES = 600;

/**
 * What is said in a piece. The same words in one riff are one entry, however many notes carry them. At most
 * `MOST_ENTRIES`, names before reasons.
 */
export function saidIn(piece: Piece): SaidEntry[] {
  const out: SaidEntry[] = [{ kind: 'title', words: piece.title }];
  const say = (
    kind: WordKind,
    words: string | null | undefined,
    where: Omit<SaidEntry, 'kind' | 'words'> = {},
  ): void => {
    if (words?.trim()) out.push({ kind, words: words.trim(), ...where });
  };
  say('credit', piece.credit);
  for (const one of [
    piece.source?.name,
    piece.source?.authorship,
    ...(piece.source?.evidence.map((each) => each.what) ?? []),
  ])
    say('evidence', one);
  for (const part of piece.parts) {
    say('part', [part.name, part.role].filter(Boolean).join(', '), { part: part.id });
    say('tone', part.tone, { part: part.id });
    for (const tone of part.tones ?? [])
      say('tone', [tone.name, tone.goal].filter(Boolean).join(': '), { part: part.id });
    for (const riff of part.riffs) {
      say('riff', riff.name, { part: part.id, riff: riff.id });
      for (const one of [...(riff.variants ?? []), ...(riff.alternatives ?? [])])
        say('variant', one.name, { part: part.id, riff: riff.id });
    }
  }
  for (const section of piece.sections) {
    const where = { section: section.id };
    say('section', section.name, where);
    say('cue', section.cue, where);
    for (const row of section.rows) {
      say('tone', row.tone, { ...where, part: row.part });
      for (const use of row.uses) say('remark', use.remark, { ...where, part: row.part });
    }
  }
  for (const { words, part, riff, section } of piece.claims ?? [])
    say('remark', words, { ...(part ? { part } : {}), ...(riff ? { riff } : {}), ...(section ? { section } : {}) });
  for (const { reason } of piece.answers ?? []) say('reason', reason);
  for (const part of piece.parts) for (const riff of part.riffs) out.push(...saidInRiff(part, riff));
  return out.slice(0, MOST_ENTRIES);
}

function saidInRiff(part: Part, riff: Riff): SaidEntry[] {
  const seen = new Map<string, SaidEntry>();
  const say = (kind: WordKind, words: string | null | undefined): void => {
    const text = words?.trim();
    if (text) seen.set(`${kind} ${text}`, { kind, words: text, part: part.id, riff: riff.id });
  };
  for (const event of riff.events) {
    say('remark', event.remark);
    for (const note of event.notes) {
      say('reason', note.place?.reason);
      say('reason', note.place?.otherPlace?.reason);
      say('evidence', note.evidence?.remark);
    }
  }
  for (const one of riff.alternatives ?? []) say('remark', one.remark);
  return [...seen.values()];
}

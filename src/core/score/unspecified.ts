import { finding, type Finding, type Locus } from '../base';
import type { Piece, RiffEvent } from './schema';

/** What a piece may leave open. The rule of a finding of severity "open" is one of these. */
export type Unspecified = 'tuning' | 'tempo' | 'bend' | 'trill' | 'string' | 'plays' | 'hole';

/** Something a piece still leaves open, in words without the place: "how far it is bent". */
export interface OpenFinding extends Finding {
  readonly rule: Unspecified;
}

const open = (rule: Unspecified, words: string, locus: Locus): OpenFinding => ({
  ...finding(rule, 'open', words, locus),
  rule,
});

/** Everything still unspecified in a piece: for the piece, its parts, its riffs, then note by note in order. */
export function unspecifiedIn(piece: Piece): OpenFinding[] {
  const out: OpenFinding[] = [];
  if (piece.unspecified?.includes('tempo')) out.push(open('tempo', 'the tempo: what is set was taken for granted', {}));
  // A riff that stands in the form is played as often as the form says.
  const used = new Set(
    piece.sections.flatMap((section) => section.rows.flatMap((row) => row.uses.map((use) => use.riff))),
  );
  for (const part of piece.parts) {
    if (part.unspecified?.includes('tuning'))
      out.push(open('tuning', `the tuning of ${part.name}: what is set was taken for granted`, { part: part.id }));
    for (const riff of part.riffs) {
      const locus = { part: part.id, riff: riff.id };
      if (riff.plays === undefined && !used.has(riff.id))
        out.push(open('plays', `how often "${riff.name}" is played`, locus));
      for (const event of riff.events) out.push(...openIn(event, locus));
    }
  }
  return out;
}

function openIn(event: RiffEvent, riff: Locus): OpenFinding[] {
  const out: OpenFinding[] = [];
  const locus = { ...riff, event: event.id };
  if (event.kind === 'hole') out.push(open('hole', 'what is played here', locus));
  for (const note of event.notes) {
    const at = { ...locus, note: note.id };
    if (note.technique?.unspecified?.includes('bend')) out.push(open('bend', 'how far it is bent', at));
    if (note.technique?.unspecified?.includes('trill')) out.push(open('trill', 'which note it is trilled with', at));
    if (!note.place) out.push(open('string', 'on which string it lies', at));
  }
  return out;
}

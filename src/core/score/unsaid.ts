import type { Piece, RiffEvent } from './schema';

/** Something a piece still leaves open, and where. */
export interface Unsaid {
  readonly kind: 'tuning' | 'tempo' | 'bend' | 'trill' | 'string' | 'plays' | 'hole';
  readonly part: string | null;
  readonly riff: string | null;
  readonly event: string | null;
  /** In words, without the place: "how far it is bent". */
  readonly words: string;
}

/** Everything that is still unsaid in a piece: for the piece, its parts, its riffs, then note by note in order. */
export function unsaidIn(piece: Piece): Unsaid[] {
  const out: Unsaid[] = [];
  if (piece.unsaid?.includes('tempo'))
    out.push({
      kind: 'tempo',
      part: null,
      riff: null,
      event: null,
      words: 'the tempo: what is set was taken for granted',
    });
  for (const part of piece.parts) {
    if (part.unsaid?.includes('tuning'))
      out.push({
        kind: 'tuning',
        part: part.id,
        riff: null,
        event: null,
        words: `the tuning of ${part.name}: what is set was taken for granted`,
      });
    for (const riff of part.riffs) {
      if (riff.plays === undefined)
        out.push({
          kind: 'plays',
          part: part.id,
          riff: riff.id,
          event: null,
          words: `how often "${riff.name}" is played`,
        });
      for (const event of riff.events)
        for (const one of eventUnsaid(event)) out.push({ ...one, part: part.id, riff: riff.id, event: event.id });
    }
  }
  return out;
}

function eventUnsaid(event: RiffEvent): Pick<Unsaid, 'kind' | 'words'>[] {
  const out: Pick<Unsaid, 'kind' | 'words'>[] = [];
  if (event.what === 'hole') out.push({ kind: 'hole', words: 'what is played here' });
  for (const note of event.notes) {
    if (note.tech?.unsaid?.includes('bend')) out.push({ kind: 'bend', words: 'how far it is bent' });
    if (note.tech?.unsaid?.includes('trill')) out.push({ kind: 'trill', words: 'which note it is trilled with' });
    if (!note.place) out.push({ kind: 'string', words: 'on which string it lies' });
  }
  return out;
}

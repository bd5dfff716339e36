import { modelOf, type Part, type Piece, type RiffEvent, type Section } from '../score';
import { spansOf, mapOf, type PassSpan, type Span } from '../form';
import { add, cmp, sub, toNumber, ZERO, type Quarter } from '../time';

/** What sounds in a section on its first pass, part by part: harmony and voices are asked about where they meet. */

/** A note where a section plays it, by the section's own time. */
export interface SectionNote {
  readonly part: Part;
  /** The event in its riff (or variant), and the riff. */
  readonly event: RiffEvent;
  readonly riff: string;
  readonly midi: number;
  readonly at: Quarter;
  readonly to: Quarter;
}

export interface Heard {
  readonly section: Section;
  readonly pass: PassSpan;
  readonly notes: readonly SectionNote[];
  /** What each part plays there, one after the other: the same objects while none of it changes. */
  readonly plays: ReadonlyMap<string, readonly unknown[]>;
}

const heards = new WeakMap<Piece, readonly Heard[]>();

/** Each section as its first pass sounds. Editions of other parts are not played together with them. */
export function heardIn(piece: Piece): readonly Heard[] {
  const known = heards.get(piece);
  if (known) return known;
  const made = listen(piece);
  heards.set(piece, made);
  return made;
}

function listen(piece: Piece): readonly Heard[] {
  const map = mapOf(piece);
  const firsts = new Map<string, PassSpan>();
  for (const pass of map.passes) if (!firsts.has(pass.section.id)) firsts.set(pass.section.id, pass);
  const notes = new Map<string, SectionNote[]>();
  const plays = new Map<string, Map<string, unknown[]>>();
  for (const part of piece.parts) {
    if (modelOf(piece, part)) continue;
    for (const span of spansOf(piece, part).spans) {
      const first = firsts.get(span.pass.section.id);
      if (first?.index !== span.pass.index) continue;
      const list = notes.get(span.pass.section.id) ?? [];
      notes.set(span.pass.section.id, list);
      laid(span, part, list);
      const own = plays.get(span.pass.section.id) ?? new Map<string, unknown[]>();
      plays.set(span.pass.section.id, own);
      own.set(part.id, [...(own.get(part.id) ?? []), span.riff, span.played?.events]);
    }
  }
  return [...firsts.values()].map((pass) => ({
    ...{ section: pass.section, pass },
    notes: notes.get(pass.section.id) ?? [],
    plays: plays.get(pass.section.id) ?? new Map<string, readonly unknown[]>(),
  }));
}

function laid({ played, from, pass, riff }: Span, part: Part, out: SectionNote[]): void {
  if (!played || !riff) return;
  const start = sub(from, pass.from);
  const end = sub(pass.to, pass.from);
  for (const event of played.events) {
    const at = add(start, event.at);
    if (cmp(at, end) >= 0 || cmp(at, ZERO) < 0 || event.grace) continue;
    for (const note of event.notes) {
      if (note.technique?.dead) continue;
      out.push({ part, event, riff: riff.id, midi: note.pitch.midi, at, to: add(at, note.dur ?? event.dur) });
    }
  }
}

/** How long two stretches overlap, in quarters. */
export function overlap(
  a: { readonly at: Quarter; readonly to: Quarter },
  b: { readonly at: Quarter; readonly to: Quarter },
): number {
  const from = cmp(a.at, b.at) > 0 ? a.at : b.at;
  const to = cmp(a.to, b.to) < 0 ? a.to : b.to;
  return cmp(to, from) > 0 ? toNumber(sub(to, from)) : 0;
}

import { type Finding } from '../base';
import { findPart, makeRiff, type Part, type Piece, type Riff, type RiffEvent } from '../score';
import { add, cmp, lt, maxQuarter, sub, ZERO } from '../time';
import { mapOf, type FormMap } from './map';
import { spansOf, type Laying, type Span } from './spans';

/**
 * Unfolding: from what is stored once to what is played, bar after bar. Playing, printing, speaking and checking all
 * work on the line that comes out here, and on nothing else.
 */

/** Where an event of the line comes from. */
export interface Origin {
  /** The event in its riff, or in the variant. */
  readonly event: string;
  readonly span: number;
}

/** A part as it is played from the first bar to the last. */
export interface Line {
  readonly part: Part;
  readonly map: FormMap;
  /** As if it were one long riff: whatever works on a riff works on it. Ids are the sources' with "~" and the span. */
  readonly riff: Riff;
  readonly spans: readonly Span[];
  readonly origins: ReadonlyMap<string, Origin>;
  readonly findings: readonly Finding[];
}

const lines = new WeakMap<Laying['since'], Line>();

/** A part of a piece unfolded; null where the piece has no such part. Unchanged parts keep their line. */
export function resolve(piece: Piece, partId: string): Line | null {
  const part = findPart(piece, partId);
  if (!part) return null;
  const map = mapOf(piece);
  const laying = spansOf(piece, part);
  const known = lines.get(laying.since);
  if (known?.map === map && known.spans === laying.spans) return known;
  const line = known ? { ...known, map, spans: laying.spans } : unfold(piece, part, map, laying);
  lines.set(laying.since, line);
  return line;
}

/** Every part that has something in the form, unfolded. */
export const resolveAll = (piece: Piece): Line[] =>
  piece.parts.flatMap((part) => {
    const line = resolve(piece, part.id);
    return line ? [line] : [];
  });

function unfold(piece: Piece, part: Part, map: FormMap, { spans, findings }: Laying): Line {
  const origins = new Map<string, Origin>();
  const out: RiffEvent[] = [];
  let pickup = ZERO;
  for (const { index, pass, from: start, played } of spans) {
    if (!played) continue;
    const [first] = played.events;
    // A pickup is played instead of what the bars before it end with.
    if (first)
      for (let last = out.at(-1); last && cmp(last.at, add(start, first.at)) >= 0; last = out.at(-1))
        origins.delete(out.pop()?.id ?? '');
    // Where the last of it lies within the pass all of it does.
    const last = played.events.at(-1);
    const whole = last !== undefined && lt(add(start, last.at), pass.to);
    const mark = `~${index}`;
    for (const event of played.events) {
      const at = add(start, event.at);
      if (!whole && cmp(at, pass.to) >= 0) break;
      const id = event.id + mark;
      out.push({ ...event, id, at, notes: event.notes.map((note) => ({ ...note, id: note.id + mark })) });
      origins.set(id, { event: event.id, span: index });
      if (start === ZERO && at.startsWith('-')) pickup = maxQuarter(pickup, sub(ZERO, at));
    }
  }
  const riff = makeRiff(`line-${part.id}`, piece.title, {
    ...{ bars: Math.max(1, map.bars), pickup, meters: [...map.meters], events: out, tempo: [...map.tempo], plays: 1 },
    ...(map.feel.length > 0 ? { feel: [...map.feel] } : {}),
    ...(map.click === undefined ? {} : { click: map.click }),
    ...(map.keys[0] ? { key: { tonic: map.keys[0].tonic, mode: map.keys[0].mode } } : {}),
  });
  return { part, map, riff, spans, origins, findings };
}

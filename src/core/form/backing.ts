import { parseChord, type ChordUnder } from '../harmony';
import { parseName } from '../pitch';
import { cmp, maxQuarter, minQuarter, sub, toNumber, type Quarter } from '../time';
import type { BassSpan, ChordSpan, FormMap } from './map';

/** The chords written over a stretch of the form, in its own time, for playing along; over the bass where one is. */
export function writtenChords(map: Pick<FormMap, 'chords' | 'bass'>, from: Quarter, to: Quarter): ChordUnder[] {
  const out: ChordUnder[] = [];
  for (const span of map.chords) {
    if (cmp(span.to, from) <= 0 || cmp(span.at, to) >= 0) continue;
    const read = parseChord(span.chord);
    if (!read.ok) continue;
    const [at, end] = [maxQuarter(span.at, from), minQuarter(span.to, to)];
    for (const part of cut(span, map.bass, at, end)) {
      const bass = part.bass ? parseName(part.bass) : null;
      const chord = bass ? { ...read.value, bass } : read.value;
      out.push({ from: toNumber(sub(part.at, from)), to: toNumber(sub(part.to, from)), chord, explains: 1 });
    }
  }
  return out;
}

/** A chord cut where the bass under it changes. */
function cut(
  chord: ChordSpan,
  bass: readonly BassSpan[],
  from: Quarter,
  to: Quarter,
): { readonly at: Quarter; readonly to: Quarter; readonly bass: string | null }[] {
  const under = bass.filter((one) => cmp(one.to, from) > 0 && cmp(one.at, to) < 0);
  const edges = [...new Set([from, ...under.flatMap((one) => [one.at, one.to]), to])]
    .filter((edge) => cmp(edge, from) >= 0 && cmp(edge, to) <= 0)
    .sort(cmp);
  return edges.slice(0, -1).map((at, i) => ({
    at,
    to: edges[i + 1] ?? to,
    bass: under.find((one) => cmp(one.at, at) <= 0 && cmp(one.to, at) > 0)?.note ?? null,
  }));
}

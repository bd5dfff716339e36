import { fail, ok, type Finding, type Result } from '../../base';
import { ZERO } from '../../time';
import type { Mark, Music, ReadOptions, Reading } from '../music';
import { barsOf } from './bars';
import { isZip, unpackScore } from './container';
import { playedOrder, repeatsOf } from './form-read';
import { lanesOf } from './lanes';
import { LeftOutList } from './left-out';
import { MUSICXML_LIMITS } from './limits';
import { BadMeasure, newState, readMeasure, type PartState, type ReadMeasure } from './measure';
import { partOf } from './part';
import { child, childrenOf, decodeXml, has, parseXml, textOf, type Element } from './xml';

/**
 * Reads MusicXML 1 to 4: partwise or timewise, plain or compressed, any XML encoding. Faults name the line, or the part
 * and the measure; nothing is thrown. What can be understood in two ways is asked, with what is done unasked.
 */
export function readMusicXml(bytes: Uint8Array, { answers = {}, progress }: ReadOptions = {}): Result<Reading> {
  if (bytes.length > MUSICXML_LIMITS.bytes)
    return fail(
      'too-large',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; ${MUSICXML_LIMITS.bytes / 1048576} MB at most.`,
      'file',
    );
  const packed = isZip(bytes) ? unpackScore(bytes) : ok(bytes);
  if (!packed.ok) return packed;
  const text = decodeXml(packed.value);
  if (!text.ok) return text;
  const tree = parseXml(text.value, progress && ((share) => progress(share * 0.6)));
  if (!tree.ok) return tree;
  const score = tree.value;
  if (score.name !== 'score-partwise' && score.name !== 'score-timewise')
    return fail('not-musicxml', `This is no MusicXML score: it holds "${score.name.slice(0, 40)}".`, {
      path: ['line', 1],
    });
  try {
    return readScore(score, answers, progress && ((share) => progress(0.6 + share * 0.4)));
  } catch (reason) {
    // Times are exact: what divides a quarter into parts nobody can count ends here.
    if (reason instanceof RangeError)
      return fail('bad-time', 'The file counts time in parts too small to be added up. Export it again.', 'file');
    throw reason;
  }
}

interface RawPart {
  readonly id: string;
  readonly info: Element | undefined;
  readonly measures: readonly Element[];
}

function rawParts(score: Element): RawPart[] {
  const infos = childrenOf(child(score, 'part-list'), 'score-part');
  const info = (id: string): Element | undefined => infos.find((one) => one.attrs.id === id);
  if (score.name === 'score-partwise')
    return childrenOf(score, 'part').map((part) => ({
      id: part.attrs.id ?? '',
      info: info(part.attrs.id ?? ''),
      measures: childrenOf(part, 'measure'),
    }));
  const parts = new Map<string, Element[]>();
  childrenOf(score, 'measure').forEach((measure, i) => {
    for (const part of childrenOf(measure, 'part')) {
      const id = part.attrs.id ?? '';
      const list = parts.get(id) ?? [];
      // A part that is missing in measures has nothing there.
      while (list.length < i) list.push({ name: 'measure', attrs: {}, children: [], text: '' });
      list.push({ ...part, attrs: measure.attrs });
      parts.set(id, list);
    }
  });
  return [...parts].map(([id, measures]) => ({ id, info: info(id), measures }));
}

function readScore(
  score: Element,
  answers: NonNullable<ReadOptions['answers']>,
  progress: (share: number) => void = () => undefined,
): Result<Reading> {
  const raw = rawParts(score);
  if (raw.length === 0) return fail('no-part', 'The file holds no part.', 'file');
  if (raw.length > MUSICXML_LIMITS.parts)
    return fail('many-parts', `The file has ${raw.length} parts; ${MUSICXML_LIMITS.parts} at most.`, 'file');
  const count = raw.reduce((most, part) => Math.max(most, part.measures.length), 0);
  if (count > MUSICXML_LIMITS.measures)
    return fail('many-measures', `The file has ${count} measures; ${MUSICXML_LIMITS.measures} at most.`, 'file');
  const left = new LeftOutList();
  const remarks: Finding[] = [];
  const concert = has(child(score, 'defaults'), 'concert-score');
  const read: { raw: RawPart; name: string; state: PartState; measures: ReadMeasure[] }[] = [];
  let notes = 0;
  for (const [i, part] of raw.entries()) {
    const name = (part.info ? textOf(part.info, 'part-name') : null) || `Part ${i + 1}`;
    const state = newState(concert);
    const measures: ReadMeasure[] = [];
    for (const [bar, measure] of part.measures.entries()) {
      try {
        const one = readMeasure(measure, state, (what) =>
          left.add(what, `${name}, measure ${measure.attrs.number ?? bar + 1}`),
        );
        measures.push(one);
        notes += one.notes.length;
      } catch (reason) {
        if (!(reason instanceof BadMeasure)) throw reason;
        return fail(
          'bad-measure',
          `${name}, measure ${measure.attrs.number ?? bar + 1}: ${reason.message}. Mend it where it was written.`,
          {
            path: ['part', i + 1, 'measure', bar + 1],
          },
        );
      }
      if (notes > MUSICXML_LIMITS.notes)
        return fail('too-many-notes', `The file has over ${MUSICXML_LIMITS.notes} notes. Export fewer parts.`, 'file');
    }
    read.push({ raw: part, name, state, measures: repeated(measures) });
    progress((i + 1) / raw.length);
  }
  const bars = barsOf(
    read.map((one) => one.measures),
    answers,
    left,
    remarks,
  );
  const lead = leading(
    read.map((one) => one.measures),
    count,
  );
  const repeats = repeatsOf(lead);
  // A pickup is no bar: everything counts from the first whole one.
  const first = bars.pickup === ZERO ? 0 : 1;
  const shiftRange = <Range extends { from: number; to: number }>(range: Range): Range => ({
    ...range,
    from: Math.max(0, range.from - first),
    to: range.to - first,
  });
  const order = playedOrder(lead, repeats)
    .map(shiftRange)
    .filter((range) => range.to > range.from);
  const music: Music = {
    ...titles(score),
    ...{ bars: Math.max(1, count - first), pickup: bars.pickup, meters: bars.meters },
    ...lanesOf(
      read.map((one) => one.measures),
      bars.starts,
    ),
    marks: marksOf(lead, first),
    repeats: repeats
      .map((one) => ({ ...shiftRange(one), endings: one.endings.map(shiftRange) }))
      .filter((one) => one.to > one.from),
    order: order.length > 0 ? order : [{ from: 0, to: Math.max(1, count - first) }],
    parts: read.map((one) => partOf(one, bars, left, remarks)),
  };
  if (music.parts.every((part) => part.events.length === 0))
    return fail('no-notes', 'The file holds no notes.', 'file');
  return ok({ music, questions: bars.questions, leftOut: left.list(), remarks });
}

function titles(score: Element): { title: string; credit: string | null } {
  const work = textOf(child(score, 'work'), 'work-title');
  const movement = textOf(score, 'movement-title');
  const creators = childrenOf(child(score, 'identification'), 'creator')
    .map((one) => one.text.trim())
    .filter(Boolean);
  return {
    title: (work || movement || '').slice(0, 160),
    credit: creators.length > 0 ? [...new Set(creators)].join(', ').slice(0, 300) : null,
  };
}

/** Measures under a sign for "the last ones again" hold what those hold. */
function repeated(measures: readonly ReadMeasure[]): ReadMeasure[] {
  const out: ReadMeasure[] = [];
  for (const one of measures) {
    const model = one.again !== null && one.notes.length === 0 ? out[out.length - one.again] : undefined;
    out.push(model ? { ...one, notes: model.notes, length: model.length } : one);
  }
  return out;
}

/** The signs of all parts, measure by measure: most files write them in the first part alone, some in each. */
function leading(parts: readonly (readonly ReadMeasure[])[], count: number): ReadMeasure[] {
  return Array.from({ length: count }, (_, bar): ReadMeasure => {
    const all = parts.flatMap((part) => part[bar] ?? []);
    const [first] = all as [ReadMeasure, ...ReadMeasure[]];
    return {
      ...first,
      mark: all.find((one) => one.mark)?.mark ?? null,
      named: all.find((one) => one.named)?.named ?? null,
      cue: all.find((one) => one.cue)?.cue ?? null,
      forward: all.some((one) => one.forward),
      backward: all.reduce<number | null>(
        (most, one) => (one.backward === null ? most : Math.max(most ?? 0, one.backward)),
        null,
      ),
      endingStart: all.find((one) => one.endingStart)?.endingStart ?? null,
      endingStop: all.some((one) => one.endingStop),
      jump: all.find((one) => one.jump)?.jump ?? null,
      sign: all.some((one) => one.sign),
      fine: all.some((one) => one.fine),
      toCoda: all.some((one) => one.toCoda),
      coda: all.some((one) => one.coda),
    };
  });
}

function marksOf(lead: readonly ReadMeasure[], first: number): Mark[] {
  const signs = lead.some((one) => one.mark);
  return lead.flatMap((one, i) => {
    const name = signs ? one.mark : one.named;
    return name ? [{ bar: Math.max(0, i - first), name, ...(one.cue === null ? {} : { cue: one.cue }) }] : [];
  });
}

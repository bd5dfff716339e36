import { setFrame, setLength } from '../../command';
import { amountWords, barFindings, lengthLabel } from '../../rhythm';
import { barCount, endOf, riffEnd, type Part, type Piece, type Riff } from '../../score';
import { add, barStart, cmp, sub, toNumber, ZERO, type Quarter } from '../../time';
import { cellsOf, commonest, contentOf, type Cell } from '../cells';
import { asked, type CheckFinding, type RiffRule } from '../types';

/**
 * Counts that don't fill the bars: what sounds beyond the riff's end, what runs into the next note, bars that come
 * too short by something no rest would be, and a last bar that holds only the next beginning.
 */
export const bars: RiffRule = {
  id: 'bar-sum',
  name: 'counts that don’t fill the bars',
  on: 'riff',
  reads: () => [],
  find: (riff, part, piece) => [
    ...over(riff, part, piece),
    ...oddGaps(riff, part),
    ...shifted(riff, part),
    ...emptyEnd(riff, part, piece),
  ],
};

const ring = (riff: Riff, i: number): boolean => {
  const event = riff.events[i];
  return event !== undefined && (event.letRing || event.notes.some((note) => note.technique?.letRing === true));
};

/** What lasts into the next attack on its own string, or beyond the riff. */
function over(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const out: CheckFinding[] = [];
  const events = riff.events.filter((event) => !event.grace && event.notes.length > 0);
  events.forEach((event, i) => {
    const next = events[i + 1];
    if (!next || ring(riff, riff.events.indexOf(event)) || cmp(endOf(event), next.at) <= 0) return;
    const strings = new Set(event.notes.flatMap((note) => note.place?.string ?? []));
    const again = next.notes.some((note) => note.place && strings.has(note.place.string));
    if (!again && strings.size > 0) return;
    const length = sub(next.at, event.at);
    const mend = setLength(piece, riff.id, [event.id], length);
    out.push(
      asked('bar-sum', {
        locus: { part: part.id, riff: riff.id, event: event.id },
        about: [event.id, 'into'],
        ground: [event.dur, next.at, event.at],
        words: `A ${lengthLabel(event.dur)} in "${riff.name}" lasts beyond the next attack on its string: shorter, or is a bar over?`,
        evidence: causes(riff, event.at),
        likely: 0.6,
        mends: mend.ok ? [{ words: `Make it a ${lengthLabel(length)}`, edit: mend.value }] : [],
      }),
    );
  });
  const last = events.at(-1);
  const end = riffEnd(riff);
  if (last && cmp(endOf(last), end) > 0 && !last.letRing) {
    const length = sub(end, last.at);
    const mend = cmp(length, ZERO) > 0 ? setLength(piece, riff.id, [last.id], length) : null;
    out.push(
      asked('bar-sum', {
        locus: { part: part.id, riff: riff.id, event: last.id, bar: barCount(riff) - 1 },
        about: [riff.id, 'beyond'],
        ground: [endOf(last), end],
        words: `"${riff.name}" sounds ${amountWords(sub(endOf(last), end))} beyond its last bar: cut, or is there a bar more?`,
        evidence: causes(riff, last.at),
        likely: 0.5,
        mends: mend?.ok ? [{ words: `Make it a ${lengthLabel(length)}`, edit: mend.value }] : [],
      }),
    );
  }
  return out;
}

/** What the sum of the bar says, where it says anything. */
function causes(riff: Riff, at: Quarter): string | null {
  const found = barFindings(riff).find(
    ({ locus }) => cmp(barStart(riff.meters, locus.bar), at) <= 0 && cmp(at, barStart(riff.meters, locus.bar + 1)) < 0,
  );
  return found ? `Bar ${found.locus.bar + 1}: ${found.words}.` : null;
}

/** A bar short by less than the shortest length that is used around it: no rest would be written so. */
function oddGaps(riff: Riff, part: Part): CheckFinding[] {
  const lengths = riff.events.filter((event) => !event.grace).map((event) => event.dur);
  const shortest = lengths.reduce<Quarter | null>((a, b) => (a === null || cmp(b, a) < 0 ? b : a), null);
  if (shortest === null || lengths.length < 6) return [];
  return barFindings(riff).flatMap((found): CheckFinding[] => {
    if (found.rule !== 'bar-short') return [];
    const inBar = riff.events.filter((event) => inside(riff, event.at, found.locus.bar) && !event.grace);
    const last = inBar.at(-1);
    if (!last) return [];
    const missing = sub(barStart(riff.meters, found.locus.bar + 1), endOf(last));
    if (cmp(missing, ZERO) <= 0 || cmp(missing, shortest) >= 0) return [];
    return [
      asked('bar-sum', {
        locus: { part: part.id, riff: riff.id, bar: found.locus.bar, event: last.id },
        about: [riff.id, 'short', found.locus.bar],
        ground: [inBar.map((event) => [event.at, event.dur])],
        words: `Bar ${found.locus.bar + 1} of "${riff.name}" comes ${lengthLabel(missing)} short: is a length wrong?`,
        evidence: found.evidence,
        likely: 0.6,
      }),
    ];
  });
}

const inside = (riff: Riff, at: Quarter, bar: number): boolean =>
  cmp(barStart(riff.meters, bar), at) <= 0 && cmp(at, barStart(riff.meters, bar + 1)) < 0;

/**
 * From some bar on everything comes early: what is written there, moved on by what the last bar lacks, is what other
 * bars have. A note was lost before it.
 */
function shifted(riff: Riff, part: Part): CheckFinding[] {
  const events = riff.events.filter((event) => !event.grace);
  const last = events.at(-1);
  const count = barCount(riff);
  if (!last || count < 3) return [];
  const lacks = sub(riffEnd(riff), endOf(last));
  const most = commonest(events.map((event) => event.dur))?.value;
  if (most === undefined || cmp(lacks, ZERO) <= 0 || cmp(lacks, barStart(riff.meters, 1)) >= 0) return [];
  const moved = { ...riff, events: riff.events.map((event) => ({ ...event, at: add(event.at, lacks) })) };
  const [plain, later] = [riff, moved].map((one) => new Map(cellsOf(one, 1).map((cell) => [cell.bar, cell])));
  const contents = (cells: ReadonlyMap<number, Cell> | undefined, bar: number): string | null => {
    const cell = cells?.get(bar);
    return cell && cell.events.length >= 4 ? contentOf(cell) : null;
  };
  const repeats = (content: string | null, bar: number): boolean =>
    content !== null && Array.from({ length: bar }, (_, i) => contents(plain, i)).includes(content);
  /** Everything from a bar on is early where none of it, as it stands, is what stood before that bar. */
  const allEarly = (from: number): boolean =>
    Array.from({ length: count - from }, (_, i) => contents(plain, from + i)).every((one) => !repeats(one, from));
  let from: number | null = null;
  for (let bar = 1; bar < count && from === null; bar++)
    if (repeats(contents(later, bar), bar) && allEarly(bar)) from = bar;
  if (from === null) return [];
  return [
    asked('bar-sum', {
      locus: { part: part.id, riff: riff.id, bar: from - 1 },
      about: [riff.id, 'early'],
      ground: [lacks, from, contents(plain, count - 1)],
      words: `From bar ${from + 1} on "${riff.name}" comes ${lengthLabel(lacks)} early: is a note or rest of that length lost in bar ${from}?`,
      evidence: `Moved on by that, bar ${from + 1} is what was played before; and the last bar lacks as much at its end.`,
      likely: 0.85,
    }),
  ];
}

/** A bar more than there is anything in, or one that only begins again. */
function emptyEnd(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const count = barCount(riff);
  const last = riff.events.at(-1);
  const first = riff.events.find((event) => cmp(event.at, ZERO) >= 0 && !event.grace);
  if (!last || !first || count < 2) return [];
  const shorter = setFrame(piece, riff.id, { bars: count - 1 });
  const lastBar = barStart(riff.meters, count - 1);
  if (cmp(endOf(last), lastBar) <= 0) {
    const empty = Math.floor(
      (toNumber(riffEnd(riff)) - toNumber(endOf(last))) / (toNumber(riffEnd(riff)) / count) + 1e-9,
    );
    return [
      asked('bar-sum', {
        locus: { part: part.id, riff: riff.id, bar: count - 1 },
        about: [riff.id, 'empty'],
        ground: [count, endOf(last)],
        words: `"${riff.name}" has ${count} bars and nothing in the last${empty > 1 ? ` ${empty}` : ''}: one bar over?`,
        likely: 0.5,
        mends: shorter.ok && riff.bars === count ? [{ words: `Make it ${count - 1} bars`, edit: shorter.value }] : [],
      }),
    ];
  }
  const onlyFirst =
    count >= 3 &&
    last.at === lastBar &&
    last.notes.map((note) => note.pitch.midi).join() === first.notes.map((note) => note.pitch.midi).join() &&
    first.at === ZERO;
  if (!onlyFirst || (riff.plays ?? 2) === 1) return [];
  return [
    asked('bar-sum', {
      locus: { part: part.id, riff: riff.id, bar: count - 1, event: last.id },
      about: [riff.id, 'next'],
      ground: [last.at, count],
      words: `The last bar of "${riff.name}" holds only its first note again: is that already the next time round?`,
      evidence: `Without it the riff has ${count - 1} bars.`,
      likely: 0.5,
    }),
  ];
}

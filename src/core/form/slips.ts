import type { Part, Piece, Row, RiffEvent, Section, Use } from '../score';
import { add, barStart, minQuarter, sub, toNumber, type MeterChange, type Quarter } from '../time';
import { inBars, sectionLength, type PassSpan } from './map';
import { moveWords } from './move-use';
import { playedBy } from './played';
import { layRow, spansOf, type Span } from './spans';

/** The slips of a chart's rows: each play of a use with its name, what is done to it, and a contour of its notes. */

/** A note as a dash: begin and end in bars from the slip's begin, height 0 (low) to 1 within the part's range. */
export interface Dash {
  readonly from: number;
  readonly to: number;
  readonly height: number;
  readonly chord: boolean;
}
/** The notes of a play as dashes; the same array as long as they are drawn alike. */
export type Contour = readonly Dash[];

/** Where something stands in a block: in bars from its beginning, with a fraction within the bar. */
export interface Slip {
  readonly use: Use;
  readonly play: number;
  readonly from: number;
  readonly to: number;
  /** What is played, in a name and what is done to it: "B", "up 5 frets", "ending". */
  readonly name: string;
  readonly how: string;
  readonly kind: 'riff' | 'varied' | 'silent' | 'rest' | 'free' | 'unwritten' | 'fault';
  readonly contour: Contour;
  /** Open strings that became stopped ones by moving. */
  readonly lostOpen: number;
}

interface Range {
  readonly low: number;
  readonly high: number;
}
type Events = readonly RiffEvent[];

/** The pitches a part has, as written and as its form moves them. */
export function rangeOf(piece: Piece, part: Part): Range {
  let [low, high] = [127, 0];
  const seen = new Set<Events>([...part.riffs.map((riff) => riff.events), ...playedOf(piece, part)]);
  for (const events of seen) {
    const own = pitches(events);
    low = Math.min(low, own.low);
    high = Math.max(high, own.high);
  }
  return low > high ? { low: 40, high: 64 } : { low, high: Math.max(high, low + 5) };
}
const playedOf = (piece: Piece, part: Part): Events[] =>
  spansOf(piece, part).spans.flatMap((span) => (span.played ? [span.played.events] : []));

function pitches(events: Events): Range {
  const known = ranges.get(events);
  if (known) return known;
  let [low, high] = [127, 0];
  for (const event of events)
    for (const { pitch } of event.notes) {
      low = Math.min(low, pitch.midi);
      high = Math.max(high, pitch.midi);
    }
  const range = { low, high };
  ranges.set(events, range);
  return range;
}
const ranges = new WeakMap<Events, Range>();

/** The slips of a row in one pass of its section, or in the section as it stands where the route doesn't play it. */
export function slipsOf(
  piece: Piece,
  part: Part,
  section: Section,
  row: Row,
  pass: PassSpan | null,
  meters: readonly MeterChange[],
  range: Range,
): readonly Slip[] {
  const frame = { range, meters };
  if (pass)
    return (byPass(spansOf(piece, part).spans).get(pass.index) ?? []).map((span) =>
      slip(part, span, span.played?.events ?? [], sub(span.from, pass.from), sub(span.to, pass.from), {
        ...frame,
        ...{
          variant: span.variant,
          lostOpen: span.lostOpen,
          silent: span.riff === null && span.use.riff !== undefined,
        },
      }),
    );
  const length = sectionLength(piece, section);
  return layRow(piece, section, row).map((laid) => {
    const { use } = laid;
    const riff = part.riffs.find((one) => one.id === use.riff);
    const events = riff && !use.leaveOut ? playedBy(piece, part, riff, use, use.variant).events : [];
    return slip(part, laid, events, laid.from, minQuarter(laid.to, length), {
      ...frame,
      ...{ variant: use.variant ?? null, lostOpen: 0, silent: use.leaveOut === true },
    });
  });
}

const passes = new WeakMap<readonly Span[], Map<number, Span[]>>();
function byPass(spans: readonly Span[]): ReadonlyMap<number, readonly Span[]> {
  const known = passes.get(spans);
  if (known) return known;
  const out = new Map<number, Span[]>();
  for (const span of spans) {
    const list = out.get(span.pass.index);
    if (list) list.push(span);
    else out.set(span.pass.index, [span]);
  }
  passes.set(spans, out);
  return out;
}

interface Frame {
  readonly range: Range;
  readonly meters: readonly MeterChange[];
}

const SPOTS = { rest: 'rests', free: 'free', unwritten: 'not yet written' } as const;

function slip(
  part: Part,
  { use, play }: { readonly use: Use; readonly play: number },
  events: Events,
  start: Quarter,
  end: Quarter,
  {
    variant: variantId,
    lostOpen,
    silent,
    ...frame
  }: Frame & { readonly variant: string | null; readonly lostOpen: number; readonly silent: boolean },
): Slip {
  const riff = part.riffs.find((one) => one.id === use.riff);
  const variant = riff?.variants?.find((one) => one.id === variantId);
  const { bars } = use;
  const how = [
    ...(bars ? [bars.count === 1 ? `bar ${bars.from + 1}` : `bars ${bars.from + 1} to ${bars.from + bars.count}`] : []),
    ...(variant ? [variant.name] : []),
    ...(use.move ? [moveWords(use.move)] : []),
    ...(silent ? ['silent'] : []),
  ].join(', ');
  const fault =
    !silent && riff !== undefined && riff.events.length > 0 && events.length === 0 && use.move !== undefined;
  return {
    ...{ use, play, how, lostOpen, from: inBars(frame.meters, start), to: inBars(frame.meters, end) },
    name: use.spot ? SPOTS[use.spot.kind] : (riff?.name ?? '?'),
    kind: use.spot
      ? use.spot.kind
      : fault
        ? 'fault'
        : silent
          ? 'silent'
          : variant || use.move || bars
            ? 'varied'
            : 'riff',
    contour: contourOf(events, start, frame),
  };
}

interface DrawnContour extends Frame {
  readonly start: Quarter | null;
  readonly contour: Contour;
}
const contours = new WeakMap<Events, DrawnContour[]>();

/** Where all bars are alike a play is drawn alike wherever it begins. */
function contourOf(events: Events, start: Quarter, { range, meters }: Frame): Contour {
  const alike = meters.length === 1;
  const known = contours.get(events) ?? [];
  const same = known.find(
    (one) =>
      one.range.low === range.low &&
      one.range.high === range.high &&
      one.meters === meters &&
      (alike || one.start === start),
  );
  if (same) return same.contour;
  const spread = range.high - range.low;
  const begin = inBars(meters, start);
  const bar = toNumber(barStart(meters, 1));
  const at = (time: Quarter): number => (alike ? toNumber(time) / bar : inBars(meters, add(start, time)) - begin);
  const contour = events.flatMap((event) => {
    const [from, to] = [at(event.at), at(add(event.at, event.dur))];
    return event.notes.map((note) => ({
      ...{ from, to, height: (note.pitch.midi - range.low) / spread, chord: event.notes.length > 1 },
    }));
  });
  // The last few are enough: a riff stands in few frames at once.
  contours.set(events, [{ range, meters, start: alike ? null : start, contour }, ...known.slice(0, 15)]);
  return contour;
}

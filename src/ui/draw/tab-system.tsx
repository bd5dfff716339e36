import type { Struck } from '@/core/rhythm';
import type { StaffBar } from '@/core/staff';
import { endOf, type RiffEvent, joinsInto } from '@/core/score';
import { barStart, cmp, meterAt, type MeterChange, type Quarter } from '@/core/time';
import { noteText } from './lanes';
import { EventMarks, needsBand } from './event-marks';
import { bentAbove, markEnd, NoteMarks } from './note-marks';
import { articulationRuns, RunMarks } from './run-marks';
import { StrokeSign } from './stroke-sign';
import { spacedScale, type Figures, type RowScale } from './spacing';
import type { StripRow } from './strip-layout';
import { Rhythm, STEM } from './tab-rhythm';

interface Props {
  readonly row: StripRow;
  readonly next: RiffEvent | null;
  readonly width: number;
  readonly meters: readonly MeterChange[];
  /** The bars as written signs: their lengths, ties, rests and tuplets stand under the tab. */
  readonly written: readonly StaffBar[];
  /** String numbers, thin to thick, with the names written before the lines. */
  readonly strings: readonly number[];
  readonly names: readonly string[];
  readonly fingers: boolean;
  /** The number written for a place. */
  readonly fretText: (place: { readonly string: number; readonly fret: number }) => string;
  readonly label: string;
  /** Stroke signs over the tab, where they are wanted. */
  readonly strokes?: ReadonlyMap<string, Struck> | null;
  /** The number of the first bar there is, where it is not 1. */
  readonly firstNumber?: number;
  /** Chords over the bars. */
  readonly chords?: readonly { readonly at: Quarter; readonly name: string }[];
  /** The time axis, where several systems share one. */
  readonly scale?: RowScale;
  /** Repeat signs at the row's ends, and the double line at the end of a piece. */
  readonly opens?: boolean;
  readonly closes?: boolean;
  /** Whether the meter stands at the first bar; a change of it always does. */
  readonly meterShown?: boolean;
}

const GAP = 13;
/** Where the lines begin, and where time 0 of a row stands; the staff above keeps to the same. */
export const TAB_LEFT = 34;
export const TAB_LEAD = 14;
/** Between fingers of a column. */
const FINGER_GAP = 9;
/** Height of a fret in print. */
const FRET_SIZE = 12.5;
/** Marks of the strip at the size of print. */
const PRINT = 0.68;

const fingerSign = (finger: number): string => (finger === 5 ? 'T' : String(finger));

/** The width onsets have in a system of so many pixels. */
export const tabRoom = (width: number): number => width - TAB_LEFT - TAB_LEAD - 20;

/** Frets as they are printed. */
export const tabFigures = (fretText: Props['fretText']): Figures => ({
  size: FRET_SIZE,
  text: (note) => (note.place ? noteText(note, fretText(note.place)) : '?'),
});

/** Time to pixels within a system. */
export const tabScale = (
  row: StripRow,
  meters: readonly MeterChange[],
  width: number,
  fretText: Props['fretText'],
): RowScale => spacedScale(row, meters, TAB_LEFT + TAB_LEAD, tabRoom(width), tabFigures(fretText));

/** Fingers of an event from the thin strings down, as its frets stand above them. */
const fingersOf = (event: RiffEvent): string[] =>
  event.notes
    .flatMap(({ place }) => (place?.finger ? [place] : []))
    .sort((a, b) => a.string - b.string)
    .map(
      ({ finger, otherFinger }) =>
        `${fingerSign(finger ?? 0)}${otherFinger === undefined ? '' : `/${fingerSign(otherFinger)}`}`,
    );

/** One system of the printed tab: lines, frets, joins and marks, rhythm below, fingers under it. Black on white. */
export function TabSystem({
  row,
  next,
  width,
  meters,
  written,
  strings,
  names,
  fingers,
  fretText,
  label,
  strokes = null,
  firstNumber = 1,
  chords = [],
  scale,
  opens = false,
  closes = false,
  meterShown = true,
}: Props) {
  const rings = ringRuns(row.events);
  const runs = articulationRuns(row.events);
  // From the top: rings, strokes, runs, bar numbers with the marks of events; each only where there are any.
  const band = row.events.some(needsBand) ? 10 : 0;
  const inRow = chords.filter(
    (one) => cmp(one.at, row.to) < 0 && cmp(one.at, row.firstBar === 0 ? one.at : row.from) >= 0,
  );
  const chordY = inRow.length > 0 ? 17 : 0;
  const ringY = chordY + (rings.length > 0 ? 12 : 0);
  const strokeY = ringY + (strokes ? 14 : 0);
  const runY = strokeY + (runs.length > 0 ? 12 : 0);
  const top = runY + 22 + band;
  const bottom = top + (strings.length - 1) * GAP;
  const x = scale ?? tabScale(row, meters, width, fretText);
  const y = (s: number): number => top + strings.indexOf(s) * GAP;
  const rhythm = bottom + 12;
  const fingerY = rhythm + STEM + 17;
  const deepest = Math.max(1, ...row.events.map((event) => fingersOf(event).length));
  const height = fingerY + (fingers ? 4 + (deepest - 1) * FINGER_GAP : -4);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      aria-label={label}
      className="block break-inside-avoid text-black"
      fontFamily="var(--font-figures)"
    >
      {strings.map((s, i) => (
        <g key={s}>
          <line x1={TAB_LEFT} x2={width - 4} y1={y(s)} y2={y(s)} stroke="currentColor" strokeWidth={0.7} />
          <text x={TAB_LEFT - 6} y={y(s) + 3.5} textAnchor="end" fontSize={10}>
            {names[i]}
          </text>
        </g>
      ))}
      {Array.from({ length: row.bars + 1 }, (_, b) => {
        const at = barStart(meters, row.firstBar + b);
        const px = b === row.bars ? width - 4 : x(at) - 12;
        const meter = meterAt(meters, row.firstBar + b);
        const shown =
          b < row.bars &&
          ((row.firstBar + b === 0 && meterShown) ||
            meters.some((meter) => meter.bar > 0 && meter.bar === row.firstBar + b));
        return (
          <g key={b}>
            <line x1={px} x2={px} y1={top} y2={bottom} stroke="currentColor" strokeWidth={b === row.bars ? 1.4 : 1} />
            {b < row.bars ? (
              <text x={px + 3} y={top - 8 - band} fontSize={9}>
                {row.firstBar + b + firstNumber}
              </text>
            ) : null}
            {shown ? (
              <text
                x={px + 18}
                y={top - 8 - band}
                fontSize={10}
                fontWeight={700}
              >{`${meter.beats}/${meter.unit}`}</text>
            ) : null}
          </g>
        );
      })}
      {inRow.map((one) => (
        <text
          key={one.at}
          x={x(one.at) - 8}
          y={chordY - 4}
          fontSize={15}
          fontWeight={700}
          fontFamily="var(--font-text)"
        >
          {one.name}
        </text>
      ))}
      {opens ? <RepeatSign x={TAB_LEFT} top={top} bottom={bottom} way={1} /> : null}
      {closes ? <RepeatSign x={width - 4} top={top} bottom={bottom} way={-1} /> : null}
      <RunMarks runs={runs} x={x} y={runY} right={width - 6} s={0.8} />
      {row.events.map((event, i) => (
        <g key={event.id}>
          {event.notes.map((one) => {
            if (!one.place) return null;
            const text = noteText(one, fretText(one.place));
            const cx = x(event.at);
            const cy = y(one.place.string);
            const size = event.grace ? 0.72 : 1;
            return (
              <g key={one.id}>
                <rect
                  x={cx - (3.6 * text.length + 1) * size}
                  y={cy - 5.5}
                  width={(7.2 * text.length + 2) * size}
                  height={11}
                  fill="white"
                />
                <text x={cx} y={cy + 4.3 * size} textAnchor="middle" fontSize={12.5 * size} fontWeight={700}>
                  {one.certainty === 'guess' ? `${text}?` : text}
                </text>
                {one.place.otherPlace && strings.includes(one.place.otherPlace.string) ? (
                  <text
                    x={cx}
                    y={y(one.place.otherPlace.string) + 3}
                    textAnchor="middle"
                    fontSize={9}
                    stroke="white"
                    strokeWidth={3}
                    paintOrder="stroke"
                  >
                    {`(${fretText(one.place.otherPlace)})`}
                  </text>
                ) : null}
                <NoteMarks
                  note={one}
                  cx={cx}
                  cy={cy}
                  half={3.6 * text.length * size + 1}
                  until={x(markEnd(event, row.events[i + 1] ?? next))}
                  band={top - 9}
                  quiet={bentAbove(event, one)}
                  s={PRINT}
                />
              </g>
            );
          })}
          <EventMarks event={event} x={x} y={y} top={top - 9} bottom={bottom} s={PRINT} />
          <Join from={row.events[i - 1] ?? row.before} to={event} x={x} y={y} left={TAB_LEFT} />
          {strokes?.get(event.id)?.stroke ? (
            <StrokeSign stroke={strokes.get(event.id)?.stroke ?? 'down'} x={x(event.at)} y={strokeY - 4} s={0.6} />
          ) : null}
          {fingers ? <FingerColumn event={event} x={x(event.at)} y={fingerY} /> : null}
        </g>
      ))}
      {rings.map((run) => {
        const from = x(run.from) - 6;
        const to = Math.min(width - 6, x(run.to) - 4);
        return (
          <g key={run.from}>
            <text x={from} y={ringY - 2} fontSize={9} fontStyle="italic">
              ring
            </text>
            {to > from + 26 ? (
              <path
                d={`M${from + 23},${ringY - 5} H${to} v4`}
                stroke="currentColor"
                strokeWidth={0.7}
                strokeDasharray="3 2"
                fill="none"
              />
            ) : null}
          </g>
        );
      })}
      {written.map((bar) => (
        <Rhythm key={bar.bar} bar={bar} x={x} y={rhythm} />
      ))}
    </svg>
  );
}

/** A thick line, a thin one, two dots: opening to the right (1) or closing to the left (-1). */
function RepeatSign({
  x,
  top,
  bottom,
  way,
}: {
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
  readonly way: 1 | -1;
}) {
  const middle = (top + bottom) / 2;
  return (
    <g stroke="currentColor">
      <line x1={x + way} x2={x + way} y1={top} y2={bottom} strokeWidth={3} />
      <line x1={x + way * 4} x2={x + way * 4} y1={top} y2={bottom} strokeWidth={0.8} />
      {[-7, 7].map((dy) => (
        <circle key={dy} cx={x + way * 7} cy={middle + dy} r={1.5} fill="currentColor" stroke="none" />
      ))}
    </g>
  );
}

function FingerColumn({ event, x, y }: { readonly event: RiffEvent; readonly x: number; readonly y: number }) {
  return (
    <text x={x} y={y} textAnchor="middle" fontSize={10} data-fingers={event.id}>
      {fingersOf(event).map((finger, i) => (
        <tspan key={i} x={x} dy={i === 0 ? 0 : FINGER_GAP}>
          {finger}
        </tspan>
      ))}
    </text>
  );
}

/** Ringing events that follow each other are one mark, from the first to the end of the last. */
function ringRuns(events: readonly RiffEvent[]): { from: Quarter; to: Quarter }[] {
  const runs: { from: Quarter; to: Quarter }[] = [];
  events.forEach((event, i) => {
    if (!event.letRing) return;
    const last = runs.at(-1);
    if (last && events[i - 1]?.letRing) last.to = endOf(event);
    else runs.push({ from: event.at, to: endOf(event) });
  });
  return runs;
}

function Join({
  from,
  to,
  x,
  y,
  left,
}: {
  from: RiffEvent | null;
  to: RiffEvent;
  x: (at: Quarter) => number;
  y: (s: number) => number;
  left: number;
}) {
  const into = joinsInto(from, to);
  if (!from || into.size === 0) return null;
  return (
    <g stroke="currentColor" fill="none" strokeWidth={0.9}>
      {to.notes.map((note) => {
        const pair = into.get(note.id);
        if (!note.place || !pair?.from.place || pair.how === 'hold') return null;
        const { from: origin, how } = pair;
        const x1 = Math.max(left, x(from.at) + 6);
        const x2 = x(to.at) - 6;
        const cy = y(note.place.string);
        if (how === 'slide' || how === 'shift') {
          const rise = note.place.fret > (origin.place?.fret ?? 0) ? 3.5 : -3.5;
          return <line key={note.id} x1={x1} y1={cy + rise} x2={x2} y2={cy - rise} />;
        }
        return (
          <g key={note.id}>
            <path d={`M${x1 - 4},${cy - 7} Q${(x1 + x2) / 2},${cy - 13} ${x2 + 4},${cy - 7}`} />
            <text x={(x1 + x2) / 2} y={cy - 11.5} fontSize={8} textAnchor="middle" fill="currentColor" stroke="none">
              {how === 'hammer' ? 'H' : 'P'}
            </text>
          </g>
        );
      })}
    </g>
  );
}

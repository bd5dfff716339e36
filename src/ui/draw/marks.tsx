import { Fragment, type ReactNode, type SVGProps } from 'react';
import {
  barresOf,
  bendShapes,
  bendShapeOf,
  endOf,
  type Articulation,
  type EventTechnique,
  type Note,
  type NoteTechnique,
  type RiffEvent,
  type Technique,
} from '@/core/score';
import { minQuarter, type Quarter } from '@/core/time';
import { bendText } from './lanes';

/**
 * The marks of the notation on paper, once for strip and sheet: `s` scales them (1 on the strip),
 * ink is the colour of the text around.
 */
type X = (at: Quarter) => number;

/** Where the marks of a note stand: the middle of its figure, half its width, where its sound ends, and the scale. */
interface At {
  readonly cx: number;
  readonly cy: number;
  readonly half: number;
  readonly until: number;
  /** The line over the strings on which what is said of a note stands, clear of every string. */
  readonly band: number;
  /** How far it is bent stands at another note of its chord already. */
  readonly quiet?: boolean;
  readonly s: number;
}

type NoteMark<Name extends NoteTechnique> = (
  value: NonNullable<Technique[Name]>,
  at: At,
  technique: Technique,
) => ReactNode;

const sideText = ({ cx, cy, half, s }: At, text: string, extra: SVGProps<SVGTextElement> = {}): ReactNode => (
  <text x={cx + half + 1} y={cy - 7 * s} fontSize={12 * s} stroke="none" {...extra}>
    {text}
  </text>
);

const underLine = ({ cx, cy, half, s }: At, width: number): ReactNode => (
  <line x1={cx - half} x2={cx + half} y1={cy + 12 * s} y2={cy + 12 * s} strokeWidth={width * s} />
);

/** Arrows of a bend whose size is not said, by its shape. */
const UNSAID_BENDS = { up: '↑', released: '↑↓', again: '↑↓↑', prebend: '(↑)', 'prebend-released': '(↑)↓' } as const;

/** The mark of every technique of a note; null where its figure or another mark shows it. */
const NOTE_MARKS: { readonly [Name in NoteTechnique]: NoteMark<Name> | null } = {
  dead: null,
  harmonic: null,
  bend: (_, { cx, cy, half, until, band, quiet, s }, technique) => (
    <Bend technique={technique} x={cx + half + 1} y={cy} until={until} band={band} quiet={quiet === true} s={s} />
  ),
  bendCurve: null,
  bendShape: null,
  bendDirection: null,
  unspecified: (open, at, { bendShape }) =>
    sideText(at, open.includes('bend') ? `${UNSAID_BENDS[bendShape ?? 'up']}?` : 'tr?', {
      className: 'fill-question',
      fontWeight: 700,
    }),
  vibrato: (cents, { cx, band, until, s }, { bend }) => (
    <Wave
      x={cx - 2}
      // Over a bend's figure, where there is one.
      y={bend ? band - 7 * s : band}
      until={Math.max(cx + 14 * s, until - 3)}
      height={(cents >= 60 ? 3.4 : cents <= 25 ? 1.5 : 2.4) * s}
      s={s}
    />
  ),
  trill: (by, at) => sideText(at, `tr ${by}`, { fontStyle: 'italic' }),
  pinched: (by, { cx, cy, half, s }) => (
    <text x={cx + half} y={cy - 8 * s} fontSize={10.5 * s} stroke="none" fontStyle="italic">{`ph${by}`}</text>
  ),
  tapped: (_, { cx, band, s }) => (
    <text x={cx} y={band + 4 * s} textAnchor="middle" fontSize={12 * s} fontWeight={700} stroke="none">
      T
    </text>
  ),
  slideInBy: null,
  slideOutBy: null,
  slideIn: (from, { cx, cy, half, s }) => (
    <line
      x1={cx - half - 10 * s}
      x2={cx - half - 1}
      y1={cy + (from === 'lower' ? 6 : -6) * s}
      y2={cy}
      strokeWidth={1.5 * s}
    />
  ),
  slideOut: (to, { cx, cy, half, s }) => (
    <line
      x1={cx + half + 1}
      x2={cx + half + 10 * s}
      y1={cy}
      y2={cy + (to === 'lower' ? 6 : -6) * s}
      strokeWidth={1.5 * s}
    />
  ),
  hammered: (_, { cx, cy, half, s }) => (
    <path
      d={`M${cx - half - 11 * s},${cy - 8 * s} Q${cx - half - 3 * s},${cy - 14 * s} ${cx},${cy - 10 * s}`}
      fill="none"
    />
  ),
  pulledOff: (_, { cx, cy, half, s }) => (
    <path
      d={`M${cx},${cy - 10 * s} Q${cx + half + 3 * s},${cy - 14 * s} ${cx + half + 11 * s},${cy - 8 * s}`}
      fill="none"
    />
  ),
  hold: (_, at, { anchor }) => (anchor ? null : underLine(at, 1.4)),
  anchor: (_, at) => underLine(at, 2.6),
  letRing: (_, { cx, cy, half, s }) => (
    <path
      d={`M${cx + half},${cy + 4 * s} q5,${5 * s} 12,${5 * s}`}
      fill="none"
      strokeWidth={1.2 * s}
      strokeDasharray={`${1.5 * s} ${2.5 * s}`}
      strokeLinecap="round"
    />
  ),
};

/** Whether a thinner string of the chord is bent as far: then the figure stands there. */
export const bentAbove = (event: Pick<RiffEvent, 'notes'>, note: Note): boolean =>
  event.notes.some(
    (other) =>
      (other.place?.string ?? 99) < (note.place?.string ?? 0) && other.technique?.bend === note.technique?.bend,
  );

/** Marks of one note. `cx`, `cy` is the middle of its figure, `half` half its width, `until` where its sound ends. */
export function NoteMarks({ note: { technique }, ...at }: { readonly note: Note } & At) {
  if (!technique) return null;
  return (
    <g fill="currentColor" stroke="currentColor">
      {(Object.keys(technique) as NoteTechnique[]).map((name) => {
        const mark = NOTE_MARKS[name] as NoteMark<never> | null;
        return mark ? <Fragment key={name}>{mark(technique[name] as never, at, technique)}</Fragment> : null;
      })}
    </g>
  );
}

/** Where a bend's arrow ends under its figure, and the least it rises, so that it is seen from the top string too. */
const BEND_ROOM = { under: 3, least: 9 } as const;

/**
 * A bend as the curve it makes: up, held, released; before the stroke it stands as an upright arrow. It rises over the
 * strings, where its figure stands clear of every line.
 */
function Bend({
  technique,
  x,
  y,
  until,
  band,
  quiet,
  s,
}: {
  readonly technique: Technique;
  readonly x: number;
  readonly y: number;
  readonly until: number;
  readonly band: number;
  readonly quiet: boolean;
  readonly s: number;
}) {
  const cents = technique.bend ?? 0;
  const shape = bendShapeOf(technique);
  const wide = Math.min(30 * s, Math.max(13 * s, until - x - 4 * s));
  const rise = Math.max(BEND_ROOM.least * s, y - 2 * s - (band + BEND_ROOM.under * s));
  const height = (c: number): number => (c / Math.max(1, cents)) * rise;
  const points =
    shape === 'up'
      ? [
          { at: 0, cents: 0 },
          { at: 60, cents },
        ]
      : (technique.bendCurve ?? bendShapes(cents).released);
  const at = (one: { at: number; cents: number }): readonly [number, number] => [
    x + (one.at / 100) * wide,
    y - 2 * s - height(one.cents),
  ];
  const first = points[0];
  const pre = first && first.cents > 0;
  const path = points
    .map((one, i) => {
      const [px, py] = at(one);
      if (i === 0) return `M${px},${py}`;
      const [qx, qy] = at(points[i - 1] ?? one);
      // Rising and falling bend like the string does: level where it leaves, steep where it arrives.
      return qy === py
        ? `L${px},${py}`
        : `C${(qx + px) / 2 + (px - qx) * 0.3},${qy} ${px},${(qy + py) / 2} ${px},${py}`;
    })
    .join(' ');
  const top = points.reduce((a, one) => (one.cents > a.cents ? one : a), points[0] ?? { at: 0, cents: 0 });
  const [tx, ty] = at(top);
  const lastPoint = points.at(-1) ?? top;
  const [lx, ly] = at(lastPoint);
  const falls = lastPoint.cents < top.cents;
  return (
    <g>
      {pre ? (
        <path
          d={`M${x},${y - 2 * s} V${at(first)[1]}`}
          fill="none"
          strokeWidth={1.4 * s}
          strokeDasharray={`${2 * s} ${1.5 * s}`}
        />
      ) : null}
      <path d={path} fill="none" strokeWidth={1.5 * s} />
      <path
        d={`M${tx - 2.8 * s},${ty + 4 * s} L${tx},${ty} L${tx + 2.8 * s},${ty + 4 * s}`}
        fill="none"
        strokeWidth={1.4 * s}
      />
      {falls ? (
        <path
          d={`M${lx - 2.8 * s},${ly - 4 * s} L${lx},${ly} L${lx + 2.8 * s},${ly - 4 * s}`}
          fill="none"
          strokeWidth={1.4 * s}
        />
      ) : null}
      <text
        data-bend
        x={falls ? tx - 5 * s : tx + 4 * s}
        y={ty + 4 * s}
        textAnchor={falls ? 'end' : 'start'}
        fontSize={11.5 * s}
        fontWeight={700}
        stroke="none"
      >
        {quiet ? '' : bendText(cents)}
        {technique.bendDirection ? (technique.bendDirection === 'thick' ? ' push' : ' pull') : ''}
      </text>
    </g>
  );
}

function Wave({
  x,
  y,
  until,
  height,
  s,
}: {
  readonly x: number;
  readonly y: number;
  readonly until: number;
  readonly height: number;
  readonly s: number;
}) {
  const step = 4 * s;
  const count = Math.min(40, Math.max(2, Math.floor((until - x) / step)));
  return (
    <path
      d={`M${x},${y} ${Array.from({ length: count }, (_, i) => `q${step / 2},${i % 2 === 0 ? -2 * height : 2 * height} ${step},0`).join(' ')}`}
      fill="none"
      strokeWidth={1.4 * s}
    />
  );
}

/** Where the marks of an event stand: its onset, its highest and lowest string, and the band over the strings. */
interface EventAt {
  readonly event: RiffEvent;
  readonly cx: number;
  readonly high: number;
  readonly low: number;
  readonly top: number;
  readonly bottom: number;
  readonly x: X;
  readonly s: number;
}

type EventMark<Name extends EventTechnique> = (value: NonNullable<Articulation[Name]>, at: EventAt) => ReactNode;

/** The mark of every way of playing an event; null where another lane, a run or the figure shows it. */
const EVENT_MARKS: { readonly [Name in EventTechnique]: EventMark<Name> | null } = {
  kind: (_, { event, x: one, top, bottom, s }) => <Special event={event} x={one} top={top} bottom={bottom} s={s} />,
  mute: null,
  stroke: null,
  grace: null,
  anticipated: null,
  scraped: null,
  quickSlide: null,
  remark: null,
  accent: (accent, { cx, high, s }) => {
    if (accent === 'ghost')
      return (
        <text x={cx} y={high + 5 * s} textAnchor="middle" fontSize={19 * s} stroke="none">
          {'(\u2002\u2009)'}
        </text>
      );
    const path =
      accent === 'accent'
        ? `M${cx - 5 * s},${high - 20 * s} l${10 * s},${3 * s} l${-10 * s},${3 * s}`
        : `M${cx - 4 * s},${high - 13 * s} l${4 * s},${-8 * s} l${4 * s},${8 * s}`;
    return <path d={path} fill="none" strokeWidth={(accent === 'accent' ? 1.5 : 1.7) * s} />;
  },
  gate: (percent, { cx, high, s }) => (
    <g>
      <circle cx={cx} cy={high - 14 * s} r={1.9 * s} stroke="none" />
      {percent !== 50 ? (
        <text x={cx + 4 * s} y={high - 10 * s} fontSize={9 * s} stroke="none">
          {percent}%
        </text>
      ) : null}
    </g>
  ),
  roll: (way, { cx, high, low, s }) => (
    <Roll x={cx - 15 * s} from={way === 'thick-first' ? low : high} to={way === 'thick-first' ? high : low} s={s} />
  ),
  rake: (_, { cx, high, low, s }) => (
    <path
      d={`M${cx - 20 * s},${low} L${cx - 9 * s},${high}`}
      strokeWidth={1.2 * s}
      strokeDasharray={`${2 * s} ${2 * s}`}
      fill="none"
    />
  ),
  pickSlap: (_, { cx, low, s }) => (
    <path
      d={`M${cx - 5 * s},${low + 10 * s} h${10 * s} M${cx - 3 * s},${low + 13.5 * s} h${6 * s} M${cx},${low + 7 * s} v${3 * s}`}
      fill="none"
      strokeWidth={1.8 * s}
    />
  ),
  tremolo: (_, { cx, low, s }) => (
    <g strokeWidth={1.8 * s}>
      {[0, 1, 2].map((line) => (
        <line
          key={line}
          x1={cx - 4 * s}
          x2={cx + 4 * s}
          y1={low + (13 + 3.4 * line) * s}
          y2={low + (10.5 + 3.4 * line) * s}
        />
      ))}
    </g>
  ),
  dynamic: (dynamic, { cx, top, s }) => (
    <text x={cx - 4 * s} y={top + 1 * s} fontSize={13 * s} fontStyle="italic" fontWeight={700} stroke="none">
      {dynamic}
    </text>
  ),
  free: ({ kind, remark }, { event, cx, top, s }) => (
    <text x={cx + (event.dynamic ? 16 : -4) * s} y={top + 1 * s} fontSize={11.5 * s} stroke="none" fontStyle="italic">
      {remark || { either: 'either', fill: 'fill ad lib.', 'leave-out': 'or leave out' }[kind]}
    </text>
  ),
  tilt: (degrees, { cx, top, s }) => (
    <text
      x={cx - 4 * s}
      y={top + 1 * s}
      fontSize={11 * s}
      stroke="none"
    >{`bar ${degrees > 0 ? '+' : '−'}${Math.abs(degrees)}°`}</text>
  ),
};

const EVENT_TECHNIQUES = Object.keys(EVENT_MARKS) as EventTechnique[];
/** Those that stand in the band over the strings, or reach into it. */
const marksIn = (event: RiffEvent): EventTechnique[] =>
  EVENT_TECHNIQUES.filter((name) => event[name] !== undefined && EVENT_MARKS[name] !== null);

/** Whether an event, or what is done to its notes, needs room over the strings. */
export const needsBand = (event: RiffEvent): boolean =>
  marksIn(event).some(
    (name) => name !== 'roll' && name !== 'rake' && name !== 'tremolo' && name !== 'pickSlap' && name !== 'kind',
  ) || event.notes.some(({ technique }) => technique?.bend || technique?.tapped || technique?.vibrato);

/** Marks of an event as a whole, in the band over the strings (`top`) and beside its chord. */
export function EventMarks({
  event,
  x: one,
  y,
  top,
  bottom,
  s,
}: {
  readonly event: RiffEvent;
  readonly x: X;
  readonly y: (string: number) => number;
  readonly top: number;
  readonly bottom: number;
  readonly s: number;
}) {
  const names = marksIn(event);
  // Most events have nothing to mark: a row of them is drawn in half the time.
  if (names.length === 0 && (event.notes.length < 2 || barresOf(event).length === 0)) return null;
  const cx = one(event.at);
  const strings = event.notes.flatMap((note) => (note.place ? [y(note.place.string)] : []));
  const high = strings.length > 0 ? Math.min(...strings) : top + 12 * s;
  const low = strings.length > 0 ? Math.max(...strings) : bottom;
  const at = { event, cx, high, low, top, bottom, x: one, s };
  return (
    <g fill="currentColor" stroke="currentColor">
      {names.map((name) => (
        <Fragment key={name}>{(EVENT_MARKS[name] as EventMark<never>)(event[name] as never, at)}</Fragment>
      ))}
      <Barres event={event} x={cx - 13 * s} y={y} s={s} />
    </g>
  );
}

function Special({
  event,
  x: one,
  top,
  bottom,
  s,
}: {
  readonly event: RiffEvent;
  readonly x: X;
  readonly top: number;
  readonly bottom: number;
  readonly s: number;
}) {
  const left = one(event.at) - 6 * s;
  const right = Math.max(left + 14 * s, one(endOf(event)) - 10 * s);
  const middle = (top + bottom) / 2;
  if (event.kind === 'hole') {
    return (
      <g>
        <rect
          x={left}
          y={top + 6 * s}
          width={right - left}
          height={bottom - top - 8 * s}
          fill="none"
          strokeWidth={1.4 * s}
          strokeDasharray={`${4 * s} ${4 * s}`}
          rx={3 * s}
        />
        {right - left > 96 * s ? (
          <text
            x={(left + right) / 2}
            y={middle + 5 * s}
            textAnchor="middle"
            fontSize={12 * s}
            stroke="none"
            fontStyle="italic"
          >
            not yet written
          </text>
        ) : (
          <text
            x={(left + right) / 2}
            y={middle + 6 * s}
            textAnchor="middle"
            fontSize={16 * s}
            stroke="none"
            fontWeight={700}
          >
            ?
          </text>
        )}
      </g>
    );
  }
  if (event.kind === 'hit')
    return (
      <path
        d={`M${left + 6 * s},${middle - 9 * s} l${7 * s},${9 * s} l${-7 * s},${9 * s} l${-7 * s},${-9 * s} z`}
        stroke="none"
      />
    );
  const waves = Math.max(2, Math.floor((right - left) / (6 * s)));
  return (
    <g>
      <path
        d={`M${left},${bottom - 4 * s} ${Array.from({ length: waves }, () => `l${3 * s},${-5 * s} l${3 * s},${1.5 * s}`).join(' ')}`}
        fill="none"
        strokeWidth={1.5 * s}
      />
      <text x={left} y={top + 1 * s} fontSize={11 * s} stroke="none" fontStyle="italic">
        {scrapeText(event)}
      </text>
    </g>
  );
}

/** "pick scrape", with its strings, fret and way where they are said. */
function scrapeText({ scraped }: RiffEvent): string {
  if (!scraped) return 'pick scrape';
  const strings = scraped.thick === scraped.thin ? `${scraped.thick}` : `${scraped.thick}–${scraped.thin}`;
  return `scrape ${strings}${scraped.fret === null ? '' : ` from ${scraped.fret}`} ${scraped.to === 'lower' ? '↓' : '↑'}`;
}

/** A rolled chord: a wavy line up or down its strings with an arrow where it ends. */
function Roll({
  x,
  from,
  to,
  s,
}: {
  readonly x: number;
  readonly from: number;
  readonly to: number;
  readonly s: number;
}) {
  const sign = to > from ? 1 : -1;
  const count = Math.max(1, Math.round(Math.abs(to - from) / (6 * s)));
  return (
    <g fill="none" strokeWidth={1.4 * s}>
      <path
        d={`M${x},${from} ${Array.from({ length: count }, (_, i) => `q${i % 2 === 0 ? 3 * s : -3 * s},${3 * s * sign} 0,${6 * s * sign}`).join(' ')}`}
      />
      <path d={`M${x - 3 * s},${to - 4 * s * sign} L${x},${to + 1 * s * sign} L${x + 3 * s},${to - 4 * s * sign}`} />
    </g>
  );
}

/** Brackets beside a chord for each finger that lies over several strings. */
function Barres({
  event,
  x,
  y,
  s,
}: {
  readonly event: RiffEvent;
  readonly x: number;
  readonly y: (string: number) => number;
  readonly s: number;
}) {
  return (
    <g fill="none" strokeWidth={1.6 * s}>
      {barresOf(event).map(({ finger, thick, thin }, i) => {
        const [top, bottom] = [Math.min(y(thick), y(thin)), Math.max(y(thick), y(thin))];
        return (
          <path key={finger} d={`M${x + 3 * s - 4 * s * i},${top - 5 * s} h${-3 * s} V${bottom + 5 * s} h${3 * s}`} />
        );
      })}
    </g>
  );
}

/** Runs of events played in one manner, as one word and a dashed line: "P.M. - - -". */
export interface Run {
  readonly text: string;
  readonly from: Quarter;
  readonly to: Quarter;
}

/** Runs of palm muting, choking and the slide bar. A run that comes in from the row before goes on without its word. */
export function articulationRuns(events: readonly RiffEvent[]): Run[] {
  const of = (text: string, has: (event: RiffEvent) => boolean): Run[] => {
    const runs: { text: string; from: Quarter; to: Quarter }[] = [];
    events.forEach((event, i) => {
      if (!has(event)) return;
      const last = runs.at(-1);
      const before = events[i - 1];
      if (last && before && has(before)) last.to = endOf(event);
      else runs.push({ text, from: event.at, to: endOf(event) });
    });
    return runs;
  };
  return [
    ...of('P.M.', (event) => event.mute === 'palm'),
    ...of('choked', (event) => event.mute === 'choked'),
    ...of('slide bar', (event) => event.slideBar === true),
  ];
}

export function RunMarks({
  runs,
  x: one,
  y,
  right,
  s,
}: {
  readonly runs: readonly Run[];
  readonly x: X;
  readonly y: number;
  readonly right: number;
  readonly s: number;
}) {
  return (
    <g fill="currentColor" stroke="currentColor">
      {runs.map((run) => {
        const from = one(run.from) - 7 * s;
        const to = Math.min(right, one(run.to) - 9 * s);
        const word = run.text.length * 6.4 * s + 4 * s;
        return (
          <g key={`${run.text}${run.from}`}>
            <text x={from} y={y} fontSize={11.5 * s} stroke="none" fontWeight={600}>
              {run.text}
            </text>
            {to > from + word + 4 * s ? (
              <path
                d={`M${from + word},${y - 3.5 * s} H${to} v${4 * s}`}
                fill="none"
                strokeWidth={1.1 * s}
                strokeDasharray={`${4 * s} ${3 * s}`}
              />
            ) : null}
          </g>
        );
      })}
    </g>
  );
}

/** Where a note's sound ends for its marks: at the next event at the latest. */
export const markEnd = (event: RiffEvent, next: RiffEvent | null | undefined): Quarter =>
  next ? minQuarter(endOf(event), next.at) : endOf(event);

/** A stroke as the sign on paper. */
export function StrokeSign({
  stroke,
  x,
  y,
  s,
}: {
  readonly stroke: NonNullable<RiffEvent['stroke']>;
  readonly x: number;
  readonly y: number;
  readonly s: number;
}) {
  const letter = { thumb: 'p', index: 'i', middle: 'm', third: 'a', slap: 'S', pop: 'P' }[stroke as string];
  if (letter)
    return (
      <text
        x={x}
        y={y + 5 * s}
        textAnchor="middle"
        fontSize={14 * s}
        fontWeight={700}
        fill="currentColor"
        stroke="none"
        fontStyle={letter === letter.toLowerCase() ? 'italic' : 'normal'}
      >
        {letter}
      </text>
    );
  if (stroke === 'down')
    return (
      <path
        d={`M${x - 4.5 * s},${y + 5 * s} V${y - 4 * s} H${x + 4.5 * s} V${y + 5 * s} M${x - 4.5 * s},${y - 2.6 * s} H${x + 4.5 * s}`}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.8 * s}
      />
    );
  if (stroke === 'up')
    return (
      <path
        d={`M${x - 4.5 * s},${y - 5 * s} L${x},${y + 6 * s} L${x + 4.5 * s},${y - 5 * s}`}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.8 * s}
      />
    );
  if (stroke === 'same')
    return (
      <path
        d={`M${x - 5 * s},${y} h${10 * s} m${-3 * s},${-3 * s} l${3 * s},${3 * s} l${-3 * s},${3 * s}`}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.5 * s}
      />
    );
  const down = stroke === 'brush-down';
  const tip = down ? y + 7 * s : y - 7 * s;
  const back = down ? -4 * s : 4 * s;
  return (
    <path
      d={`M${x},${down ? y - 7 * s : y + 7 * s} V${tip} M${x - 3.5 * s},${tip + back} L${x},${tip} L${x + 3.5 * s},${tip + back}`}
      fill="none"
      stroke="currentColor"
      strokeWidth={1.7 * s}
    />
  );
}

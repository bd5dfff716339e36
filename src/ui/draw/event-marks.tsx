import { Fragment, type ReactNode } from 'react';
import { barresOf, endOf, type Articulation, type EventTechnique, type RiffEvent } from '@/core/score';
import { type Quarter } from '@/core/time';

type X = (at: Quarter) => number;

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

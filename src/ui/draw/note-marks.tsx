import { Fragment, type ReactNode, type SVGProps } from 'react';
import {
  bendShapes,
  bendShapeOf,
  endOf,
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

/** Where a note's sound ends for its marks: at the next event at the latest. */
export const markEnd = (event: RiffEvent, next: RiffEvent | null | undefined): Quarter =>
  next ? minQuarter(endOf(event), next.at) : endOf(event);

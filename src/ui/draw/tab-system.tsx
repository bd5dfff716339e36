import { bendText, noteText } from './lanes';
import { nearestValue, restsIn, type NoteValue } from '@/core/rhythm';
import { endOf, type RiffEvent } from '@/core/score';
import { barStart, cmp, floorDiv, meterAt, minQuarter, quarter, sub, type MeterChange, type Quarter } from '@/core/time';
import { timeScale, type StripRow } from './strip-layout';

interface Props {
  readonly row: StripRow;
  readonly next: RiffEvent | null;
  readonly width: number;
  readonly meters: readonly MeterChange[];
  /** String numbers, thin to thick, with the names written before the lines. */
  readonly strings: readonly number[];
  readonly names: readonly string[];
  readonly fingers: boolean;
  /** The number written for a place. */
  readonly fretText: (place: { readonly string: number; readonly fret: number }) => string;
  readonly label: string;
}

const GAP = 13;
const LEFT = 34;
const STEM = 24;

/** One system of the printed tab: lines, frets, joins, rhythm below, fingers under it. Black on white. */
export function TabSystem({ row, next, width, meters, strings, names, fingers, fretText, label }: Props) {
  const rings = ringRuns(row.events);
  // Rings stand above the bar numbers, where there are any.
  const top = rings.length > 0 ? 34 : 22;
  const bottom = top + (strings.length - 1) * GAP;
  const x = timeScale(row, LEFT + 14, width - LEFT - 20);
  const y = (s: number): number => top + strings.indexOf(s) * GAP;
  const rhythm = bottom + 12;
  const fingerY = rhythm + STEM + 24;
  const height = fingerY + (fingers ? 10 : -10);
  const steps = row.events.map((e, i): Quarter => {
    const following = row.events[i + 1] ?? next;
    const end = following ? minQuarter(endOf(e), following.at) : endOf(e);
    return sub(minQuarter(end, row.to), e.at);
  });
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width="100%" role="img" aria-label={label} className="block break-inside-avoid text-black" fontFamily="var(--font-figures)">
      {strings.map((s, i) => (
        <g key={s}>
          <line x1={LEFT} x2={width - 4} y1={y(s)} y2={y(s)} stroke="currentColor" strokeWidth={0.7} />
          <text x={LEFT - 6} y={y(s) + 3.5} textAnchor="end" fontSize={10}>{names[i]}</text>
        </g>
      ))}
      {Array.from({ length: row.bars + 1 }, (_, b) => {
        const at = barStart(meters, row.firstBar + b);
        const px = b === row.bars ? width - 4 : x(at) - 12;
        const meter = meterAt(meters, row.firstBar + b);
        const shown = b < row.bars && (row.firstBar + b === 0 || meters.some((m) => m.bar === row.firstBar + b));
        return (
          <g key={b}>
            <line x1={px} x2={px} y1={top} y2={bottom} stroke="currentColor" strokeWidth={b === row.bars ? 1.4 : 1} />
            {b < row.bars ? <text x={px + 3} y={top - 8} fontSize={9}>{row.firstBar + b + 1}</text> : null}
            {shown ? <text x={px + 18} y={top - 8} fontSize={10} fontWeight={700}>{`${meter.beats}/${meter.unit}`}</text> : null}
          </g>
        );
      })}
      {row.events.map((event, i) => (
        <g key={event.id}>
          {event.notes.map((n) => {
            if (!n.place) return null;
            const text = noteText(n, fretText(n.place));
            const cx = x(event.at);
            const cy = y(n.place.string);
            return (
              <g key={n.id}>
                <rect x={cx - 3.6 * text.length - 1} y={cy - 5.5} width={7.2 * text.length + 2} height={11} fill="white" />
                <text x={cx} y={cy + 4.3} textAnchor="middle" fontSize={12.5} fontWeight={700}>{text}</text>
                {n.tech?.bend ? (
                  <g stroke="currentColor" fill="none" strokeWidth={0.9}>
                    <path d={`M${cx + 6},${cy} q6,0 7,-9 m-2,3 l2,-4 l2,4`} />
                    <text x={cx + 16} y={cy - 6} fontSize={8.5} stroke="none" fill="currentColor">{bendText(n.tech.bend)}</text>
                  </g>
                ) : null}
                {n.tech?.trill ? <text x={cx + 6} y={cy - 5} fontSize={8.5} fontStyle="italic">{`tr ${n.tech.trill}`}</text> : null}
              </g>
            );
          })}
          <Join from={row.events[i - 1] ?? row.before} to={event} x={x} y={y} left={LEFT} />
          {event.bar && !(row.events[i - 1] ?? row.before)?.bar ? <text x={x(event.at) + 34} y={top - 8} fontSize={8.5} fontStyle="italic">slide bar</text> : null}
          {fingers ? (
            <text x={x(event.at)} y={fingerY} textAnchor="middle" fontSize={10}>
              {event.notes.map((n) => n.place?.finger).filter((f): f is 1 | 2 | 3 | 4 | 5 => typeof f === 'number' && f > 0).map((f) => (f === 5 ? 'T' : f)).join('\u2009')}
            </text>
          ) : null}
        </g>
      ))}
      {rings.map((run) => {
        const from = x(run.from) - 6;
        const to = Math.min(width - 6, x(run.to) - 4);
        return (
          <g key={run.from}>
            <text x={from} y={top - 20} fontSize={9} fontStyle="italic">ring</text>
            {to > from + 26 ? <path d={`M${from + 23},${top - 23} H${to} v4`} stroke="currentColor" strokeWidth={0.7} strokeDasharray="3 2" fill="none" /> : null}
          </g>
        );
      })}
      <Rhythm row={row} steps={steps} x={x} y={rhythm} meters={meters} />
      {gaps(row, next).map((g) => restsIn(meters, g.from, g.to).map((r) => <Rest key={r.at} value={r.value} x={x(r.at)} y={rhythm + STEM / 2} />))}
    </svg>
  );
}

/** Ringing events that follow each other are one mark, from the first to the end of the last. */
function ringRuns(events: readonly RiffEvent[]): { from: Quarter; to: Quarter }[] {
  const runs: { from: Quarter; to: Quarter }[] = [];
  events.forEach((e, i) => {
    if (!e.ring) return;
    const last = runs.at(-1);
    if (last && events[i - 1]?.ring) last.to = endOf(e);
    else runs.push({ from: e.at, to: endOf(e) });
  });
  return runs;
}

/** Silent stretches of a row. */
function gaps(row: StripRow, next: RiffEvent | null): { from: Quarter; to: Quarter }[] {
  const out: { from: Quarter; to: Quarter }[] = [];
  let at = row.before && cmp(endOf(row.before), row.from) > 0 ? endOf(row.before) : row.from;
  for (const e of row.events) {
    if (cmp(at, e.at) < 0) out.push({ from: at, to: e.at });
    at = cmp(endOf(e), at) > 0 ? endOf(e) : at;
  }
  const end = next ? minQuarter(next.at, row.to) : row.to;
  if (cmp(at, end) < 0) out.push({ from: at, to: end });
  return out;
}

function Join({ from, to, x, y, left }: { from: RiffEvent | null; to: RiffEvent; x: (q: Quarter) => number; y: (s: number) => number; left: number }) {
  if (!from?.link) return null;
  return (
    <g stroke="currentColor" fill="none" strokeWidth={0.9}>
      {to.notes.map((n) => {
        const origin = from.notes.find((m) => m.place && m.place.string === n.place?.string);
        if (!n.place || !origin?.place) return null;
        const x1 = Math.max(left, x(from.at) + 6);
        const x2 = x(to.at) - 6;
        const cy = y(n.place.string);
        if (from.link === 'slide') {
          const rise = n.place.fret > origin.place.fret ? 3.5 : -3.5;
          return <line key={n.id} x1={x1} y1={cy + rise} x2={x2} y2={cy - rise} />;
        }
        return (
          <g key={n.id}>
            <path d={`M${x1 - 4},${cy - 7} Q${(x1 + x2) / 2},${cy - 13} ${x2 + 4},${cy - 7}`} />
            <text x={(x1 + x2) / 2} y={cy - 11.5} fontSize={8} textAnchor="middle" fill="currentColor" stroke="none">{from.link === 'hammer' ? 'H' : 'P'}</text>
          </g>
        );
      })}
    </g>
  );
}

/** Stems, beams by beat, dots and triplet figures. */
function Rhythm({ row, steps, x, y, meters }: { row: StripRow; steps: readonly Quarter[]; x: (q: Quarter) => number; y: number; meters: readonly MeterChange[] }) {
  const values = steps.map(nearestValue);
  const beat = (e: RiffEvent): string => {
    const bar = row.events.length > 0 ? meterAt(meters, row.firstBar) : { unit: 4, beats: 4 };
    const group = bar.unit === 8 && bar.beats % 3 === 0 ? quarter(3, 2) : quarter(1);
    return String(floorDiv(sub(e.at, row.from), group));
  };
  return (
    <g stroke="currentColor" strokeWidth={1}>
      {row.events.map((e, i) => {
        const v = values[i];
        if (!v) return null;
        const px = x(e.at);
        const before = row.events[i - 1];
        const after = row.events[i + 1];
        const joinsBefore = before && v.base >= 8 && (values[i - 1]?.base ?? 1) >= 8 && beat(before) === beat(e);
        const joinsAfter = after && v.base >= 8 && (values[i + 1]?.base ?? 1) >= 8 && beat(after) === beat(e);
        const flags = v.base >= 8 ? Math.log2(v.base) - 2 : 0;
        const shared = joinsAfter ? Math.min(flags, Math.log2(values[i + 1]?.base ?? 8) - 2) : 0;
        const sharedBefore = joinsBefore ? Math.min(flags, Math.log2(values[i - 1]?.base ?? 8) - 2) : 0;
        return (
          <g key={e.id}>
            {v.base >= 2 ? <line x1={px} x2={px} y1={v.base === 2 ? y + STEM / 2 : y} y2={y + STEM} /> : null}
            {Array.from({ length: flags }, (_, k) => {
              const fy = y + STEM - k * 5;
              if (k < shared && after) return <line key={k} x1={px} x2={x(after.at)} y1={fy} y2={fy} strokeWidth={2.6} />;
              if (k < sharedBefore) return null;
              return joinsBefore ? <line key={k} x1={px - 6} x2={px} y1={fy} y2={fy} strokeWidth={2.6} /> : joinsAfter ? <line key={k} x1={px} x2={px + 6} y1={fy} y2={fy} strokeWidth={2.6} /> : <line key={k} x1={px} x2={px + 6} y1={fy} y2={fy - 6} strokeWidth={1.4} />;
            })}
            {Array.from({ length: v.dots }, (_, k) => <circle key={`d${k}`} cx={px + 5 + 4 * k} cy={y + STEM - 3} r={1.3} fill="currentColor" stroke="none" />)}
            {v.tuplet === 3 && floorDiv(sub(e.at, row.from), quarter(1)) !== (before && values[i - 1]?.tuplet === 3 ? floorDiv(sub(before.at, row.from), quarter(1)) : -1) ? (
              <text x={px + 10} y={y + STEM + 10} fontSize={9} fontStyle="italic" stroke="none" fill="currentColor">3</text>
            ) : null}
          </g>
        );
      })}
    </g>
  );
}

/** Plain rest signs: a block for whole and half, a stroke for a quarter, a hook for shorter ones. */
function Rest({ value, x, y }: { value: NoteValue; x: number; y: number }) {
  const hooks = value.base >= 8 ? Math.log2(value.base) - 2 : 0;
  return (
    <g stroke="currentColor" fill="none" strokeWidth={1.4}>
      {value.base === 1 ? <rect x={x - 5} y={y - 4} width={10} height={4} fill="currentColor" stroke="none" /> : null}
      {value.base === 2 ? <rect x={x - 5} y={y} width={10} height={4} fill="currentColor" stroke="none" /> : null}
      {value.base === 4 ? <path d={`M${x - 2},${y - 8} L${x + 3},${y - 3} L${x - 2},${y + 1} L${x + 3},${y + 6} q-6,-1 -3,4`} /> : null}
      {hooks > 0 ? <path d={`M${x + 4},${y - 6} L${x},${y + 8}`} /> : null}
      {Array.from({ length: hooks }, (_, k) => <path key={k} d={`M${x + 4 - k * 1.5},${y - 6 + k * 5} q-4,4 -7,1`} />)}
      {Array.from({ length: value.dots }, (_, k) => <circle key={`d${k}`} cx={x + 8 + 3 * k} cy={y - 1} r={1.2} fill="currentColor" stroke="none" />)}
    </g>
  );
}

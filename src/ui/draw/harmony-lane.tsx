import { degreeAt, laneChordName, laneNoteName, type RiffContext } from '@/core/form';
import type { Naming } from '@/core/pitch';
import { cmp, maxQuarter, type Quarter } from '@/core/time';
import { LaneLabel } from './lane-label';
import type { StripRow } from './strip-layout';

/** What lies over and under a riff where it is played. */
export type Harmony = Pick<RiffContext, 'chords' | 'bass'>;

/** Chords and bass notes by where they begin, and under each note what it is by them. */
export function HarmonyLane({
  row,
  x,
  top,
  left,
  right,
  harmony,
  naming,
}: {
  readonly row: StripRow;
  readonly x: (at: Quarter) => number;
  readonly top: number;
  readonly left: number;
  readonly right: number;
  readonly harmony: Harmony | null;
  readonly naming: Naming;
}) {
  const inRow = <One extends { readonly at: Quarter; readonly to: Quarter }>(list: readonly One[]): One[] =>
    list.filter((one) => cmp(one.to, row.from) > 0 && cmp(one.at, row.to) < 0);
  const chords = inRow(harmony?.chords ?? []);
  const bass = inRow(harmony?.bass ?? []);
  if (!harmony || chords.length + bass.length === 0)
    return (
      <g>
        <LaneLabel y={top + 15}>harmony</LaneLabel>
        <line x1={left} x2={right} y1={top + 11} y2={top + 11} className="stroke-rule" strokeDasharray="2 6" />
        <text x={left + 8} y={top + 15} className="fill-soft text-[13px] italic">
          no chord over it yet: type them on the form
        </text>
      </g>
    );
  return (
    <g>
      <LaneLabel y={top + 15}>harmony</LaneLabel>
      {chords.map((one) => (
        <text
          key={one.at}
          x={x(maxQuarter(one.at, row.from)) - 6}
          y={top + 15}
          className="fill-ink text-[16px] font-bold"
        >
          {laneChordName(one.chord, naming)}
        </text>
      ))}
      {bass.map((one) => (
        <text
          key={one.at}
          x={x(maxQuarter(one.at, row.from)) + (chords.length > 0 ? 34 : -6)}
          y={top + 15}
          className="fill-soft text-[14px]"
        >
          {`bass ${laneNoteName(one.note, naming)}`}
        </text>
      ))}
      {row.events.map((event) => (
        <text
          key={event.id}
          x={x(event.at)}
          y={top + 31}
          textAnchor="middle"
          className={
            event.notes.length > 1 ? 'fill-soft font-figures text-[11px]' : 'fill-soft font-figures text-[13px]'
          }
        >
          {degreesOf(harmony, event)}
        </text>
      ))}
    </g>
  );
}

/** Degrees of an event from its lowest note up, each once: a chord of six shows what it holds. */
function degreesOf(harmony: Harmony, event: StripRow['events'][number]): string {
  const notes = [...event.notes].sort((a, b) => a.pitch.midi - b.pitch.midi);
  const names = new Set(notes.flatMap((note) => degreeAt(harmony, event.at, note) ?? []));
  return [...names].slice(0, 4).join('\u2009');
}

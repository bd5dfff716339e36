import { degreeAt, laneChordName, laneNoteName, type RiffContext } from '@/core/form';
import { classesOf, namesOf, parseChord } from '@/core/harmony';
import { parseName, pitchClass, type Key, type Naming } from '@/core/pitch';
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
  keyShown,
}: {
  readonly row: StripRow;
  readonly x: (at: Quarter) => number;
  readonly top: number;
  readonly left: number;
  readonly right: number;
  readonly harmony: Harmony | null;
  readonly naming: Naming;
  readonly keyShown: Key | null;
}) {
  const inRow = <One extends { readonly at: Quarter; readonly to: Quarter }>(list: readonly One[]): One[] =>
    list.filter((one) => cmp(one.to, row.from) > 0 && cmp(one.at, row.to) < 0);
  const chords = inRow(harmony?.chords ?? []);
  const bass = inRow(harmony?.bass ?? []);
  const names = namesIn(row, { chords, bass }, keyShown, naming);
  const sounding = names.map((one) => (
    <text key={one.at} x={x(one.at)} y={top + 47} textAnchor="middle" className="fill-proposed text-[13px]">
      {one.name}
    </text>
  ));
  if (!harmony || chords.length + bass.length === 0)
    return (
      <g>
        <LaneLabel y={top + 15}>harmony</LaneLabel>
        {names.length > 0 ? (
          <g transform="translate(0,-32)">{sounding}</g>
        ) : (
          <text x={left + 8} y={top + 15} className="fill-soft text-[13px] italic">
            no chord over it yet: type them on the form
          </text>
        )}
        {names.length > 0 ? null : (
          <line x1={left} x2={right} y1={top + 24} y2={top + 24} className="stroke-rule" strokeDasharray="2 6" />
        )}
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
      {sounding}
    </g>
  );
}

/** Degrees of an event from its lowest note up, each once: a chord of six shows what it holds. */
function degreesOf(harmony: Harmony, event: StripRow['events'][number]): string {
  const notes = [...event.notes].sort((a, b) => a.pitch.midi - b.pitch.midi);
  const names = new Set(notes.flatMap((note) => degreeAt(harmony, event.at, note) ?? []));
  return [...names].slice(0, 4).join('\u2009');
}

interface Named {
  readonly at: Quarter;
  readonly name: string;
}

/**
 * What grips sound as, where it changes: computed, beside the word that was said, and left out where that word names
 * no more and no less than what sounds.
 */
function namesIn(row: StripRow, { chords, bass }: Harmony, key: Key | null, naming: Naming): Named[] {
  const out: Named[] = [];
  let last = '';
  for (const event of row.events) {
    if (event.notes.length < 2) continue;
    const holds = <One extends { readonly at: Quarter; readonly to: Quarter }>(list: readonly One[]): One | undefined =>
      list.find((one) => cmp(one.at, event.at) <= 0 && cmp(event.at, one.to) < 0);
    const under = holds(bass)?.note;
    const low = under ? parseName(under) : null;
    const pitches = event.notes.map((note) => note.pitch.midi);
    const [first] = namesOf({ pitches, key, naming, bass: low ? pitchClass(low) : null });
    const said = parseChord(holds(chords)?.chord ?? '');
    const same =
      said.ok &&
      first !== undefined &&
      classesOf(said.value).sort().join() === classesOf(first.chord).sort().join() &&
      pitchClass(said.value.root) === pitchClass(first.chord.root);
    const name = first && !same ? first.sounding : '';
    if (name !== last && name !== '') out.push({ at: event.at, name });
    last = name;
  }
  return out;
}

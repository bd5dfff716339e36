import { memo } from 'react';
import { noteName, type Key, type Naming } from '@/core/pitch';
import { noteEnd } from '@/core/score';
import { LaneLabel } from './lane-label';
import { LANE } from './lanes';
import { sameLane, type LaneRow } from './strip-layout';
import { INK, type RowProps, type X } from './strip-scale';

/** Pixels a sign of the names over notes takes, and between two names. */
const NAME = { sign: 7.4, gap: 5 } as const;

/**
 * Names over the notes: below where they would run into the one before, left out where there is no room for either or
 * they would only repeat it. A dead note has no name.
 */
function soundLabels(
  row: LaneRow<'at' | 'notes'>,
  one: X,
  key: Key | null,
  naming: Naming,
): ({ names: string; above: boolean } | null)[] {
  const out: ({ names: string; above: boolean } | null)[] = [];
  const free = { above: -Infinity, below: -Infinity };
  let last = '';
  for (const event of row.events) {
    const names = event.notes
      .filter((note) => !note.technique?.dead)
      .sort((a, b) => a.pitch.midi - b.pitch.midi)
      .map((note) => noteName(note.pitch.midi, { key, naming }))
      .join(' ');
    const at = one(event.at);
    const side = at >= free.above ? 'above' : at >= free.below && names !== last ? 'below' : null;
    if (names === '' || side === null) {
      out.push(null);
      continue;
    }
    out.push({ names, above: side === 'above' });
    free[side] = at + names.length * NAME.sign + NAME.gap;
    last = names;
  }
  return out;
}

/** What of an event the sound lane shows. */
type SoundShown = 'at' | 'dur' | 'notes';

interface SoundProps extends Pick<RowProps, 'scales' | 'keyShown'> {
  readonly row: LaneRow<SoundShown>;
  readonly x: X;
  readonly top: number;
}

export const SoundLane = memo(
  function SoundLane({ row, x: one, top, scales, keyShown }: SoundProps) {
    const span = scales.highPitch - scales.lowPitch;
    const y = (midi: number): number => top + 20 + (1 - (midi - scales.lowPitch) / span) * (LANE.sound - 28);
    const labels = soundLabels(row, one, keyShown, scales.naming);
    return (
      <g>
        <LaneLabel y={top + LANE.sound / 2}>sound</LaneLabel>
        {row.events.map((event, i) => {
          if (event.notes.length === 0) return null;
          const pitches = event.notes.map((note) => note.pitch.midi);
          const at = one(event.at);
          const value = labels[i];
          return (
            <g key={event.id} data-event={event.id}>
              {event.notes.map((note) => {
                const end = Math.max(at + 6, one(noteEnd(event, note)) - 3);
                const hollow = note.certainty === 'guess';
                return note.place === null ? (
                  <line
                    key={note.id}
                    data-note={note.id}
                    x1={at}
                    x2={end}
                    y1={y(note.pitch.midi)}
                    y2={y(note.pitch.midi)}
                    className="stroke-trouble"
                    strokeWidth={3}
                    strokeDasharray="4 3"
                  />
                ) : (
                  <line
                    key={note.id}
                    data-note={note.id}
                    x1={at}
                    x2={end}
                    y1={y(note.pitch.midi)}
                    y2={y(note.pitch.midi)}
                    className={hollow ? 'stroke-line' : 'stroke-ink'}
                    strokeWidth={hollow ? 2 : 4.5}
                    opacity={INK[note.certainty]}
                  />
                );
              })}
              {value ? (
                <text
                  x={at}
                  y={value.above ? y(Math.max(...pitches)) - 6 : y(Math.min(...pitches)) + 15}
                  className="fill-soft text-[13px]"
                >
                  {value.names}
                </text>
              ) : null}
            </g>
          );
        })}
      </g>
    );
  },
  sameLane<SoundShown, SoundProps>('at', 'dur', 'notes'),
);

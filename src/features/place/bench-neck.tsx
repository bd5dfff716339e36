import { useMemo } from 'react';
import { callEvent } from '@/core/callout';
import { lockAt } from '@/core/command';
import { baseNut, nutOf, stringNumbers } from '@/core/instrument';
import type { Key } from '@/core/pitch';
import type { Weighed } from '@/workers/place.worker';
import { Later } from '@/ui/later';
import { useSchools } from '@/ui/schools';
import { NeckFrame, neckPlaces } from './bench-parts';
import { SoundingNeck } from './sounding-neck';
import { stringLabels } from './strip';
import type { BenchState } from './use-bench';
import type { usePlayIn } from './play-in';

interface Props {
  readonly state: BenchState;
  readonly keyShown: Key | null;
  readonly hands: ReadonlyMap<string, number>;
  readonly weighed: Weighed | null;
  readonly player: ReturnType<typeof usePlayIn>;
}

/** The neck under the strip: every place of the note in focus, the hand, and what sounds. */
export function BenchNeck({ state, keyShown, hands, weighed, player }: Props) {
  const { bench, view, playhead } = state;
  const { piece, part, riff, chosen, edit } = bench;
  const { setup } = part;
  const schools = useSchools();
  const { focus } = chosen;
  const note = focus?.notes[chosen.noteIndex] ?? null;
  const names = useMemo(
    () => stringLabels(setup, stringNumbers(setup).reverse(), keyShown, schools),
    [setup, keyShown, schools],
  );
  const handFret = (focus && hands.get(focus.id)) ?? 0;
  const base = baseNut(setup);
  const hand =
    handFret > 0 ? { from: handFret + base, to: Math.min(setup.instrument.frets, handFret + base + 3) } : null;
  const onPick = (string: number, nut: number): void => {
    const fret = Math.max(0, nut - nutOf(setup, string));
    if (view.playIn) player.place(string, fret);
    else if (note && focus) edit(lockAt(piece, { riff: riff.id, event: focus.id, note: note.id }, string, fret));
  };
  return (
    <Later>
      <NeckFrame>
        {(width) => (
          <SoundingNeck
            {...{ riff, playhead, setup, hand, width, onPick }}
            playing={view.playing}
            stringNames={names}
            places={note ? neckPlaces(focus, note.id, weighed, setup) : []}
            mirrored={(setup.instrument.handed === 'left') !== (schools.handed === 'left')}
            counting={schools.frets}
            label={
              note && focus
                ? `Neck: ${callEvent(focus, undefined, setup, { schools, key: keyShown })}`
                : 'Neck: no note chosen'
            }
          />
        )}
      </NeckFrame>
    </Later>
  );
}

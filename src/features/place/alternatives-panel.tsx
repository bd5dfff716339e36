import { Play, Square } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { deleteAlternative, swapAlternative, withAlternative } from '@/core/command';
import { tempoOf, type Alternative, type Riff } from '@/core/score';
import { placeInBars } from '@/core/rhythm';
import { Player } from '@/features/hear/player';
import { Button } from '@/ui/button';
import { keepChosen, type BenchContext } from './commands';

/**
 * Competing readings of a stretch, side by side: what is written and what was kept, each to be heard, one after the
 * other, and taken.
 */
export function Readings({ desk }: { readonly desk: BenchContext }) {
  const { piece, riff, part, edit, say } = desk;
  const player = useRef<Player | null>(null);
  const [sounding, setSounding] = useState<string | null>(null);
  useEffect(() => {
    const made = new Player((playing) => {
      if (!playing) setSounding(null);
    });
    player.current = made;
    return () => {
      player.current = null;
      made.close();
    };
  }, []);
  const hear = useCallback(
    async (key: string, what: Riff, reading: Alternative): Promise<void> => {
      if (sounding === key) return player.current?.stop();
      try {
        player.current?.setBalance([
          { level: 1, pan: 0 },
          { level: 0, pan: 0 },
        ]);
        await player.current?.play({
          tracks: [{ setup: part.setup, versions: [what] }],
          tempo: tempoOf(piece, riff),
          feel: riff.feel,
          from: reading.from,
          to: reading.to,
          double: false,
          countIn: 0,
          rungs: [{ speed: 1, times: 1 }],
        });
        setSounding(key);
      } catch (reason) {
        say(`It can't be played: ${reason instanceof Error ? reason.message : String(reason)}.`);
      }
    },
    [sounding, part.setup, piece, riff, say],
  );
  const readings = riff.alternatives ?? [];
  const button = (key: string, name: string, what: Riff, reading: Alternative) => (
    <Button size="small" aria-pressed={sounding === key} onClick={() => void hear(key, what, reading)}>
      {sounding === key ? <Square size={13} aria-hidden /> : <Play size={13} aria-hidden />} {name}
    </Button>
  );
  return (
    <section aria-label="Readings" className="flex flex-col gap-2">
      <h2 className="text-lg">Readings</h2>
      {readings.length === 0 ? (
        <p className="text-[15px] text-soft">
          Where two readings compete, keep one beside, write the other, and compare them by ear.
        </p>
      ) : null}
      <ul className="flex flex-col divide-y divide-rule">
        {readings.map((one) => (
          <li key={one.id} className="flex flex-col gap-1.5 py-2 text-[15px]">
            <p>
              <b>{one.name}</b>, from {placeInBars(riff.meters, one.from)}
              {one.remark ? `: ${one.remark}` : ''}
            </p>
            <div className="flex flex-wrap gap-1">
              {button('now', 'Written', riff, one)}
              {button(one.id, 'This', withAlternative(riff, one), one)}
              <Button size="small" onClick={() => edit(swapAlternative(piece, riff.id, one.id))}>
                Take it
              </Button>
              <Button size="small" tone="quiet" onClick={() => edit(deleteAlternative(piece, riff.id, one.id))}>
                Let it go
              </Button>
            </div>
          </li>
        ))}
      </ul>
      <Button
        size="small"
        className="self-start"
        disabled={desk.chosen.events.length === 0}
        onClick={() => keepChosen(desk)}
      >
        Keep what is chosen beside
      </Button>
    </section>
  );
}

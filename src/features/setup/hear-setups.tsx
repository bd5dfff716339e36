import { Play, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { setupWords, type Setup } from '@/core/instrument';
import { endOf, type Riff } from '@/core/score';
import { add, maxQuarter, quarter, sub, ZERO, type TempoStep } from '@/core/time';
import { Player } from '@/features/hear/player';
import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';

/** A riff as it lies in one set-up. */
export interface HeardSetup {
  readonly setup: Setup;
  readonly riff: Riff;
}

/** Sounds one phrase in several set-ups, one after the other, with what rings in each. */
export function HearSetups({
  label,
  make,
  tempo,
}: {
  readonly label: string;
  readonly make: () => Promise<readonly HeardSetup[]>;
  readonly tempo: readonly TempoStep[];
}) {
  const toast = useToast();
  const player = useRef<Player | null>(null);
  const queue = useRef<HeardSetup[]>([]);
  const [sounding, setSounding] = useState<Setup | null>(null);
  const next = useRef<() => void>(() => undefined);
  useEffect(() => {
    const made = new Player((playing) => {
      if (!playing) next.current();
    });
    player.current = made;
    next.current = (): void => {
      const one = queue.current.shift();
      setSounding(one?.setup ?? null);
      if (!one) return;
      const { riff, setup } = one;
      const end = riff.events.reduce((last, event) => maxQuarter(last, endOf(event)), ZERO);
      made.setBalance([
        { level: 1, pan: 0 },
        { level: 0, pan: 0 },
      ]);
      void made
        .play({
          tracks: [{ setup, versions: [riff] }],
          tempo: [...tempo],
          feel: riff.feel,
          from: sub(ZERO, riff.pickup),
          // What rings is let ring out before the next begins.
          to: add(end, quarter(2)),
          double: false,
          countIn: 0,
          rungs: [{ speed: 1, times: 1 }],
        })
        .catch((reason: unknown) => {
          queue.current = [];
          setSounding(null);
          toast(`It can’t be played: ${reason instanceof Error ? reason.message : String(reason)}.`);
        });
    };
    return () => {
      player.current = null;
      queue.current = [];
      made.close();
    };
  }, [tempo, toast]);
  const press = async (): Promise<void> => {
    if (sounding) {
      queue.current = [];
      player.current?.stop();
      setSounding(null);
      return;
    }
    queue.current = [...(await make())];
    next.current();
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      <Button onClick={() => void press()}>
        {sounding ? <Square size={15} aria-hidden /> : <Play size={15} aria-hidden />} {sounding ? 'Stop' : label}
      </Button>
      <span role="status" className="text-[15px]">
        {sounding ? `Now: ${setupWords(sounding)}` : ''}
      </span>
    </div>
  );
}

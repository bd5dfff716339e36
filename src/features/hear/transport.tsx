'use client';

import { Play, Repeat, Square, Timer } from 'lucide-react';
import { Slider, Toggle } from 'radix-ui';
import { useCallback, useEffect, useEffectEvent, useImperativeHandle, useRef, useState, type Ref } from 'react';
import type { Setup } from '@/core/instrument';
import type { Riff } from '@/core/score';
import { bpmAt, type Quarter, type TempoStep } from '@/core/time';
import { Button } from '@/ui/button';
import { Player } from './player';

export interface TransportHandle {
  readonly toggle: () => void;
  /** Where the music is, in quarters of the riff, or null. */
  readonly at: () => number | null;
  /** Hands out what would sound as a WAV file. */
  readonly save: () => Promise<void>;
}

interface Props {
  readonly riff: Riff;
  readonly setup: Setup;
  readonly tempo: readonly TempoStep[];
  /** What sounds: the chosen stretch, or the whole riff. */
  readonly from: Quarter;
  readonly to: Quarter;
  readonly partial: boolean;
  readonly beats: number;
  readonly onFault: (message: string) => void;
  readonly ref?: Ref<TransportHandle>;
}

const toggleClass = 'inline-flex min-h-9 items-center gap-1.5 rounded-sm border border-rule px-2.5 text-[15px] font-semibold data-[state=on]:border-proposed data-[state=on]:bg-proposed-wash';

/** Play, tempo from 25 to 150 %, loop and click: always at hand. */
export function Transport({ riff, setup, tempo, from, to, partial, beats, onFault, ref }: Props) {
  const player = useRef<Player | null>(null);
  const [playing, setPlaying] = useState(false);
  const [waiting, setWaiting] = useState(false);
  const [speed, setSpeed] = useState(100);
  const [loop, setLoop] = useState(true);
  const [click, setClick] = useState(true);

  useEffect(() => {
    const made = new Player(setPlaying);
    player.current = made;
    return () => {
      player.current = null;
      made.close();
    };
  }, []);

  const play = useCallback(
    async (countIn: number): Promise<void> => {
      setWaiting(true);
      try {
        await player.current?.play({ riff, setup, tempo, from, to, speed: speed / 100, click, countIn, loop });
      } catch (reason) {
        onFault(`It can't be played: ${reason instanceof Error ? reason.message : String(reason)}. Choose a shorter stretch.`);
      } finally {
        setWaiting(false);
      }
    },
    [riff, setup, tempo, from, to, speed, click, loop, onFault],
  );

  // A change of notes, tempo or stretch is taken up at once, without another count-in.
  const restart = useEffectEvent(() => {
    if (playing) void play(0);
  });
  useEffect(() => {
    const timer = setTimeout(restart, 40);
    return () => clearTimeout(timer);
  }, [riff, setup, tempo, from, to, speed, click, loop]);

  const toggle = useCallback(() => {
    if (playing) player.current?.stop();
    else void play(beats);
  }, [playing, play, beats]);
  const save = useCallback(async (): Promise<void> => {
    try {
      const bytes = await player.current?.bounced({ riff, setup, tempo, from, to, speed: speed / 100, click, countIn: 0, loop: false });
      if (bytes) download(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'audio/wav' }), `${riff.name}.wav`);
    } catch (reason) {
      onFault(`It can't be saved: ${reason instanceof Error ? reason.message : String(reason)}. Choose a shorter stretch.`);
    }
  }, [riff, setup, tempo, from, to, speed, click, onFault]);
  useImperativeHandle(ref, () => ({ toggle, at: () => player.current?.at() ?? null, save }), [toggle, save]);

  const bpm = (bpmAt(tempo, from) * speed) / 100;
  return (
    <div role="group" aria-label="Player" className="flex items-center gap-3" data-playing={playing}>
      <Button tone={playing ? 'yours' : 'plain'} onClick={toggle} disabled={waiting && !playing} className="w-28">
        {playing ? <Square size={16} aria-hidden /> : <Play size={16} aria-hidden />}
        {playing ? 'Stop' : partial ? 'Play this' : 'Play'}
      </Button>
      <Slider.Root value={[speed]} onValueChange={([v]) => setSpeed(v ?? 100)} min={25} max={150} step={1} className="relative flex h-9 w-28 items-center">
        <Slider.Track className="relative h-1 flex-1 rounded bg-rule">
          <Slider.Range className="absolute h-1 rounded bg-proposed" />
        </Slider.Track>
        <Slider.Thumb aria-label="Tempo in percent" className="block size-5 rounded-full border-2 border-proposed bg-sheet" />
      </Slider.Root>
      <p className="w-32 font-figures text-[15px] whitespace-nowrap">
        <b>{speed} %</b> <span className="text-soft">{Math.round(bpm)} bpm</span>
      </p>
      <Toggle.Root pressed={loop} onPressedChange={setLoop} className={toggleClass}>
        <Repeat size={16} aria-hidden /> Loop
      </Toggle.Root>
      <Toggle.Root pressed={click} onPressedChange={setClick} className={toggleClass}>
        <Timer size={16} aria-hidden /> Click
      </Toggle.Root>
    </div>
  );
}

function download(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

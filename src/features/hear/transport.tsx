'use client';

import { Play, Repeat, Square, Timer } from 'lucide-react';
import {
  useCallback,
  useEffect,
  useEffectEvent,
  useImperativeHandle,
  useMemo,
  useRef,
  useState,
  type Ref,
} from 'react';
import type { ChordUnder } from '@/core/harmony';
import type { Setup } from '@/core/instrument';
import type { Piece, Riff } from '@/core/score';
import { bpmAt, type Quarter, type TempoStep } from '@/core/time';
import { Button } from '@/ui/button';
import { Slider } from '@/ui/slider';
import { Switch } from '@/ui/switch';
import { Player, type Now, type PlayRequest } from './player';
import { balanceOf, rungsOf, useSounds, type Sounds } from './sounds';
import { SoundsPanel } from './sounds-panel';

export interface TransportHandle {
  readonly toggle: () => void;
  /** Plays from a time on, in quarters of the riff. */
  readonly playFrom: (at: number) => void;
  /** Where the music is, in quarters of the riff, or null. */
  readonly at: () => number | null;
  /** Hands out what would sound as a WAV file. */
  readonly save: () => Promise<void>;
}

interface Common {
  readonly riff: Riff;
  readonly tempo: readonly TempoStep[];
  /** What sounds: the chosen stretch, or the whole riff. */
  readonly from: Quarter;
  readonly to: Quarter;
  readonly partial: boolean;
  readonly beats: number;
  readonly onFault: (message: string) => void;
  /** Told when it begins and ends to sound. */
  readonly onPlaying?: (playing: boolean) => void;
  readonly ref?: Ref<TransportHandle>;
}

interface RiffProps extends Common {
  readonly setup: Setup;
  /** The piece and part it stands in: what else there is to sound with it. */
  readonly piece?: Piece;
  readonly partId?: string;
  /** Chords that are said for it; without them they are guessed from what sounds. */
  readonly chordsSaid?: readonly ChordUnder[] | undefined;
}

interface Props extends Common {
  readonly sounds: Sounds;
  readonly loopFirst?: boolean;
}

/** As one counts in aloud. */
const WORDS = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];
const why = (reason: unknown): string => (reason instanceof Error ? reason.message : String(reason));

/** The player of one riff, with what is to sound beside it. */
export function Transport({ setup, piece, partId, chordsSaid, ...common }: RiffProps) {
  const sounds = useSounds(setup, common.riff, piece ?? null, partId ?? null, chordsSaid);
  return <SoundTransport {...common} sounds={sounds} />;
}

/** Play, tempo from 25 to 150 %, loop and click: always at hand; what else sounds, behind one button. */
export function SoundTransport({
  riff,
  sounds,
  tempo,
  from,
  to,
  partial,
  beats,
  onFault,
  onPlaying,
  loopFirst = true,
  ref,
}: Props) {
  const player = useRef<Player | null>(null);
  const [playing, setPlaying] = useState(false);
  const [waiting, setWaiting] = useState(false);
  const [speed, setSpeed] = useState(100);
  const [loop, setLoop] = useState(loopFirst);
  const { settings, change, tracks, voices } = sounds;
  const versions = tracks[0]?.versions.length ?? 1;

  const told = useEffectEvent((now: boolean) => {
    setPlaying(now);
    onPlaying?.(now);
  });
  const failed = useEffectEvent((reason: unknown) => onFault(`The sound broke off: ${why(reason)}. Play it again.`));
  useEffect(() => {
    const made = new Player(told, failed);
    player.current = made;
    return () => {
      player.current = null;
      made.close();
    };
  }, []);

  const { double, ladder } = settings;
  const request = useMemo(
    (): PlayRequest => ({
      tracks,
      tempo,
      feel: riff.feel,
      from,
      to,
      double,
      countIn: 0,
      rungs: rungsOf({ ...settings, ladder }, speed, loop, versions),
    }),
    [tracks, tempo, riff.feel, from, to, double, settings, ladder, speed, loop, versions],
  );
  const balance = useMemo(
    () =>
      balanceOf(
        voices.map((one) => one.id),
        settings,
      ),
    [voices, settings],
  );
  useEffect(() => player.current?.setBalance(balance), [balance]);

  const play = async (countIn: number, begin: number | null): Promise<void> => {
    setWaiting(true);
    try {
      await player.current?.play({ ...request, countIn }, begin);
    } catch (reason) {
      onFault(`It can't be played: ${why(reason)}.`);
    } finally {
      setWaiting(false);
    }
  };

  // A change of notes, tempo or stretch is taken up where the music is, without another count-in.
  const restart = useEffectEvent(() => {
    if (playing) void play(0, player.current?.now()?.at ?? null);
  });
  const started = JSON.stringify(request.rungs);
  useEffect(() => {
    const timer = setTimeout(restart, 30);
    return () => clearTimeout(timer);
  }, [tracks, tempo, riff.feel, from, to, double, started]);

  const toggle = (): void => {
    if (playing) player.current?.stop();
    else void play(settings.countIn * beats, null);
  };
  const save = async (): Promise<void> => {
    try {
      const bytes = await player.current?.saved(request, balance);
      if (bytes) download(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'audio/wav' }), `${riff.name}.wav`);
    } catch (reason) {
      onFault(`It can't be saved: ${why(reason)}. Choose a shorter stretch.`);
    }
  };
  const playFrom = (begin: number): void => void play(settings.countIn * beats, begin);
  const at = useCallback(() => player.current?.now()?.at ?? null, []);
  useImperativeHandle(ref, () => ({ toggle, playFrom, at, save }));

  const bpm = bpmAt(tempo, from);
  return (
    <div
      role="group"
      aria-label="Player"
      className="flex shrink-0 items-center gap-2 max-[899px]:shrink max-[899px]:flex-wrap max-[899px]:justify-between max-[899px]:gap-x-1"
      data-playing={playing}
    >
      <Button
        tone={playing ? 'yours' : 'plain'}
        onClick={toggle}
        disabled={waiting && !playing}
        className="w-27 whitespace-nowrap"
      >
        {playing ? <Square size={16} aria-hidden /> : <Play size={16} aria-hidden />}
        {playing ? 'Stop' : partial ? 'Play this' : 'Play'}
      </Button>
      <Slider label="Tempo in percent" value={speed} min={25} max={150} onValue={setSpeed} className="w-16" />
      <Told
        speed={speed}
        bpm={bpm}
        beats={beats}
        bars={settings.countIn}
        turns={sounds.turns}
        playing={playing}
        now={() => player.current?.now() ?? null}
      />
      <Switch on={loop} onSwitch={setLoop}>
        <Repeat size={16} aria-hidden /> Loop
      </Switch>
      <Switch on={settings.click} onSwitch={(click) => change({ click })}>
        <Timer size={16} aria-hidden /> Click
      </Switch>
      <SoundsPanel sounds={sounds} riff={riff} onSave={() => void save()} />
    </div>
  );
}

/** The tempo; while it is counted in the count, and which version sounds where two sound in turn. */
function Told({
  speed,
  bpm,
  beats,
  bars,
  turns,
  playing,
  now,
}: {
  readonly speed: number;
  readonly bpm: number;
  readonly beats: number;
  readonly bars: number;
  readonly turns: readonly string[];
  readonly playing: boolean;
  readonly now: () => Now | null;
}) {
  const [told, setTold] = useState<{ readonly count: number; readonly speed: number; readonly version: number } | null>(
    null,
  );
  const look = useEffectEvent(() => {
    const sounding = now();
    const count = sounding?.counted === null || sounding === null ? 0 : 1 + Math.floor(sounding.counted * beats * bars);
    const next = sounding ? { count, speed: Math.round(100 * sounding.speed), version: sounding.version } : null;
    if (JSON.stringify(next) !== JSON.stringify(told)) setTold(next);
  });
  useEffect(() => {
    if (!playing) return;
    let frame = requestAnimationFrame(function follow() {
      look();
      frame = requestAnimationFrame(follow);
    });
    return () => {
      cancelAnimationFrame(frame);
      setTold(null);
    };
  }, [playing]);
  const going = told?.speed ?? speed;
  if (told && told.count > 0) {
    return (
      <p role="status" aria-label="Count-in" className="flex w-30 items-baseline gap-2 whitespace-nowrap">
        <b className="text-2xl text-yours">{WORDS[(told.count - 1) % beats] ?? told.count}</b>{' '}
        <span className="text-[15px] text-soft">of {beats}</span>
      </p>
    );
  }
  return (
    <p className="w-30 font-figures text-[15px] whitespace-nowrap">
      {told && turns.length > 0 ? (
        <span className="block truncate font-text text-sm font-semibold">{turns[told.version]}</span>
      ) : null}
      <b>{going} %</b> <span className="text-soft">{Math.round((bpm * going) / 100)} bpm</span>
    </p>
  );
}

function download(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

import { Play, Repeat, Square, Volume2 } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { Band, Channels } from '@/core/listen';
import { Button } from '@/ui/button';
import { Slider } from '@/ui/slider';
import { Switch } from '@/ui/switch';
import { COMPARISONS, type Comparison } from './clip-player';
import type { ClipContext } from './use-clip-context';
import type { ClipPlaying } from './use-clip-player';

const CHANNELS: readonly (readonly [Channels, string])[] = [
  ['both', 'both channels'],
  ['left', 'left'],
  ['right', 'right'],
  ['middle', 'the middle'],
  ['sides', 'the sides'],
];
const BANDS: readonly (readonly [Band, string])[] = [
  ['all', 'whole band'],
  ['guitar', 'guitar band'],
  ['bass', 'bass band'],
];
/** Above this level a headphone tires the ears soon. */
const LOUD = -9;
const HOW: Readonly<Record<Comparison, string>> = {
  recording: 'the recording',
  together: 'with what is written',
  sides: 'recording left, written right',
  turn: 'in turn with what is written',
};

interface Props {
  readonly player: ClipPlaying;
  readonly context: ClipContext;
  readonly ready: boolean;
  readonly loopBars: (grow: number) => void;
  /** What stands at the end of the line. */
  readonly children: ReactNode;
}

/** How the recording is heard: play, loop, speed, pitch, channel, band, and what is written beside it. */
export function HearPlayer({ player, context, ready, loopBars, children }: Props) {
  const { playing, toggle, looping, setLooping, speed, setSpeed, semitones, setSemitones } = player;
  const { channels, setChannels, band, setBand, how, setHow, level, setLevel, loop, setLoop } = player;
  const { bars, target } = context;
  return (
    <section aria-label="Player" data-playing={playing} className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <Button tone={playing ? 'yours' : 'plain'} onClick={toggle} disabled={!ready} className="w-24">
        {playing ? <Square size={16} aria-hidden /> : <Play size={16} aria-hidden />}
        {playing ? 'Stop' : 'Play'}
      </Button>
      <Switch on={looping} onSwitch={setLooping}>
        <Repeat size={16} aria-hidden /> Loop
      </Switch>
      <Measure label="Speed in percent" value={speed} min={25} max={150} onValue={setSpeed} text={`${speed} %`} />
      <Measure
        label="Pitch moved by semitones"
        value={semitones}
        min={-12}
        max={12}
        step={0.5}
        onValue={setSemitones}
        text={semitones === 0 ? 'at pitch' : `${semitones > 0 ? '+' : '−'}${Math.abs(semitones)} semitones`}
      />
      <select
        aria-label="Channels"
        value={channels}
        onChange={(event) => setChannels(event.target.value as Channels)}
        className="min-h-9 rounded-sm border border-rule bg-sheet px-2 text-[15px]"
      >
        {CHANNELS.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </select>
      <select
        aria-label="Band"
        value={band}
        onChange={(event) => setBand(event.target.value as Band)}
        className="min-h-9 rounded-sm border border-rule bg-sheet px-2 text-[15px]"
      >
        {BANDS.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </select>
      <Volume2 size={16} aria-hidden className="text-soft" />
      <Measure
        label="Volume"
        value={Math.round(level * 100)}
        min={0}
        max={100}
        onValue={(v) => setLevel(v / 100)}
        text=""
      />
      <Loudness level={player.loudness} />
      <span aria-hidden className="basis-full" />
      <div role="group" aria-label="Loop by bars" className="flex items-center gap-1">
        <Button size="small" disabled={!bars?.known} onClick={() => loopBars(0)}>
          Loop this bar
        </Button>
        <Button size="small" disabled={!bars?.known || !loop} onClick={() => loopBars(1)} aria-label="A bar more">
          + bar
        </Button>
        {loop ? (
          <Button tone="word" size="small" onClick={() => setLoop(null)}>
            All of it
          </Button>
        ) : null}
      </div>
      <span aria-hidden className="ml-2 text-[15px] text-soft">
        Hear
      </span>
      <select
        aria-label="Hear"
        value={how}
        onChange={(event) => setHow(event.target.value as Comparison)}
        disabled={!bars?.known || !target || target.riff.events.length === 0}
        title={bars?.known ? undefined : 'Lay bars first: then what is written can be heard beside it.'}
        className="min-h-9 max-w-56 rounded-sm border border-rule bg-sheet px-2 text-[15px] disabled:opacity-45"
      >
        {COMPARISONS.map((letter) => (
          <option key={letter} value={letter}>
            {HOW[letter]}
          </option>
        ))}
      </select>
      <div className="ml-auto flex items-center gap-4">{children}</div>
    </section>
  );
}

function Measure({ text, ...slider }: Parameters<typeof Slider>[0] & { readonly text: string }) {
  return (
    <div className="flex items-center gap-2">
      <Slider {...slider} />
      {text ? <span className="font-figures text-[15px] whitespace-nowrap">{text}</span> : null}
    </div>
  );
}

/** Level of what sounds, with a word of caution where it stays loud. */
function Loudness({ level }: { readonly level: () => number | null }) {
  const bar = useRef<HTMLDivElement>(null);
  const read = useRef(level);
  useEffect(() => {
    read.current = level;
  }, [level]);
  const [loud, setLoud] = useState(false);
  useEffect(() => {
    let frame = 0;
    let over = 0;
    const follow = (): void => {
      frame = requestAnimationFrame(follow);
      const db = read.current();
      if (bar.current) bar.current.style.width = `${db === null ? 0 : Math.max(0, Math.min(100, (db + 54) * 2))}%`;
      over = db !== null && db > LOUD ? Math.min(240, over + 1) : Math.max(0, over - 2);
      setLoud(over > 100);
    };
    frame = requestAnimationFrame(follow);
    return () => cancelAnimationFrame(frame);
  }, []);
  return (
    <div className="flex items-center gap-2">
      <div aria-hidden className="h-2 w-16 border border-rule">
        <div ref={bar} className="h-full bg-proposed" style={{ width: 0 }} />
      </div>
      {loud ? (
        <p role="status" className="text-sm font-semibold text-trouble">
          Loud for long: turn down, rest your ears.
        </p>
      ) : null}
    </div>
  );
}

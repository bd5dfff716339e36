import { useCallback, useEffect, useEffectEvent, useRef, useState } from 'react';
import type { Band, Channels } from '@/core/listen';
import { useToast } from '@/ui/toast';
import type { ClipContext } from './use-clip-context';
import { ClipPlayer, type Comparison, type HearRequest } from './clip-player';
import type { ClipSound } from './clip-sound';
import { held, type View } from './picture-frame';

/** How a recording is heard: the stretch that goes round, speed, pitch, channel, band, what sounds beside it. */
function useListening() {
  const [loop, setLoop] = useState<View | null>(null);
  const [looping, setLooping] = useState(true);
  const [speed, setSpeed] = useState(100);
  const [semitones, setSemitones] = useState(0);
  const [channels, setChannels] = useState<Channels>('both');
  const [band, setBand] = useState<Band>('all');
  const [how, setHow] = useState<Comparison>('recording');
  const [level, setLevel] = useState(0.7);
  return {
    ...{ loop, setLoop, looping, setLooping, speed, setSpeed, semitones, setSemitones },
    ...{ channels, setChannels, band, setBand, how, setHow, level, setLevel },
  };
}

interface Given {
  readonly sound: ClipSound | null;
  readonly context: ClipContext;
  readonly cents: number;
  readonly startAt: number;
  readonly view: View;
  readonly setView: (view: View) => void;
}

/** Plays a recording and what is written beside it; changes are heard as they are made. */
export function useClipPlayer({ sound, context, cents, startAt, view, setView }: Given) {
  const toast = useToast();
  const listening = useListening();
  const { loop, looping, speed, semitones, channels, band, how, level } = listening;
  const { seconds, used, target, bars } = context;
  const [playing, setPlaying] = useState(false);
  const cursor = useRef(startAt);
  const player = useRef<ClipPlayer | null>(null);
  const volume = useRef(level);
  const failed = useEffectEvent((reason: unknown) =>
    toast(`The sound broke off: ${reason instanceof Error ? reason.message : String(reason)}. Play it again.`),
  );
  useEffect(() => {
    if (!sound) return;
    const made = new ClipPlayer(sound, setPlaying, failed);
    made.setLevel(volume.current);
    player.current = made;
    return () => {
      player.current = null;
      made.close();
    };
  }, [sound]);

  // Turning it louder or softer is heard as it plays, and begins nothing anew.
  useEffect(() => {
    volume.current = level;
    player.current?.setLevel(level);
  }, [level]);
  const request = useCallback((): HearRequest => {
    const stretch = loop ?? used;
    const beside =
      how !== 'recording' && target && bars?.known && target.riff.events.length > 0
        ? { riff: target.riff, setup: target.part.setup, bars, cents, how }
        : null;
    return { ...stretch, loop: looping && loop !== null, speed, semitones, channels, band, beside };
  }, [loop, looping, used, speed, semitones, channels, band, how, target, bars, cents]);
  const play = useCallback((): void => {
    const wanted = request();
    const start = cursor.current >= wanted.from && cursor.current < wanted.to - 0.05 ? cursor.current : wanted.from;
    void player.current?.play(wanted, start);
  }, [request]);
  // What is changed while it plays is heard at once.
  const wasPlaying = useRef(false);
  useEffect(() => {
    wasPlaying.current = playing;
  }, [playing]);
  useEffect(() => {
    if (wasPlaying.current) play();
  }, [play]);

  const at = useCallback((): number => {
    const now = player.current?.at() ?? null;
    if (now !== null) cursor.current = now;
    return cursor.current;
  }, []);
  const toggle = (): void => {
    if (playing) {
      at();
      player.current?.stop();
    } else play();
  };
  const seek = (to: number): void => {
    cursor.current = Math.max(0, Math.min(seconds, to));
    const now = cursor.current;
    if (playing) void player.current?.play(request(), now);
    const width = view.to - view.from;
    if (now < view.from || now > view.to) setView(held({ from: now - width / 4, to: now + (3 * width) / 4 }, seconds));
  };
  /** Sounds a pitch, alone or over a moment of the recording. */
  const hearPitch = (midi: number | null, together: boolean): void => {
    if (midi === null || !sound) return;
    void sound.door.tone(midi, cents, 1.4).then(async (tone) => {
      const from = cursor.current;
      if (together && !playing)
        void player.current?.play({ ...request(), loop: false, from, to: Math.min(seconds, from + 1.4) }, from);
      await player.current?.sounding(tone);
    });
  };
  /** Where it plays from next, without playing. */
  const stand = (to: number): void => {
    cursor.current = to;
  };
  const loudness = (): number | null => player.current?.level() ?? null;
  return { ...listening, playing, stand, at, toggle, seek, hearPitch, loudness };
}

export type ClipPlaying = ReturnType<typeof useClipPlayer>;

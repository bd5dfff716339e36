'use client';

import { wrap, type Remote } from 'comlink';
import { Mic, Music2 } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { retime } from '@/core/command';
import { tempoOf } from '@/core/score';
import { feltBeat, placeInBars, readTaps, type Tapped } from '@/core/rhythm';
import { add, barOf, barStart, bpmAt, maxQuarter, toNumber, ZERO, type Quarter } from '@/core/time';
import { joined, openMicrophone, type Microphone } from '@/features/hear/microphone';
import { microphoneFault } from '@/features/tune/tuner-session';
import type { OnsetDoor } from '@/workers/onset.worker';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import type { BenchContext } from './commands';

const RATE = 44_100;

/** What a take begins with: a bar of clicks. */
type Phase = 'ready' | 'counting' | 'tapping' | 'read';

/** Clicks, the microphone, and the worker that finds strokes in what it heard. */
class Booth {
  private context: AudioContext | null = null;
  private microphone: Microphone | null = null;
  private blocks: Float32Array[] = [];
  private worker: Worker | null = null;
  private door: Remote<OnsetDoor> | null = null;

  private audio(): AudioContext {
    this.context ??= new AudioContext({ sampleRate: RATE, latencyHint: 'interactive' });
    return this.context;
  }

  /** Clicks every beat from now on for so many beats; gives when the first comes, on the clock of `performance`. */
  async count(beats: number, seconds: number): Promise<number> {
    const context = this.audio();
    await context.resume();
    const start = context.currentTime + 0.1;
    for (let i = 0; i < beats; i++) {
      const oscillator = context.createOscillator();
      const gain = context.createGain();
      oscillator.frequency.value = i === 0 ? 2093 : 1397;
      gain.gain.setValueAtTime(0.16, start + i * seconds);
      gain.gain.exponentialRampToValueAtTime(0.0001, start + i * seconds + 0.05);
      oscillator.connect(gain).connect(context.destination);
      oscillator.start(start + i * seconds);
      oscillator.stop(start + i * seconds + 0.06);
    }
    return performance.now() + (start - context.currentTime) * 1000;
  }

  async listen(): Promise<void> {
    this.blocks = [];
    this.microphone = await openMicrophone(this.audio(), (block) => {
      if (this.blocks.length < 8000) this.blocks.push(block);
    });
  }

  /** Strokes in what was heard, in seconds from when listening began. */
  async heard(): Promise<number[]> {
    const all = joined(this.blocks);
    this.quiet();
    return this.ear().onsets(all, this.audio().sampleRate);
  }

  /** Strokes of a simulated player who strikes at these times. */
  async simulated(times: readonly number[]): Promise<number[]> {
    const sound = await this.ear().strike(times, 110, RATE, 5);
    return this.ear().onsets(sound, RATE);
  }

  private ear(): Remote<OnsetDoor> {
    this.worker ??= new Worker(new URL('../../workers/onset.worker.ts', import.meta.url), { type: 'module' });
    this.door ??= wrap<OnsetDoor>(this.worker);
    return this.door;
  }

  quiet(): void {
    this.microphone?.stop();
    this.microphone = null;
  }

  end(): void {
    this.quiet();
    void this.context?.close();
    this.worker?.terminate();
  }
}

/** Taps a rhythm onto the notes that are there: on a key, through the microphone, or by a simulated player. */
export function TapDialog({
  desk,
  open,
  onClose,
}: {
  readonly desk: BenchContext;
  readonly open: boolean;
  readonly onClose: () => void;
}) {
  return (
    <Dialog
      open={open}
      onOpenChange={(now) => {
        if (!now) onClose();
      }}
      title="Tap the rhythm"
      description="After a bar of clicks, strike every note once as it should come. The notes stay; their times follow your taps."
    >
      {open ? <Take desk={desk} onClose={onClose} /> : null}
    </Dialog>
  );
}

function Take({ desk, onClose }: { readonly desk: BenchContext; readonly onClose: () => void }) {
  const { riff, piece, chosen, edit } = desk;
  const events = useMemo(
    () =>
      (chosen.events.length > 1 ? chosen.events : riff.events).filter((event) => !event.grace && event.kind !== 'hole'),
    [chosen.events, riff.events],
  );
  const first = events[0];
  const bar = Math.max(0, first ? barOf(riff.meters, first.at).bar : 0);
  const from: Quarter = maxQuarter(ZERO, barStart(riff.meters, bar));
  const bpm = bpmAt(tempoOf(piece, riff), from);
  const beat = toNumber(feltBeat(riff.meters, bar));
  const beats = Math.max(2, Math.round((toNumber(barStart(riff.meters, bar + 1)) - toNumber(from)) / beat));
  const [phase, setPhase] = useState<Phase>('ready');
  const [times, setTimes] = useState<readonly number[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [way, setWay] = useState<'key' | 'microphone'>('key');
  const booth = useRef<Booth | null>(null);
  const started = useRef(0);
  const listening = useRef(0);
  const pad = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const made = new Booth();
    booth.current = made;
    return () => made.end();
  }, []);

  useEffect(() => {
    if (phase === 'counting') pad.current?.focus();
  }, [phase]);

  const finish = useCallback((seconds: readonly number[]): void => {
    setTimes(seconds);
    setPhase('read');
  }, []);
  const begin = async (by: 'key' | 'microphone'): Promise<void> => {
    setFault(null);
    setTimes([]);
    setWay(by);
    try {
      if (by === 'microphone') {
        await booth.current?.listen();
        listening.current = performance.now();
      }
      const seconds = (beat * 60) / bpm;
      const click = (await booth.current?.count(beats * 9, seconds)) ?? 0;
      started.current = click + beats * seconds * 1000;
      setPhase('counting');
    } catch (reason) {
      setFault(microphoneFault(reason));
    }
  };
  const tap = (at: number): void => {
    if (phase === 'ready' || phase === 'read' || way !== 'key') return;
    const seconds = (at - started.current) / 1000;
    // Counting along before the music is no tap.
    if (seconds < -0.25) return;
    setPhase('tapping');
    const next = [...times, seconds];
    setTimes(next);
    if (next.length >= events.length) finish(next);
  };
  const stop = async (): Promise<void> => {
    if (way === 'key') return finish(times);
    const hits = (await booth.current?.heard()) ?? [];
    const shift = (started.current - listening.current) / 1000;
    finish(
      hits
        .map((t) => t - shift)
        .filter((t) => t > -0.2)
        .slice(0, events.length),
    );
  };
  const simulate = async (): Promise<void> => {
    const scatter = [11, -14, 6, -8, 17, -3, 9, -12];
    const at = events.map(
      (event, i) =>
        0.3 + ((toNumber(event.at) - toNumber(from)) * 60) / bpm + ((scatter[i % scatter.length] ?? 0) + 24) / 1000,
    );
    const hits = (await booth.current?.simulated(at)) ?? [];
    finish(hits.map((t) => t - 0.3).slice(0, events.length));
  };

  const read: Tapped | null = phase === 'read' ? readTaps(times, bpm) : null;
  const onsets = read?.taps.map((tap) => add(from, tap.at)) ?? [];
  const take = (): void => {
    const count = Math.min(onsets.length, events.length);
    if (
      edit(
        retime(
          piece,
          riff.id,
          events.slice(0, count).map((event) => event.id),
          onsets.slice(0, count),
        ),
      )
    )
      onClose();
  };
  return (
    <div className="flex flex-col gap-4">
      {events.length === 0 ? (
        <p>Write the notes first, in any rhythm; then tap how they come.</p>
      ) : (
        <p className="text-soft">
          {events.length} {events.length === 1 ? 'note' : 'notes'} from {placeInBars(riff.meters, first?.at ?? ZERO)},
          at {Math.round(bpm)} quarters a minute.
        </p>
      )}
      {phase === 'ready' || phase === 'read' ? (
        <div className="flex flex-wrap gap-2">
          <Button tone="yours" disabled={events.length === 0} onClick={() => void begin('key')}>
            {phase === 'read' ? 'Tap again' : 'Tap on a key'}
          </Button>
          <Button disabled={events.length === 0} onClick={() => void begin('microphone')}>
            <Mic size={16} aria-hidden /> Microphone
          </Button>
          <Button tone="quiet" disabled={events.length === 0} onClick={() => void simulate()}>
            <Music2 size={16} aria-hidden /> Simulated player
          </Button>
        </div>
      ) : (
        <>
          <button
            ref={pad}
            type="button"
            onPointerDown={(event) => tap(event.timeStamp)}
            onKeyDown={(event) => {
              if (!event.repeat && event.key !== 'Tab' && event.key !== 'Escape') {
                event.preventDefault();
                tap(event.timeStamp);
              }
            }}
            className="grid min-h-40 place-items-center rounded-sm border-2 border-dashed border-yours bg-sheet text-2xl"
            aria-label="Tap here"
          >
            {way === 'microphone'
              ? 'Listening…'
              : times.length === 0
                ? 'Any key, after the clicks'
                : `${times.length} of ${events.length}`}
          </button>
          <Button className="self-start" onClick={() => void stop()}>
            Done
          </Button>
        </>
      )}
      {fault ? (
        <p role="alert" className="font-semibold text-trouble">
          {fault}
        </p>
      ) : null}
      {read ? (
        <section aria-label="What was tapped" className="flex flex-col gap-2">
          <p>
            {read.taps.length} taps, {Math.round(read.meanMs)} ms off the written rhythm on average,{' '}
            {Math.round(read.worstMs)} ms at most
            {Math.abs(read.offsetMs) >= 5
              ? `; all of them ${Math.abs(read.offsetMs)} ms ${read.offsetMs > 0 ? 'late' : 'early'}, which is taken off`
              : ''}
            .
            {read.taps.length < events.length
              ? ` The last ${events.length - read.taps.length} notes were not tapped and stay where they are.`
              : ''}
          </p>
          <ol className="grid max-h-52 grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-x-4 overflow-y-auto font-figures text-[15px]">
            {read.taps.map((tap, i) => (
              <li key={i} className={Math.abs(tap.errorMs) > 40 ? 'text-question' : ''}>
                {placeInBars(riff.meters, add(from, tap.at)).replace('beat ', '')}{' '}
                <span className="text-soft">
                  {tap.errorMs >= 0 ? '+' : '−'}
                  {Math.abs(Math.round(tap.errorMs))} ms
                </span>
              </li>
            ))}
          </ol>
          <Button tone="yours" className="self-start" disabled={read.taps.length === 0} onClick={take}>
            Lay the notes on it
          </Button>
        </section>
      ) : null}
    </div>
  );
}

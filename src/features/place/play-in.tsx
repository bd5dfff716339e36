'use client';

import { Piano } from 'lucide-react';
import { Toggle } from 'radix-ui';
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import { insertEvents } from '@/core/command';
import { makeEvent, makeNote, makePlace, type Note } from '@/core/score';
import { openPitch, pitchAt, stringNumbers } from '@/core/instrument';
import { lengthLabel, LENGTHS } from '@/core/rhythm';
import { add, quarter, type Quarter } from '@/core/time';
import type { BenchContext } from './commands';

/** Notes that begin within this many milliseconds are one chord. */
const TOGETHER_MS = 45;

/** The two rows of letters as a piano: white keys below, black ones above; from the lowest C of the neck upward. */
export const PIANO: Readonly<Record<string, number>> = {
  a: 0,
  w: 1,
  s: 2,
  e: 3,
  d: 4,
  f: 5,
  t: 6,
  g: 7,
  y: 8,
  h: 9,
  u: 10,
  j: 11,
  k: 12,
  o: 13,
  l: 14,
  p: 15,
  ';': 16,
};

/**
 * What is played on a keyboard is written where the caret stands: notes of one moment as a chord, each as long as
 * chosen.
 */
interface Played {
  readonly note: (midi: number) => void;
  readonly place: (string: number, fret: number) => void;
  readonly rest: () => void;
}

export function usePlayIn(desk: BenchContext, on: boolean, length: Quarter): Played {
  const waiting = useRef<{ notes: Note[]; timer: ReturnType<typeof setTimeout> | null }>({ notes: [], timer: null });
  // Keys come between renders: each is written to the desk as it is then.
  const live = useRef({ desk, length });
  useEffect(() => {
    live.current = { desk, length };
  });
  useEffect(() => {
    const now = waiting.current;
    return () => {
      if (now.timer) clearTimeout(now.timer);
    };
  }, [on]);
  return useMemo((): Played => {
    const write = (notes: readonly Note[]): void => {
      const { desk: now, length: each } = live.current;
      const at = now.chosen.insertAt;
      const until = add(at, each);
      if (now.edit(insertEvents(now.piece, now.riff.id, [makeEvent('x', at, each, notes)], until)))
        now.chosen.setCaret(until);
    };
    const take = (note: Note): void => {
      const now = waiting.current;
      if (
        now.notes.some(
          (one) => one.pitch.midi === note.pitch.midi || (one.place && one.place.string === note.place?.string),
        )
      )
        return;
      now.notes.push({ ...note, id: `x${now.notes.length}` });
      now.timer ??= setTimeout(() => {
        const { notes } = now;
        now.notes = [];
        now.timer = null;
        write(notes);
      }, TOGETHER_MS);
    };
    return {
      note: (midi) => {
        const { setup } = live.current.desk.part;
        if (
          stringNumbers(setup).some(
            (string) => pitchAt(setup, { string: string, fret: midi - openPitch(setup, string) }).ok,
          )
        )
          take(makeNote('x', midi, 'instructor'));
        else live.current.desk.say('That note is not on this neck.');
      },
      place: (string, fret) => {
        const pitch = pitchAt(live.current.desk.part.setup, { string, fret });
        if (pitch.ok) take(makeNote('x', pitch.value, 'instructor', { place: makePlace(string, fret, 'instructor') }));
      },
      rest: () => live.current.desk.chosen.setCaret(add(live.current.desk.chosen.insertAt, live.current.length)),
    };
  }, []);
}

/** Listens to MIDI keyboards where the browser has them; says which there are. */
function useMidi(on: boolean, onNote: (midi: number) => void): string | null {
  const [found, setFound] = useState<string | null>(null);
  const hear = useEffectEvent(onNote);
  useEffect(() => {
    if (!on) return;
    let ended = false;
    let access: MIDIAccess | null = null;
    const hearing = (event: MIDIMessageEvent): void => {
      const [status = 0, midi = 0, velocity = 0] = event.data ?? [];
      if ((status & 0xf0) === 0x90 && velocity > 0) hear(midi);
    };
    const attach = (): void => {
      const names: string[] = [];
      access?.inputs.forEach((input) => {
        input.onmidimessage = hearing;
        names.push(input.name ?? 'keyboard');
      });
      setFound(names.length > 0 ? names.join(', ') : 'No MIDI keyboard is plugged in');
    };
    if (!('requestMIDIAccess' in navigator)) return;
    void navigator.requestMIDIAccess().then(
      (given) => {
        if (ended) return;
        access = given;
        given.onstatechange = attach;
        attach();
      },
      () => setFound('MIDI is not allowed'),
    );
    return () => {
      ended = true;
      access?.inputs.forEach((input) => {
        input.onmidimessage = null;
      });
    };
  }, [on]);
  return on
    ? (found ??
        (typeof navigator !== 'undefined' && 'requestMIDIAccess' in navigator
          ? 'Looking for MIDI keyboards…'
          : 'This browser has no MIDI'))
    : null;
}

const CHOICES = (['half', 'quarter', 'eighth', 'sixteenth'] as const).map((name) => LENGTHS[name] ?? quarter(1));

/** The switch for playing in, with the length each note gets and what is listened to. */
export function PlayIn({
  on,
  onSwitch,
  length,
  onLength,
  onNote,
}: {
  readonly on: boolean;
  readonly onSwitch: (on: boolean) => void;
  readonly length: Quarter;
  readonly onLength: (length: Quarter) => void;
  readonly onNote: (midi: number) => void;
}) {
  const midi = useMidi(on, onNote);
  return (
    <div role="group" aria-label="Play in" className="flex items-center gap-2 text-[15px]">
      <Toggle.Root
        pressed={on}
        onPressedChange={onSwitch}
        className="inline-flex min-h-7 items-center gap-1.5 rounded-sm border border-rule px-2 font-semibold data-[state=on]:border-yours data-[state=on]:bg-yours-wash"
      >
        <Piano size={16} aria-hidden /> Play in
      </Toggle.Root>
      {on ? (
        <>
          <label className="flex items-center gap-1.5">
            each
            <select
              value={length}
              onChange={(event) => onLength(CHOICES.find((at) => at === event.target.value) ?? length)}
              className="min-h-9 rounded-sm border border-line/70 bg-sheet px-1.5"
            >
              {CHOICES.map((at) => (
                <option key={at} value={at}>
                  {lengthLabel(at)}
                </option>
              ))}
            </select>
          </label>
          <span
            className="text-soft"
            title="The browser asks, in or beside its address bar, whether it may use MIDI. The neck and the letters A to L play too; Space rests."
          >
            {midi}; neck and A–L play
          </span>
        </>
      ) : null}
    </div>
  );
}

import { useMemo } from 'react';
import { BarMap } from '@/core/hearing';
import { openPitch, stringNumbers } from '@/core/instrument';
import { endOf, findRiff, keyOf, tempoOf, type Piece } from '@/core/score';
import { goneRound } from '@/core/synth';
import { bpmAt, quarter, toNumber, ZERO } from '@/core/time';
import type { ClipEntry } from '@/server/repositories/clips';
import type { View, Written } from './picture-frame';

/** What a recording is heard against: the riff it belongs to, its strings, and the bars laid on it. */
export function useClipContext(piece: Piece, clip: ClipEntry, view: View) {
  const seconds = clip.seconds ?? 1;
  const riffs = useMemo(() => piece.parts.flatMap((part) => part.riffs.map((riff) => ({ part, riff }))), [piece]);
  const target = findRiff(piece, clip.document.riff ?? '') ?? riffs[0] ?? null;
  const setup = target?.part.setup ?? null;
  const open = useMemo(
    () => (setup ? stringNumbers(setup).map((string) => openPitch(setup, string)) : [40, 45, 50, 55, 59, 64]),
    [setup],
  );
  const low = Math.min(...open) - 3;
  const high = Math.max(...open) + 22;
  const { trim } = clip.document;
  const used = useMemo(
    () =>
      trim && trim.from < seconds ? { from: trim.from, to: Math.min(seconds, trim.to) } : { from: 0, to: seconds },
    [trim, seconds],
  );
  const key = keyOf(piece, null);
  const bpm = target ? bpmAt(tempoOf(piece, target.riff), ZERO) : 100;
  const bars = useMemo(
    () => (target ? new BarMap(target.riff.meters, clip.document.marks, bpm) : null),
    [target, clip.document.marks, bpm],
  );
  // What is written goes round again for as long as the recording lasts, at the times its bars give it.
  const written = useMemo((): Written[] => {
    if (!target || !bars?.known || target.riff.events.length === 0) return [];
    const until = quarter(Math.max(1, Math.ceil(Math.min(bars.quarters(seconds), 4000))));
    return goneRound(target.riff, until).events.flatMap((event) =>
      event.notes.flatMap((note) =>
        note.place
          ? [
              {
                at: bars.seconds(toNumber(event.at)),
                until: bars.seconds(toNumber(endOf(event))),
                string: note.place.string,
                fret: note.place.fret,
              },
            ]
          : [],
      ),
    );
  }, [target, bars, seconds]);
  const lines = useMemo(
    () =>
      bars?.known
        ? bars
            .lines(view.from, view.to)
            .map((one) => ({ ...one, laid: clip.document.marks.some((other) => other.bar === one.bar) }))
        : [],
    [bars, view, clip.document.marks],
  );

  return { seconds, riffs, target, setup, open, low, high, used, key, bars, written, lines };
}

export type ClipContext = ReturnType<typeof useClipContext>;

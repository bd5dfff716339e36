import { useMemo } from 'react';
import { contextsOf, mapOf, resolveAll } from '@/core/form';
import { BarMap, marksOfForm, marksOfRiff, type ClipDocument, type InForm, type Mark } from '@/core/hearing';
import { openPitch, stringNumbers } from '@/core/instrument';
import { barCount, endOf, findRiff, keyOf, tempoOf, type Piece } from '@/core/score';
import { goneRound } from '@/core/synth';
import { bpmAt, quarter, toNumber, ZERO } from '@/core/time';
import type { ClipEntry } from '@/server/repositories/clips';
import type { View, Written } from './picture-frame';

/** What a recording is heard against: the riff it belongs to, its strings, and the bars laid on it. */
export function useClipContext(piece: Piece, clip: ClipEntry, view: View) {
  const seconds = clip.seconds ?? 1;
  const riffs = useMemo(() => piece.parts.flatMap((part) => part.riffs.map((riff) => ({ part, riff }))), [piece]);
  const whole = useMemo(
    () =>
      resolveAll(piece).flatMap((line) => (line.riff.events.length > 0 ? [{ part: line.part, riff: line.riff }] : [])),
    [piece],
  );
  const named = whole.find((one) => one.riff.id === clip.document.riff) ?? null;
  const target = named ?? findRiff(piece, clip.document.riff ?? '') ?? riffs[0] ?? null;
  const inForm = useMemo(
    () => (clip.document.form && !named && target ? placeInForm(piece, target.part.id, target.riff.id) : null),
    [clip.document.form, named, target, piece],
  );
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
  const marks = useMemo(
    () => (inForm ? marksOfRiff(clip.document.marks, inForm, bpm) : clip.document.marks),
    [inForm, clip.document.marks, bpm],
  );
  const bars = useMemo(() => (target ? new BarMap(target.riff.meters, marks, bpm) : null), [target, marks, bpm]);
  /** The clip with other bar lines, told in bars of what it is heard as. */
  const withMarks = (next: readonly Mark[]): ClipDocument => ({
    ...clip.document,
    marks: inForm ? marksOfForm(clip.document.marks, marks, next, inForm) : [...next],
  });
  // What is written goes round again for as long as the recording lasts, at the times its bars give it.
  const written = useMemo((): Written[] => {
    if (!target || !bars?.known || target.riff.events.length === 0) return [];
    const until = quarter(Math.max(1, Math.ceil(Math.min(bars.quarters(seconds), 4000))));
    // Where the form tells how often, nothing goes round.
    return (inForm || named ? target.riff : goneRound(target.riff, until)).events.flatMap((event) =>
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
  }, [target, bars, seconds, inForm, named]);
  const lines = useMemo(
    () =>
      bars?.known
        ? bars.lines(view.from, view.to).map((one) => ({ ...one, laid: marks.some((other) => other.bar === one.bar) }))
        : [],
    [bars, view, marks],
  );

  return { seconds, riffs, whole, target, setup, open, low, high, used, key, marks, bars, withMarks, written, lines };
}

export type ClipContext = ReturnType<typeof useClipContext>;

/** Where the form plays a riff first; null where it does not. */
function placeInForm(piece: Piece, part: string, riff: string): InForm | null {
  const [context] = contextsOf(piece, part, riff);
  const found = findRiff(piece, riff);
  return context && found ? { meters: mapOf(piece).meters, first: context.bar - 1, bars: barCount(found.riff) } : null;
}

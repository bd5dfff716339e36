import { Link } from '@/ui/link';
import { useMemo, useState } from 'react';
import { insertEvents, keepHearing, together } from '@/core/command';
import { endOf, keyOf, SAID_LIMITS } from '@/core/score';
import {
  clipTime,
  differences,
  heardEvents,
  marksOfBeats,
  otherLevel,
  type BarMap,
  type ClipDocument,
  type Mark,
} from '@/core/hearing';
import type { Edit } from '@/core/edit';
import type { Channels } from '@/core/listen';
import { noteName } from '@/core/pitch';
import { GRIDS, type Grid } from '@/core/rhythm';
import { barOf, meterAt, quarter, type Quarter } from '@/core/time';
import { usePiece } from '@/features/piece/provider';
import type { ClipEntry } from '@/server/repositories/clips';
import { Button } from '@/ui/button';
import {
  ChordReadings,
  HeardDifferences,
  Listening,
  TuningAndTempo,
  WhatItIs,
  type Target,
} from './hear-side-sections';
import { SelectField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import type { ClipSound } from './clip-sound';
import type { View } from './picture-frame';
import type { Offers } from './use-offers';

const notesIn = (count: number): string => `${count} ${count === 1 ? 'note' : 'notes'}`;

interface Props {
  readonly clip: ClipEntry;
  readonly sound: ClipSound | null;
  readonly stretch: View;
  readonly whole: boolean;
  readonly channels: Channels;
  readonly target: Target | null;
  /** Parts as the form plays them from the first bar to the last. */
  readonly forms: readonly Target[];
  /** The clip with other bar lines, told in bars of the target. */
  readonly withMarks: (marks: readonly Mark[]) => ClipDocument;
  readonly riffs: readonly Target[];
  readonly bars: BarMap | null;
  readonly offers: Offers;
  readonly open: readonly number[];
  readonly frets: number;
  readonly cursor: () => number;
  readonly onChange: (document: ClipDocument) => void;
  readonly onAccepted: () => void;
  readonly onSeek: (at: number) => void;
}

/**
 * Beside the picture: what the recording is tuned to, its tempo and bars, and what was heard on its way into a part.
 */
export function HearSide({
  clip,
  sound,
  stretch,
  whole,
  channels,
  target,
  riffs,
  forms,
  withMarks,
  bars,
  offers: { listening: listening, what, setWhat, reading, choose, setHeard, all },
  open,
  frets,
  cursor,
  onChange,
  onAccepted,
  onSeek,
}: Props) {
  const piece = usePiece((state) => state.document);
  const dispatch = usePiece((state) => state.dispatch);
  const toast = useToast();
  const key = keyOf(piece, target?.riff ?? null);
  const [progress, setProgress] = useState<number | null>(null);
  const [grid, setGrid] = useState<Grid>('auto');
  const [level, setLevel] = useState<0.5 | 1 | 2>(1);
  const { document } = clip;

  const listen = async (): Promise<void> => {
    if (!sound) return;
    setProgress(0);
    try {
      const got = await sound.listen(
        stretch.from,
        stretch.to,
        channels,
        { reachable: { open, frets, span: 4 }, low: Math.min(...open), high: Math.max(...open) + frets },
        setProgress,
      );
      if (got) {
        setHeard(got);
        setLevel(1);
      }
    } catch (reason) {
      toast(
        `It could not be listened to: ${reason instanceof Error ? reason.message : String(reason)}. Choose a shorter stretch.`,
      );
    } finally {
      setProgress(null);
    }
  };

  const meter = target ? meterAt(target.riff.meters, 0) : { beats: 4, unit: 4 };
  const beats = useMemo(
    () => (listening?.beats ? (level === 1 ? listening.beats.beats : otherLevel(listening.beats.beats, level)) : []),
    [listening, level],
  );
  // Half and double follow from the beats there are; three to two is listened for anew.
  const others = (listening?.beats?.alternatives ?? []).filter(
    (a) => ![0.5, 1, 2].some((l) => Math.abs(a.bpm / ((listening?.beats?.bpm ?? 1) * l) - 1) < 0.03),
  );
  const otherTempo = async (bpm: number): Promise<void> => {
    const beats = listening && sound ? await sound.door.beats(stretch.from, stretch.to, channels, bpm) : null;
    if (!listening || !beats) return toast('No beat was heard at that tempo. Tap bars: B at each bar’s beginning.');
    setHeard({ ...listening, beats });
    setLevel(1);
  };
  const layBars = (): void => {
    const marks = marksOfBeats(beats, cursor(), meter.beats);
    if (marks.length < 2)
      return toast('Too few beats were heard for bars. Lay them by hand: B at each bar’s beginning while it plays.');
    onChange({ ...withMarks(marks), riff: target?.riff.id ?? null });
    toast(
      `${marks.length} bar lines from ${clipTime(marks[0]?.at ?? 0)} on. Drag one that is off; those between follow.`,
    );
  };

  const within = (one: { readonly at: number }): boolean => one.at >= stretch.from - 0.03 && one.at < stretch.to;
  const offers = useMemo(
    () => all.filter((offer) => offer.at >= stretch.from - 0.03 && offer.at < stretch.to),
    [all, stretch],
  );

  const accept = (): void => {
    if (!target || !bars?.known || offers.length === 0) return;
    const { events } = heardEvents(offers, bars, grid);
    const first = events.findIndex(
      (event) => barOf(target.riff.meters, event.at).bar >= 0 && !event.at.startsWith('-'),
    );
    const kept = first < 0 ? [] : events.slice(first);
    const last = kept.at(-1);
    if (!last) return toast('All of it lies before the first bar line. Move the bars, or choose a later stretch.');
    const made = insertEvents(piece, target.riff.id, kept, endOf(last));
    if (!made.ok) return toast(made.error.words);
    const count = kept.reduce((n, event) => n + event.notes.length, 0);
    const done = dispatch(together(`took ${count} heard notes from ${document.name}`, [made.value]));
    if (!done.ok) return toast(done.error.words);
    onAccepted();
    toast(`${notesIn(count)} ${count === 1 ? 'is' : 'are'} in ${target.riff.name}, placed by the program.`);
  };

  const found = useMemo(
    () =>
      target && bars?.known && listening && target.riff.events.length > 0
        ? differences(
            target.riff,
            bars,
            offers.map((offer) => ({ at: offer.at, midi: offer.midi })),
            stretch.from,
            stretch.to,
          )
        : [],
    [target, bars, listening, offers, stretch],
  );
  const ask = (): void => {
    if (!target || !bars?.known) return;
    const done = dispatch(heardEdit(target.riff.id, document.name, bars, stretch, offers));
    toast(done.ok ? 'Kept. The check asks where heard and written part.' : done.error.words);
  };
  const name = (midi: number): string => noteName(midi, { key, octave: true });
  const isWhole = forms.some((one) => one.riff.id === target?.riff.id);
  const tempi = bars?.known ? bars.tempi().map((one) => one.bpm) : [];
  return (
    <aside className="flex w-72 shrink-0 flex-col gap-4 overflow-y-auto pr-1 max-[899px]:max-h-[34dvh] max-[899px]:w-full">
      <Listening
        {...{ progress, whole, stretch, listen }}
        ready={sound !== null}
        empty={listening === null && all.length === 0}
        onStop={() => sound?.stopListening()}
      />
      {listening ? (
        <TuningAndTempo
          {...{ soundings: listening, document, level, setLevel, others, otherTempo, layBars, onChange }}
        />
      ) : null}
      <section aria-label="Into the part" className="flex flex-col gap-2 border-t border-rule pt-3">
        <WhatItIs {...{ document, target, riffs, forms, onChange }} />
        {tempi.length > 0 ? (
          <p className="text-[15px] text-soft">
            Bars at{' '}
            <span className="font-figures">
              {Math.min(...tempi)}
              {Math.max(...tempi) > Math.min(...tempi) ? ` to ${Math.max(...tempi)}` : ''}
            </span>{' '}
            a minute. Drag a line to move it.
          </p>
        ) : (
          <p className="text-[15px] text-soft">No bars yet: B lays one where the playhead stands.</p>
        )}
        {listening ? (
          <div role="group" aria-label="Heard as" className="flex gap-1.5">
            {(['line', 'chords'] as const).map((word) => (
              <Button
                key={word}
                size="small"
                aria-pressed={what === word}
                onClick={() => setWhat(word)}
                className={what === word ? 'border-ink bg-ink text-sheet' : ''}
              >
                {word === 'line'
                  ? `a line, ${notesIn(listening.notes.filter(within).length)}`
                  : `chords, ${listening.sets.filter(within).length}`}
              </Button>
            ))}
          </div>
        ) : null}
        <SelectField label="Drawn to" value={grid} onChange={(event) => setGrid(event.target.value as Grid)}>
          {GRIDS.map((one) => (
            <option key={one} value={one}>
              {one === 'auto' ? 'best fit, beat by beat' : one}
            </option>
          ))}
        </SelectField>
        <Button onClick={accept} disabled={!target || isWhole || !bars?.known || offers.length === 0}>
          Write {notesIn(offers.length)} into {target?.riff.name ?? 'the part'}
        </Button>
        {target ? (
          <Link
            href={`/pieces/${piece.id}/riffs/${target.riff.id}`}
            className="text-[15px] underline decoration-line underline-offset-4"
          >
            Go to {target.riff.name}
          </Link>
        ) : null}
      </section>
      {listening && what === 'chords' ? (
        <ChordReadings sets={listening.sets} {...{ within, reading, choose, onSeek }} keyShown={key} />
      ) : null}
      {found.length > 0 ? (
        <HeardDifferences
          found={found}
          name={name}
          href={target ? `/pieces/${piece.id}/riffs/${target.riff.id}` : null}
          onSeek={onSeek}
          onAsk={target && !isWhole ? ask : null}
        />
      ) : null}
    </aside>
  );
}

/** What was heard, to be kept with the piece: the check holds it against the riff, as long as both are there. */
function heardEdit(
  riff: string,
  source: string,
  bars: BarMap,
  { from, to }: { readonly from: number; readonly to: number },
  heard: readonly { readonly at: number; readonly midi: number }[],
): Edit {
  const snapped = (seconds: number): Quarter => quarter(Math.round(bars.quarters(seconds) * 16), 16);
  return keepHearing({
    ...{ riff, source, from: snapped(from), to: snapped(to) },
    notes: heard.slice(0, SAID_LIMITS.notes).map((one) => ({ at: bars.quarters(one.at), midi: one.midi })),
  });
}

import Link from 'next/link';
import { useMemo, useState } from 'react';
import { insertEvents, together } from '@/core/command';
import { endOf, keyOf, type Part, type Riff } from '@/core/score';
import {
  clipTime,
  differences,
  heardEvents,
  marksOfBeats,
  otherLevel,
  type BarMap,
  type ClipDocument,
} from '@/core/heard';
import type { Channels } from '@/core/listen';
import { noteName } from '@/core/pitch';
import { GRIDS, type Grid } from '@/core/rhythm';
import { barOf, meterAt } from '@/core/time';
import { usePiece } from '@/features/piece/provider';
import type { ClipEntry } from '@/server/repositories/clips';
import { Button } from '@/ui/button';
import { SelectField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import type { ClipSound } from './clip-sound';
import type { View } from './picture-frame';
import type { Offers } from './use-offers';

const notesIn = (count: number): string => `${count} ${count === 1 ? 'note' : 'notes'}`;

interface Target {
  readonly part: Part;
  readonly riff: Riff;
}

interface Props {
  readonly clip: ClipEntry;
  readonly sound: ClipSound | null;
  readonly stretch: View;
  readonly whole: boolean;
  readonly channels: Channels;
  readonly target: Target | null;
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

const share = (certainty: number): string => `${Math.round(100 * certainty)} % sure`;
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
  bars,
  offers: { heard, what, setWhat, reading, choose, setHeard, all },
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
    () => (heard?.beats ? (level === 1 ? heard.beats.beats : otherLevel(heard.beats.beats, level)) : []),
    [heard, level],
  );
  // Half and double follow from the beats there are; three to two is listened for anew.
  const others = (heard?.beats?.alternatives ?? []).filter(
    (a) => ![0.5, 1, 2].some((l) => Math.abs(a.bpm / ((heard?.beats?.bpm ?? 1) * l) - 1) < 0.03),
  );
  const otherTempo = async (bpm: number): Promise<void> => {
    const beats = heard && sound ? await sound.door.beats(stretch.from, stretch.to, channels, bpm) : null;
    if (!heard || !beats) return toast('No beat was heard at that tempo. Tap bars: B at each bar’s beginning.');
    setHeard({ ...heard, beats });
    setLevel(1);
  };
  const layBars = (): void => {
    const marks = marksOfBeats(beats, cursor(), meter.beats);
    if (marks.length < 2)
      return toast('Too few beats were heard for bars. Lay them by hand: B at each bar’s beginning while it plays.');
    onChange({ ...document, marks, riff: target?.riff.id ?? null });
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
      target && bars?.known && heard && target.riff.events.length > 0
        ? differences(
            target.riff,
            bars,
            offers.map((offer) => ({ at: offer.at, midi: offer.midi })),
            stretch.from,
            stretch.to,
          )
        : [],
    [target, bars, heard, offers, stretch],
  );
  const name = (midi: number): string => noteName(midi, { key, octave: true });
  const tempi = bars?.known ? bars.tempi().map((one) => one.bpm) : [];
  return (
    <aside className="flex w-72 shrink-0 flex-col gap-4 overflow-y-auto pr-1">
      <section aria-label="Listening" className="flex flex-col gap-2">
        {progress === null ? (
          <Button tone="yours" onClick={() => void listen()} disabled={!sound}>
            {whole ? 'Listen to all of it' : `Listen from ${clipTime(stretch.from)} to ${clipTime(stretch.to)}`}
          </Button>
        ) : (
          <div role="status" className="flex items-center justify-between gap-2">
            <span>Listening: {Math.round(100 * progress)} %</span>
            <Button size="small" onClick={() => sound?.stopListening()}>
              Stop
            </Button>
          </div>
        )}
        {heard === null && all.length === 0 ? (
          <p className="text-[15px] text-soft">
            Drag along the picture for a stretch. Or use your own ear: click at a height, P sounds it, T puts a note
            down.
          </p>
        ) : null}
      </section>
      {heard ? (
        <section aria-label="Tuning and tempo" className="flex flex-col gap-1.5 border-t border-rule pt-3">
          <p>
            {heard.reference ? (
              <>
                Tuned to <b className="font-figures">A = {heard.reference.a4Hz.toFixed(1)} Hz</b>{' '}
                <span className="text-soft">
                  ({heard.reference.cents > 0 ? '+' : heard.reference.cents < 0 ? '−' : ''}
                  {Math.abs(heard.reference.cents)} cents, {share(heard.reference.certainty)})
                </span>
              </>
            ) : (
              'Too little sounds to say what it is tuned to.'
            )}
          </p>
          {heard.reference && Math.abs(heard.reference.cents - document.cents) > 0.5 ? (
            <Button size="small" onClick={() => onChange({ ...document, cents: heard.reference?.cents ?? 0 })}>
              Draw and sound in this tuning
            </Button>
          ) : null}
          {heard.beats ? (
            <>
              <p>
                Beats at <b className="font-figures">{Math.round(heard.beats.bpm * level * 10) / 10}</b> a minute{' '}
                <span className="text-soft">
                  ({share(heard.beats.certainty)}
                  {heard.beats.swing !== null ? `, swing ${heard.beats.swing.toFixed(2)} : 1` : ''})
                </span>
              </p>
              <div className="flex flex-wrap gap-1.5">
                {([0.5, 1, 2] as const).map((l) => (
                  <Button
                    key={l}
                    size="small"
                    aria-pressed={level === l}
                    onClick={() => setLevel(l)}
                    className={level === l ? 'border-ink bg-ink text-sheet' : ''}
                  >
                    {Math.round((heard.beats?.bpm ?? 0) * l)}
                  </Button>
                ))}
                {others.map((a) => (
                  <Button
                    key={a.bpm}
                    size="small"
                    onClick={() => void otherTempo(a.bpm)}
                    title={`${Math.round(100 * a.share)} % as much speaks for it`}
                  >
                    {Math.round(a.bpm)}
                  </Button>
                ))}
                <Button size="small" onClick={layBars}>
                  Lay bars, first at the playhead
                </Button>
              </div>
            </>
          ) : (
            <p className="text-soft">No beat was heard. Tap bars: B at each bar’s beginning.</p>
          )}
        </section>
      ) : null}
      <section aria-label="Into the part" className="flex flex-col gap-2 border-t border-rule pt-3">
        <SelectField
          label="It is"
          value={target?.riff.id ?? ''}
          onChange={(event) => onChange({ ...document, riff: event.target.value })}
        >
          {riffs.map(({ part, riff }) => (
            <option key={riff.id} value={riff.id}>
              {part.name}: {riff.name}
            </option>
          ))}
        </SelectField>
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
        {heard ? (
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
                  ? `a line, ${notesIn(heard.notes.filter(within).length)}`
                  : `chords, ${heard.sets.filter(within).length}`}
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
        <Button onClick={accept} disabled={!target || !bars?.known || offers.length === 0}>
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
      {heard && what === 'chords' ? (
        <section aria-label="Readings" className="border-t border-rule pt-3">
          <h3 className="text-base">Readings, likeliest first</h3>
          <ul className="mt-1 flex flex-col gap-1 text-[15px]">
            {heard.sets
              .map((set, i) => ({ s: set, i }))
              .filter(({ s: set }) => within(set))
              .slice(0, 40)
              .map(({ s: set, i }) => (
                <li key={set.at} className="flex flex-wrap items-baseline gap-1.5">
                  <button
                    type="button"
                    className="font-figures underline decoration-line underline-offset-4"
                    onClick={() => onSeek(set.at)}
                  >
                    {clipTime(set.at)}
                  </button>
                  {set.readings.map((one, index) => (
                    <button
                      key={index}
                      type="button"
                      aria-pressed={(reading[i] ?? 0) === index}
                      onClick={() => choose(i, index)}
                      className={(reading[i] ?? 0) === index ? 'font-bold' : 'text-soft'}
                      title={`explains ${Math.round(100 * one.explains)} % of the sound`}
                    >
                      {one.notes.map((place) => noteName(place.midi, { key })).join(' ')}
                    </button>
                  ))}
                </li>
              ))}
          </ul>
        </section>
      ) : null}
      {found.length > 0 ? (
        <section aria-label="Heard and written" className="border-t border-rule pt-3">
          <h3 className="text-base">
            Heard and written differ {found.length === 1 ? 'once' : `${found.length} times`}
          </h3>
          <ul className="mt-1 flex flex-col gap-1 text-[15px]">
            {found.slice(0, 30).map((difference, i) => (
              <li key={i} className="flex gap-2">
                <button
                  type="button"
                  className="font-figures underline decoration-line underline-offset-4"
                  onClick={() => onSeek(difference.at)}
                >
                  {clipTime(Math.max(0, difference.at))}
                </button>
                <span>
                  {difference.kind === 'pitch'
                    ? `heard ${name(difference.heard ?? 0)}, written ${name(difference.written ?? 0)}`
                    : difference.kind === 'missing'
                      ? `${name(difference.written ?? 0)} is written, not heard`
                      : difference.kind === 'extra'
                        ? `${name(difference.heard ?? 0)} is heard, not written`
                        : `${name(difference.written ?? 0)} heard ${Math.abs(difference.late)} ms ${difference.late > 0 ? 'late' : 'early'}`}
                  {difference.event && target ? (
                    <>
                      {' '}
                      <Link
                        className="underline decoration-line underline-offset-4"
                        href={`/pieces/${piece.id}/riffs/${target.riff.id}?note=${difference.event}`}
                      >
                        mend
                      </Link>
                    </>
                  ) : null}
                </span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </aside>
  );
}

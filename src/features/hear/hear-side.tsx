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
import type { View } from './picture';
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
  const piece = usePiece((s) => s.document);
  const dispatch = usePiece((s) => s.dispatch);
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

  const within = (o: { readonly at: number }): boolean => o.at >= stretch.from - 0.03 && o.at < stretch.to;
  const offers = useMemo(() => all.filter((o) => o.at >= stretch.from - 0.03 && o.at < stretch.to), [all, stretch]);

  const accept = (): void => {
    if (!target || !bars?.known || offers.length === 0) return;
    const { events } = heardEvents(offers, bars, grid);
    const first = events.findIndex((e) => barOf(target.riff.meters, e.at).bar >= 0 && !e.at.startsWith('-'));
    const kept = first < 0 ? [] : events.slice(first);
    const last = kept.at(-1);
    if (!last) return toast('All of it lies before the first bar line. Move the bars, or choose a later stretch.');
    const made = insertEvents(piece, target.riff.id, kept, endOf(last));
    if (!made.ok) return toast(made.error.words);
    const count = kept.reduce((n, e) => n + e.notes.length, 0);
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
            offers.map((o) => ({ at: o.at, midi: o.midi })),
            stretch.from,
            stretch.to,
          )
        : [],
    [target, bars, heard, offers, stretch],
  );
  const name = (midi: number): string => noteName(midi, { key, octave: true });
  const tempi = bars?.known ? bars.tempi().map((t) => t.bpm) : [];
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
          onChange={(e) => onChange({ ...document, riff: e.target.value })}
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
            {(['line', 'chords'] as const).map((w) => (
              <Button
                key={w}
                size="small"
                aria-pressed={what === w}
                onClick={() => setWhat(w)}
                className={what === w ? 'border-ink bg-ink text-sheet' : ''}
              >
                {w === 'line'
                  ? `a line, ${notesIn(heard.notes.filter(within).length)}`
                  : `chords, ${heard.sets.filter(within).length}`}
              </Button>
            ))}
          </div>
        ) : null}
        <SelectField label="Drawn to" value={grid} onChange={(e) => setGrid(e.target.value as Grid)}>
          {GRIDS.map((g) => (
            <option key={g} value={g}>
              {g === 'auto' ? 'best fit, beat by beat' : g}
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
              .map((s, i) => ({ s, i }))
              .filter(({ s }) => within(s))
              .slice(0, 40)
              .map(({ s, i }) => (
                <li key={s.at} className="flex flex-wrap items-baseline gap-1.5">
                  <button
                    type="button"
                    className="font-figures underline decoration-line underline-offset-4"
                    onClick={() => onSeek(s.at)}
                  >
                    {clipTime(s.at)}
                  </button>
                  {s.readings.map((r, k) => (
                    <button
                      key={k}
                      type="button"
                      aria-pressed={(reading[i] ?? 0) === k}
                      onClick={() => choose(i, k)}
                      className={(reading[i] ?? 0) === k ? 'font-bold' : 'text-soft'}
                      title={`explains ${Math.round(100 * r.explains)} % of the sound`}
                    >
                      {r.notes.map((n) => noteName(n.midi, { key })).join(' ')}
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
            {found.slice(0, 30).map((d, i) => (
              <li key={i} className="flex gap-2">
                <button
                  type="button"
                  className="font-figures underline decoration-line underline-offset-4"
                  onClick={() => onSeek(d.at)}
                >
                  {clipTime(Math.max(0, d.at))}
                </button>
                <span>
                  {d.kind === 'pitch'
                    ? `heard ${name(d.heard ?? 0)}, written ${name(d.written ?? 0)}`
                    : d.kind === 'missing'
                      ? `${name(d.written ?? 0)} is written, not heard`
                      : d.kind === 'extra'
                        ? `${name(d.heard ?? 0)} is heard, not written`
                        : `${name(d.written ?? 0)} heard ${Math.abs(d.late)} ms ${d.late > 0 ? 'late' : 'early'}`}
                  {d.event && target ? (
                    <>
                      {' '}
                      <Link
                        className="underline decoration-line underline-offset-4"
                        href={`/pieces/${piece.id}/riffs/${target.riff.id}?note=${d.event}`}
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

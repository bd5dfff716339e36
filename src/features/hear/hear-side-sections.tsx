import { Link } from '@/ui/link';
import { clipTime, type ClipDocument, type Difference } from '@/core/hearing';
import type { Listened, HeardSet } from '@/core/listen';
import { noteName, type Key } from '@/core/pitch';
import type { Part, Riff } from '@/core/score';
import { Button } from '@/ui/button';
import { SelectField } from '@/ui/field';

const share = (certainty: number): string => `${Math.round(100 * certainty)} % sure`;

/** Begins listening to the stretch, shows how far it is, and stops it. */
export function Listening({
  progress,
  whole,
  stretch,
  listen,
  ready,
  empty,
  onStop,
}: {
  readonly progress: number | null;
  readonly whole: boolean;
  readonly stretch: { readonly from: number; readonly to: number };
  readonly listen: () => Promise<void>;
  readonly ready: boolean;
  /** Nothing was heard yet, by the program or by ear. */
  readonly empty: boolean;
  readonly onStop: () => void;
}) {
  return (
    <section aria-label="Listening" className="flex flex-col gap-2">
      {progress === null ? (
        <Button tone="yours" onClick={() => void listen()} disabled={!ready}>
          {whole ? 'Listen to all of it' : `Listen from ${clipTime(stretch.from)} to ${clipTime(stretch.to)}`}
        </Button>
      ) : (
        <div role="status" className="flex items-center justify-between gap-2">
          <span>Listening: {Math.round(100 * progress)} %</span>
          <Button size="small" onClick={onStop}>
            Stop
          </Button>
        </div>
      )}
      {empty ? (
        <p className="text-[15px] text-soft">
          Drag along the picture for a stretch. Or use your own ear: click at a height, P sounds it, T puts a note down.
        </p>
      ) : null}
    </section>
  );
}

/** What the recording is tuned to, and how fast it goes; both can be taken, the tempo at another level. */
export function TuningAndTempo({
  soundings: sounding,
  document,
  level,
  setLevel,
  others,
  otherTempo,
  layBars,
  onChange,
}: {
  readonly soundings: Listened;
  readonly document: ClipDocument;
  readonly level: 0.5 | 1 | 2;
  readonly setLevel: (level: 0.5 | 1 | 2) => void;
  readonly others: readonly { readonly bpm: number; readonly share: number }[];
  readonly otherTempo: (bpm: number) => Promise<void>;
  readonly layBars: () => void;
  readonly onChange: (document: ClipDocument) => void;
}) {
  return (
    <section aria-label="Tuning and tempo" className="flex flex-col gap-1.5 border-t border-rule pt-3">
      <p>
        {sounding.reference ? (
          <>
            Tuned to <b className="font-figures">A = {sounding.reference.a4Hz.toFixed(1)} Hz</b>{' '}
            <span className="text-soft">
              ({sounding.reference.cents > 0 ? '+' : sounding.reference.cents < 0 ? '−' : ''}
              {Math.abs(sounding.reference.cents)} cents, {share(sounding.reference.certainty)})
            </span>
          </>
        ) : (
          'Too little sounds to say what it is tuned to.'
        )}
      </p>
      {sounding.reference && Math.abs(sounding.reference.cents - document.cents) > 0.5 ? (
        <Button size="small" onClick={() => onChange({ ...document, cents: sounding.reference?.cents ?? 0 })}>
          Draw and sound in this tuning
        </Button>
      ) : null}
      {sounding.beats ? (
        <>
          <p>
            Beats at <b className="font-figures">{Math.round(sounding.beats.bpm * level * 10) / 10}</b> a minute{' '}
            <span className="text-soft">
              ({share(sounding.beats.certainty)}
              {sounding.beats.swing !== null ? `, swing ${sounding.beats.swing.toFixed(2)} : 1` : ''})
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
                {Math.round((sounding.beats?.bpm ?? 0) * l)}
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
  );
}

/** Readings of each chord, likeliest first; one click chooses another. */
export function ChordReadings({
  sets,
  within,
  reading,
  choose,
  keyShown,
  onSeek,
}: {
  readonly sets: readonly HeardSet[];
  readonly within: (set: HeardSet) => boolean;
  readonly reading: Readonly<Record<number, number>>;
  readonly choose: (set: number, reading: number) => void;
  readonly keyShown: Key | null;
  readonly onSeek: (at: number) => void;
}) {
  return (
    <section aria-label="Readings" className="border-t border-rule pt-3">
      <h3 className="text-base">Readings, likeliest first</h3>
      <ul className="mt-1 flex flex-col gap-1 text-[15px]">
        {sets
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
                  {one.notes.map((place) => noteName(place.midi, { key: keyShown })).join(' ')}
                </button>
              ))}
            </li>
          ))}
      </ul>
    </section>
  );
}

/** Where what is heard and what is written differ, each with the way to the note. */
export function HeardDifferences({
  found,
  name,
  href,
  onSeek,
  onAsk,
}: {
  readonly found: readonly Difference[];
  readonly name: (midi: number) => string;
  readonly href: string | null;
  readonly onSeek: (at: number) => void;
  /** Keeps what was heard, for the check to ask about; null where it can’t. */
  readonly onAsk: (() => void) | null;
}) {
  return (
    <section aria-label="Heard and written" className="border-t border-rule pt-3">
      <h3 className="text-base">Heard and written differ {found.length === 1 ? 'once' : `${found.length} times`}</h3>
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
                ? `heard ${name(difference.hearing ?? 0)}, written ${name(difference.written ?? 0)}`
                : difference.kind === 'missing'
                  ? `${name(difference.written ?? 0)} is written, not heard`
                  : difference.kind === 'extra'
                    ? `${name(difference.hearing ?? 0)} is heard, not written`
                    : `${name(difference.written ?? 0)} heard ${Math.abs(difference.late)} ms ${difference.late > 0 ? 'late' : 'early'}`}
              {difference.event && href ? (
                <>
                  {' '}
                  <Link
                    className="underline decoration-line underline-offset-4"
                    href={`${href}?note=${difference.event}`}
                  >
                    mend
                  </Link>
                </>
              ) : null}
            </span>
          </li>
        ))}
      </ul>
      {onAsk ? (
        <Button size="small" className="mt-2" onClick={onAsk}>
          Ask about these in the check
        </Button>
      ) : null}
    </section>
  );
}

/** A part's riff, or the part as the form plays it. */
export interface Target {
  readonly part: Part;
  readonly riff: Riff;
}

/** What a recording is heard as: a riff, or a part from the first bar of the form to the last. */
export function WhatItIs({
  document,
  target,
  riffs,
  forms,
  onChange,
}: {
  readonly document: ClipDocument;
  readonly target: Target | null;
  readonly riffs: readonly Target[];
  readonly forms: readonly Target[];
  readonly onChange: (document: ClipDocument) => void;
}) {
  return (
    <>
      <SelectField
        label="It is"
        value={target?.riff.id ?? ''}
        onChange={(event) => {
          const riff = event.target.value;
          const all = forms.some((one) => one.riff.id === riff);
          onChange({ ...document, riff, ...(all ? { form: true as const } : {}) });
        }}
      >
        {riffs.map(({ part, riff }) => (
          <option key={riff.id} value={riff.id}>
            {part.name}: {riff.name}
          </option>
        ))}
        {forms.map(({ part, riff }) => (
          <option key={riff.id} value={riff.id}>
            {part.name}: the whole form
          </option>
        ))}
      </SelectField>
      {forms.some((one) => one.riff.id === target?.riff.id) ? (
        <p className="text-[15px] text-soft">
          The bars are laid once for the whole form. Choose a riff to hear it where the form plays it, and to write into
          it.
        </p>
      ) : document.form ? (
        <label className="flex items-center gap-1.5 text-[15px]">
          <input
            type="checkbox"
            checked
            onChange={() => {
              const { form: _, ...rest } = document;
              onChange({ ...rest, marks: [] });
            }}
          />
          Bars are those of the whole form
        </label>
      ) : null}
    </>
  );
}

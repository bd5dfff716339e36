'use client';

import equal from 'fast-deep-equal';
import { useCallback, useMemo, useState } from 'react';
import { must } from '@/core/base';
import { costTableSchema, DEFAULT_COSTS, type CostTable } from '@/core/hand';
import { makeSetup, stringNumbers } from '@/core/instrument';
import { staffBars } from '@/core/staff';
import { weightOf, withWeight, type WeightRef } from '@/core/place';
import { barCount, makePlace, makeRiff, riffEnd, riffStart, type Riff } from '@/core/score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import { Transport } from '@/features/hear/transport';
import type { KeptFit } from '@/server/repositories/learning';
import { Button } from '@/ui/button';
import { rowsOf } from '@/ui/draw/strip-layout';
import { TabSystem } from '@/ui/draw/tab-system';
import { SelectField, TextField } from '@/ui/field';
import { useRefresh } from '@/features/studio/studio';
import { useToast } from '@/ui/toast';
import type { HandAnswer } from '@/workers/place.worker';
import { Learning } from './learning';
import { saveCostsAction } from './learning-actions';
import { useCostTables } from './players-context';
import { SettingsFrame } from './settings-frame';
import { useTrial } from './use-trial';
import { WEIGHT_GROUPS, weightLabel } from './weight-words';

const SETUP = must(makeSetup({ instrument: 'guitar-6' })).setup;
const TEMPO = [{ at: ZERO, bpm: 100 }];
const METERS = [{ bar: 0, beats: 4, unit: 4 }];
const FIRST_PHRASE =
  'eighths note E2 note A2 note B2 note D3 note E3 note D3 note B2 note A2 note C3 note D3 note E3 note G3 note A3 note G3 note E3 note D3';

interface Props {
  readonly counts: { readonly phrases: number; readonly notes: number };
  readonly fit: KeptFit | null;
}

/**
 * The cost table: every weight, a phrase that shows and sounds what a change does, versions, and what is learnt from
 * choices.
 */
export function WeightsPage({ counts, fit }: Props) {
  const tables = useCostTables();
  const toast = useToast();
  const refresh = useRefresh();
  const current = tables[0]?.weights ?? DEFAULT_COSTS;
  const [costs, setCosts] = useState<CostTable>(current);
  const [name, setName] = useState('My weights');
  const [calls, setCalls] = useState(FIRST_PHRASE);
  const changed = !equal(costs, current);
  const checked = costTableSchema.safeParse(costs);
  const wrong = checked.success ? null : `${checked.error.issues[0]?.message ?? 'Check the figures'}.`;
  const save = async (): Promise<void> => {
    const made = await saveCostsAction({ name, weights: costs });
    if (made.ok) refresh();
    toast(
      made.ok
        ? `Kept as version ${made.value.version}. New pieces are placed by it; others keep theirs until you choose it on their set-up page.`
        : made.error.words,
    );
  };
  return (
    <SettingsFrame
      at="/settings/weights"
      title="Weights"
      lead="What effort weighs when the program places a phrase, in presses of the index: the cheapest phrase wins. Every piece keeps the weights it was placed by, so that old results can be made again."
    >
      <div className="grid grid-cols-[minmax(0,5fr)_minmax(0,6fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
        <section aria-label="Cost table" className="flex flex-col gap-4">
          <div className="flex flex-wrap items-end gap-2">
            <SelectField
              label="Begin from"
              value=""
              onChange={(event) => {
                const one = tables.find((one) => String(one.version) === event.target.value);
                setCosts(event.target.value === 'own' ? DEFAULT_COSTS : (one?.weights ?? costs));
                if (one) setName(one.name);
              }}
            >
              <option value="">
                {changed
                  ? 'changed'
                  : tables[0]
                    ? `${tables[0].name}, version ${tables[0].version}: in use`
                    : 'the program’s own: in use'}
              </option>
              {tables.map((one) => (
                <option key={one.version} value={one.version}>
                  {one.name}, version {one.version}
                </option>
              ))}
              <option value="own">the program’s own</option>
            </SelectField>
          </div>
          {WEIGHT_GROUPS.map((one) => (
            <fieldset key={one.title}>
              <legend className="font-display text-lg font-semibold">{one.title}</legend>
              <div className="divide-y divide-rule border-y border-rule">
                {one.weights.map(([word, label, words]) => (
                  <WeightRow
                    key={word}
                    name={word}
                    label={label}
                    words={words}
                    costs={costs}
                    current={current}
                    onChange={setCosts}
                  />
                ))}
              </div>
            </fieldset>
          ))}
        </section>
        <div className="flex flex-col gap-8">
          <div className="sticky top-4 flex flex-col gap-4">
            <LivePhrase calls={calls} onCalls={setCalls} before={current} after={costs} changed={changed} />
            {wrong ? (
              <p role="alert" className="text-sm font-semibold text-trouble">
                {wrong}
              </p>
            ) : null}
            <div className="grid grid-cols-[1fr_auto_auto] items-end gap-3">
              <TextField
                label="Name of the table"
                value={name}
                maxLength={80}
                onChange={(event) => setName(event.target.value)}
              />
              <Button
                tone="yours"
                disabled={!changed || wrong !== null || name.trim() === ''}
                onClick={() => void save()}
              >
                Keep and use
              </Button>
              <Button disabled={!changed} onClick={() => setCosts(current)}>
                Take back
              </Button>
            </div>
            <Learning counts={counts} initial={fit} onTry={setCosts} />
          </div>
        </div>
      </div>
    </SettingsFrame>
  );
}

interface RowProps {
  readonly name: WeightRef['name'];
  readonly label: string;
  readonly words: string;
  readonly costs: CostTable;
  readonly current: CostTable;
  readonly onChange: (costs: CostTable) => void;
}

function WeightRow({ name, label, words, costs, current, onChange }: RowProps) {
  const refs: readonly WeightRef[] =
    typeof costs[name] === 'number' ? [{ name, index: null }] : [0, 1, 2, 3].map((index) => ({ name, index }));
  return (
    <div className="flex items-center gap-3 py-1.5 text-[15px] max-[899px]:flex-wrap max-[899px]:gap-y-1">
      <div className="min-w-0 flex-1 max-[899px]:basis-full">
        <b>{label}</b> <span className="text-soft">{words}</span>
      </div>
      {refs.map((ref) => (
        <WeightInput
          key={ref.index ?? 'one'}
          label={weightLabel(ref)}
          value={weightOf(costs, ref)}
          moved={weightOf(costs, ref) !== weightOf(current, ref)}
          onChange={(to) => onChange(withWeight(costs, ref, to))}
        />
      ))}
    </div>
  );
}

function WeightInput({
  label,
  value,
  moved,
  onChange,
}: {
  readonly label: string;
  readonly value: number;
  readonly moved: boolean;
  readonly onChange: (value: number) => void;
}) {
  const [text, setText] = useState(String(value));
  const [last, setLast] = useState(value);
  if (last !== value) {
    setLast(value);
    if (Number(text.replace(',', '.')) !== value) setText(String(value));
  }
  const typed = text.trim() === '' ? NaN : Number(text.replace(',', '.'));
  const wrong = !(typed >= 0 && typed <= 100);
  return (
    <input
      aria-label={label}
      inputMode="decimal"
      value={text}
      aria-invalid={wrong || undefined}
      title={wrong ? 'A number from 0 to 100.' : undefined}
      onChange={(event) => {
        setText(event.target.value);
        const to = event.target.value.trim() === '' ? NaN : Number(event.target.value.replace(',', '.'));
        if (to >= 0 && to <= 100) onChange(to);
      }}
      className={`w-[4.6rem] rounded-sm border bg-sheet px-1.5 py-1 text-right font-figures aria-[invalid=true]:border-trouble ${moved ? 'border-yours font-bold text-yours' : 'border-line/70'}`}
    />
  );
}

/** A phrase placed by the table in use and by the changed one, drawn and sounded. */
function LivePhrase({
  calls,
  onCalls,
  before,
  after,
  changed,
}: {
  readonly calls: string;
  readonly onCalls: (calls: string) => void;
  readonly before: CostTable;
  readonly after: CostTable;
  readonly changed: boolean;
}) {
  const toast = useToast();
  const read = useMemo(
    () => readCalls(calls, { setup: SETUP, meters: METERS, at: ZERO, length: FIRST_LENGTH, string: null }),
    [calls],
  );
  const fault =
    read.faults[0]?.words ??
    (read.events.length === 0
      ? 'Call a few notes, such as "note E2 note G2".'
      : read.events.length > 64
        ? 'At most 64 onsets here.'
        : null);
  const riff = useMemo(() => {
    if (fault) return null;
    // A called place would be kept whatever the weights: here all are left to the program.
    const events = calledToEvents(read, new Set()).map((event) => ({
      ...event,
      notes: event.notes.map((note) => ({ ...note, place: null })),
    }));
    const made = makeRiff('live', 'Phrase', { meters: METERS, events });
    return { ...made, bars: barCount(made) };
  }, [read, fault]);
  const trial = useTrial(riff, SETUP, TEMPO, before, after);
  const placed = useMemo(
    () => (riff && trial ? { before: withPlaces(riff, trial.before), after: withPlaces(riff, trial.after) } : null),
    [riff, trial],
  );
  const moved = trial
    ? trial.after.places.filter((place, i) => {
        const one = trial.before.places[i];
        return one && (one.string !== place.string || one.fret !== place.fret);
      }).length
    : 0;
  const onFault = useCallback((mode: string) => toast(mode), [toast]);
  return (
    <section aria-label="Live phrase" className="flex flex-col gap-3">
      <h2 className="text-xl">On a phrase</h2>
      <TextField
        label="The phrase, as calls; places are left to the program"
        value={calls}
        error={fault}
        onChange={(event) => onCalls(event.target.value)}
        className="font-figures text-sm"
      />
      {placed === null ? (
        <p className="text-soft">{fault ? '' : 'Placing it…'}</p>
      ) : (
        <>
          <Tab riff={placed.before} title="As the weights in use place it" />
          {changed ? <Tab riff={placed.after} title="As these weights would" /> : null}
          {changed ? (
            <p className="text-[15px]">
              {moved === 0 ? 'No note moves.' : `${moved} of ${trial?.after.places.length ?? 0} notes move.`}
            </p>
          ) : null}
          <div className="flex">
            <Transport
              riff={placed.after}
              setup={SETUP}
              tempo={TEMPO}
              from={riffStart(placed.after)}
              to={riffEnd(placed.after)}
              partial={false}
              beats={4}
              onFault={onFault}
            />
          </div>
        </>
      )}
    </section>
  );
}

function withPlaces(riff: Riff, answer: HandAnswer): Riff {
  const places = new Map(answer.places.map((place) => [place.note, place]));
  return {
    ...riff,
    events: riff.events.map((event) => ({
      ...event,
      notes: event.notes.map((note) => {
        const place = places.get(note.id);
        return place
          ? { ...note, place: makePlace(place.string, place.fret, 'solver', { finger: place.finger }) }
          : note;
      }),
    })),
  };
}

const WIDTH = 560;

function Tab({ riff, title }: { readonly riff: Riff; readonly title: string }) {
  const rows = rowsOf(riff, Math.min(2, barCount(riff)));
  const strings = stringNumbers(SETUP).reverse();
  return (
    <figure className="rounded-sm border border-rule bg-white p-2">
      <figcaption className="text-sm text-neutral-700">{title}</figcaption>
      {rows.map((row, i) => (
        <TabSystem
          key={row.index}
          row={row}
          next={rows[i + 1]?.events[0] ?? null}
          width={WIDTH}
          meters={riff.meters}
          written={staffBars(riff, SETUP, { from: row.firstBar, count: row.bars }, { key: null, pitch: 'sounding' })}
          strings={strings}
          names={['E', 'B', 'G', 'D', 'A', 'E']}
          fingers
          fretText={(place) => String(place.fret)}
          label={`${title}: ${row.events.map((event) => event.notes.map((note) => (note.place ? `string ${note.place.string} fret ${note.place.fret}` : '')).join(' and ')).join(', ')}`}
        />
      ))}
    </figure>
  );
}

'use client';

import { Link } from '@/ui/link';
import { useRefresh } from '@/features/studio/studio';
import { useState, useTransition, type ReactNode } from 'react';
import { gripMeanings } from '@/core/harmony';
import {
  changesFromReference,
  coincidences,
  meetingFrets,
  octaveShapes,
  retunePlan,
  sameStrings,
  spellTuning,
  stringNumbers,
  tuningOf,
  tuningPitches,
  tuningsFor,
  TUNINGS,
  type Setup,
  type Tuning,
  type TuningFamily,
} from '@/core/instrument';
import { asciiPitch, noteName } from '@/core/pitch';
import { pitchLabel, stringLabel } from '@/core/schools';
import { madeOf, type SetupDraft } from '@/features/setup/draft';
import { SetupFields } from '@/features/setup/setup-fields';
import { Button, buttonClass } from '@/ui/button';
import { SelectField, TextField } from '@/ui/field';
import { useSchools } from '@/ui/schools';
import { useToast } from '@/ui/toast';
import { deleteTuningAction, keepTuningAction } from './actions';
import { RackFrame } from './frame';
import { instrumentBy, useRack } from './rack-context';
import { RetuneSteps } from './retune-steps';
import { TensionTable } from './tension-table';

const FAMILIES: readonly TuningFamily[] = [
  'standard',
  'dropped',
  'detuned',
  'open',
  'modal',
  'baritone',
  'extended',
  'altered',
];

/** One tuning understood: what it changes, what coincides, what grips become, how to get there. */
export function TuningsPage({
  instrument,
  tuning,
}: {
  readonly instrument: string | null;
  readonly tuning: string | null;
}) {
  const rack = useRack();
  const first = (instrument && instrumentBy(rack, instrument)?.id) || 'guitar-6';
  const firstInstrument = instrumentBy(rack, first);
  const [draft, setDraft] = useState<SetupDraft>({
    instrument: first,
    tuning:
      tuning ??
      (instrument && firstInstrument ? (tuningsFor(firstInstrument, rack.tunings)[0]?.id ?? '') : 'modal-dadgad'),
    capos: [],
  });
  const [from, setFrom] = useState('reference');
  const made = madeOf(draft, rack);
  const setup = made.ok ? made.value.setup : null;
  const others = setup ? tuningsFor(setup.instrument, rack.tunings) : [];
  const reference = setup?.instrument.strings.map((string) => string.pitch) ?? [];
  const before = others.find((tuning) => tuning.id === from);
  const start = before ? tuningPitches(before) : reference;
  const known = setup ? tuningOf(setup.instrument, setup.open, [...TUNINGS, ...rack.tunings]) : undefined;
  return (
    <RackFrame
      at="/rack/tunings"
      title="Tunings"
      lead="Choose one or spell it. What it does to the strings, to the grips you know and to the neck is worked out beside it."
      aside={
        setup ? (
          <Link
            className={buttonClass()}
            href={`/rack/tune?instrument=${setup.instrument.id}&tuning=${encodeURIComponent(draft.tuning)}`}
          >
            Tune up to it
          </Link>
        ) : null
      }
    >
      <div className="grid grid-cols-[minmax(0,4fr)_minmax(0,6fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
        <div className="flex flex-col gap-5">
          <SetupFields
            draft={draft}
            onChange={(next) => {
              setDraft(next);
              if (next.instrument !== draft.instrument) setFrom('reference');
            }}
            noCapo
          />
          <SelectField label="Coming from" value={from} onChange={(event) => setFrom(event.target.value)}>
            <option value="reference">what the strings are made for</option>
            {others.map((tuning) => (
              <option key={tuning.id} value={tuning.id}>
                {tuning.name} ({tuning.spelling.replace(/\d/g, '')})
              </option>
            ))}
          </SelectField>
          {setup ? (
            <RetuneSteps plan={retunePlan(setup.instrument, start, setup.open, setup.absent)} setup={setup} />
          ) : null}
          {setup ? <Same setup={setup} start={start} name={before?.name ?? 'its own tuning'} /> : null}
        </div>
        {setup ? (
          <div className="flex flex-col gap-6">
            <About setup={setup} known={known} own={rack.tunings.some((tuning) => tuning.id === known?.id)} />
            <Strings setup={setup} />
            <Grips setup={setup} />
          </div>
        ) : (
          <p className="py-16 text-center text-soft">
            As soon as the spelling makes sense, the tuning is explained here.
          </p>
        )}
      </div>
      {setup ? (
        <section aria-label="Tension" className="mt-7">
          <h2 className="text-xl">What the strings bear</h2>
          <TensionTable instrument={setup.instrument} open={setup.open} absent={setup.absent} />
        </section>
      ) : null}
    </RackFrame>
  );
}

/** The tuning's name and family, or the way to give it one. */
function About({
  setup,
  known,
  own,
}: {
  readonly setup: Setup;
  readonly known: Tuning | undefined;
  readonly own: boolean;
}) {
  const refresh = useRefresh();
  const toast = useToast();
  const [name, setName] = useState('');
  const [family, setFamily] = useState<TuningFamily>('altered');
  const [fault, setFault] = useState<string | null>(null);
  const [busy, begin] = useTransition();
  const remove = (id: string): void =>
    begin(async () => {
      await deleteTuningAction(id, true);
      refresh();
      toast('The tuning is off your list.', {
        label: 'Put it back',
        run: () =>
          begin(async () => {
            await deleteTuningAction(id, false);
            refresh();
          }),
      });
    });
  if (known) {
    return (
      <section aria-label="About" className="border-b border-rule pb-4">
        <h2 className="text-2xl">
          {known.name}{' '}
          <span className="font-figures text-lg font-normal text-soft">
            {spellTuning(setup.open, setup.absent, setup.signs)}
          </span>
        </h2>
        <p className="mt-1">
          <b>{known.family}</b>. {known.source}
        </p>
        {own ? (
          <Button size="small" className="mt-2" disabled={busy} onClick={() => remove(known.id)}>
            Take it off your list
          </Button>
        ) : null}
      </section>
    );
  }
  return (
    <form
      aria-label="Keep this tuning"
      className="grid grid-cols-[1fr_9rem_auto] items-end gap-3 max-[899px]:grid-cols-1 border-b border-rule pb-4"
      onSubmit={(event) => {
        event.preventDefault();
        begin(async () => {
          const kept = await keepTuningAction({
            name,
            family,
            spelling: setup.open.map((midi) => asciiPitch(midi)).join(' '),
            instruments: [setup.instrument.id],
            source: 'Kept by this studio.',
          });
          setFault(kept.ok ? null : kept.error.words);
          if (kept.ok) refresh();
        });
      }}
    >
      <TextField
        label={`Keep ${spellTuning(setup.open)} as a tuning of your own, named`}
        value={name}
        error={fault}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
      />
      <SelectField
        label="Family"
        value={family}
        onChange={(event) => setFamily(FAMILIES.find((one) => one === event.target.value) ?? 'altered')}
      >
        {FAMILIES.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </SelectField>
      <Button type="submit" disabled={busy || name.trim() === ''}>
        Keep it
      </Button>
    </form>
  );
}

const signed = (n: number): string => (n === 0 ? '0' : n > 0 ? `+${n}` : `−${-n}`);

function Strings({ setup }: { readonly setup: Setup }) {
  const schools = useSchools();
  const changes = changesFromReference(setup.instrument, setup.open);
  const meets = meetingFrets(setup.open);
  const same = coincidences(setup.open, setup.absent);
  const shapes = octaveShapes(
    setup.open,
    setup.instrument.strings.map((string) => string.pitch),
  ).filter((one) => one.frets !== one.reference && !setup.absent.includes(one.from) && !setup.absent.includes(one.to));
  const label = (s: number): string => stringLabel(setup, s, schools).main;
  return (
    <section aria-label="Strings">
      <h2 className="text-xl">String by string</h2>
      <table className="mt-1 w-full text-[15px]">
        <thead className="text-left text-sm text-soft">
          <tr>
            <th className="font-semibold">String</th>
            <th className="font-semibold">Sounds</th>
            <th className="font-semibold">From its own tuning</th>
            <th className="font-semibold">Meets the next thinner at fret</th>
          </tr>
        </thead>
        <tbody>
          {stringNumbers(setup).map((string) => {
            const i = setup.open.length - string;
            const change = changes[i] ?? 0;
            const meet = meets.find((place) => place.string === string);
            return (
              <tr key={string} className="border-t border-rule">
                <td className="py-0.5 font-figures">{label(string)}</td>
                <td className={`font-figures font-bold ${change === 0 ? '' : 'text-yours'}`}>
                  {pitchLabel(setup.open[i] ?? 0, schools.notes)}
                </td>
                <td className="font-figures">
                  {change === 0 ? (
                    <span className="text-soft">as made for</span>
                  ) : (
                    `${signed(change)} semitone${Math.abs(change) === 1 ? '' : 's'}`
                  )}
                </td>
                <td className="font-figures">
                  {!meet || setup.absent.includes(meet.neighbour) ? '' : (meet.fret ?? 'lies above it')}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Fact when={same.length > 0} title="Strings that coincide">
        {same
          .map(
            (one) =>
              `${label(one.strings[0])} and ${label(one.strings[1])} ${one.semitones === 0 ? 'in unison' : one.semitones === 12 ? 'an octave apart' : `${one.semitones / 12} octaves apart`}`,
          )
          .join('; ')}
      </Fact>
      <Fact when={shapes.length > 0} title="Octave shapes that move">
        {shapes
          .map(
            (one) =>
              `${one.from} to ${one.to}: ${one.frets === 0 ? 'same fret' : `${signed(one.frets)} frets`} (was ${one.reference === 0 ? 'same fret' : signed(one.reference)})`,
          )
          .join('; ')}
      </Fact>
    </section>
  );
}

function Fact({
  when,
  title,
  children,
}: {
  readonly when: boolean;
  readonly title: string;
  readonly children: ReactNode;
}) {
  return when ? (
    <p className="mt-2 text-[15px]">
      <b>{title}:</b> {children}.
    </p>
  ) : null;
}

function Grips({ setup }: { readonly setup: Setup }) {
  const schools = useSchools();
  const grips = gripMeanings(setup, null, schools.notes);
  if (grips.length === 0) return null;
  const changed = grips.filter((grip) => grip.moved === null);
  return (
    <section aria-label="Grips">
      <h2 className="text-xl">Grips you know, and what they are here</h2>
      <p className="text-[15px] text-soft">
        {changed.length === 0
          ? 'Every grip keeps its shape.'
          : `${changed.length} of ${grips.length} are other chords now.`}
      </p>
      <ul className="mt-1 grid grid-cols-2 gap-x-8 text-[15px]">
        {grips.map((grip) => (
          <li
            key={grip.name}
            className="flex items-baseline gap-2 border-t border-rule py-1 max-[899px]:flex-wrap max-[899px]:gap-y-0"
          >
            <span className="w-28 shrink-0 leading-tight">{grip.name}</span>
            <span className="w-20 shrink-0 font-figures text-soft">{grip.frets.map((f) => f ?? 'x').join('')}</span>
            {grip.moved === 0 ? (
              <span className="text-soft">stays</span>
            ) : (
              <b className={grip.moved === null ? 'text-question' : ''}>
                {grip.sounds ?? grip.pitches.map((midi) => noteName(midi, { naming: schools.notes })).join(' ')}
                {grip.odd.length > 0 && grip.odd.length < 3 ? (
                  <span className="font-normal text-soft"> (string {grip.odd.join(', ')} differs)</span>
                ) : null}
              </b>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Same({
  setup,
  start,
  name,
}: {
  readonly setup: Setup;
  readonly start: readonly number[];
  readonly name: string;
}) {
  const same = sameStrings(start, setup.open).filter((string) => !setup.absent.includes(string));
  return (
    <p className="text-[15px]">
      {same.length === 0 ? (
        `No string is the same as in ${name}: no grip carries over as it sounds.`
      ) : same.length === setup.open.length ? (
        `All strings are as in ${name}.`
      ) : (
        <>
          <b>Strings {same.join(' ')}</b> are as in {name}: grips on those alone carry over.
        </>
      )}
    </p>
  );
}

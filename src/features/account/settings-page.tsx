'use client';

import { useWidth } from '@/ui/use-width';
import { useState, useTransition, type ReactNode } from 'react';
import { callNote } from '@/core/callout';
import { must } from '@/core/base';
import { makeSetup, openPitch } from '@/core/instrument';
import { frequency, MAX_A4, MIN_A4 } from '@/core/pitch';
import {
  CAPO_PLACE_WORDS,
  CAPO_TUNING_WORDS,
  countingWords,
  keyLabels,
  pitchLabel,
  stringWordsBy,
  type Schools,
} from '@/core/schools';
import { strokesOf } from '@/core/rhythm';
import { makeEvent, makeNote, makePlace, makeRiff } from '@/core/score';
import { quarter } from '@/core/time';
import { SettingsFrame } from './settings-frame';
import { CapoPlace } from '@/ui/draw/capo-place';
import { Neck } from '@/ui/draw/neck';
import { SelectField, TextField } from '@/ui/field';
import { useSchools, useSetSchools } from '@/ui/schools';
import { useToast } from '@/ui/toast';
import { saveSchoolsAction } from './actions';

/** A guitar tuned down with a capo: every setting shows on it. All strings alike, or no shape has the key's name. */
const CAPO = 3;
const SETUP = must(makeSetup({ instrument: 'guitar-6', tuning: 'down-2', capo: CAPO })).setup;
const FRET = 5;
const NOTE = makeNote('example', openPitch(SETUP, 6) + FRET, 'instructor', {
  place: makePlace(6, FRET, 'instructor', { finger: 3 }),
});
const KEY = { tonic: 'F', mode: 'minor' } as const;

/** The instructor's schools. Each shows what it does on one example, and holds everywhere at once. */
export function SettingsPage() {
  const schools = useSchools();
  const setSchools = useSetSchools();
  const toast = useToast();
  const [a4, setA4] = useState(String(schools.a4));
  const [, begin] = useTransition();
  const change = (part: Partial<Schools>): void => {
    const before = schools;
    const next = { ...schools, ...part };
    setSchools(next);
    begin(async () => {
      try {
        const kept = await saveSchoolsAction(next);
        if (kept) return;
      } catch {
        // The server did not answer: said below, with the setting as it was.
      }
      setSchools(before);
      toast('The setting could not be kept: the server did not answer. It is as before.');
    });
  };
  const pitch = Number(a4.replace(',', '.'));
  const a4Fault = pitch >= MIN_A4 && pitch <= MAX_A4 ? null : `Give ${MIN_A4} to ${MAX_A4} hertz.`;
  const note = callNote(NOTE, SETUP, { schools, key: KEY });
  return (
    <SettingsFrame
      at="/settings"
      title="Settings"
      lead="Your school: how strings, keys, frets and notes are named and counted. A change holds at once in drawings, calls, sheets and call-outs."
    >
      <div className="grid grid-cols-[minmax(0,5fr)_minmax(0,6fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
        <div className="divide-y divide-rule border-y border-rule">
          <NamingChoices {...{ schools, change }} />
          <PlayingChoices {...{ schools, change }} />
          <Row example={a4Fault ? '' : `E4 is ${frequency(64, 0, pitch).toFixed(2)} Hz`}>
            <TextField
              label="Reference pitch, A4 in hertz"
              inputMode="decimal"
              value={a4}
              error={a4Fault}
              onChange={(event) => setA4(event.target.value)}
              onBlur={() => {
                if (!a4Fault && pitch !== schools.a4) change({ a4: pitch });
              }}
            />
          </Row>
        </div>
        <Example schools={schools} note={note} />
      </div>
    </SettingsFrame>
  );
}

interface ChoicesProps {
  readonly schools: Schools;
  readonly change: (some: Partial<Schools>) => void;
}

/** How strings, keys and frets are named and counted. */
function NamingChoices({ schools, change }: ChoicesProps) {
  return (
    <>
      <Choice
        label="Naming strings"
        value={schools.strings}
        options={[
          ['numbers-nominal', 'numbers and letters'],
          ['numbers', 'numbers'],
          ['nominal', 'letters as in standard tuning'],
          ['sounding', 'letters as they sound'],
        ]}
        onChange={(strings) => change({ strings })}
        example={stringWordsBy(SETUP, 6, schools, KEY)}
      />
      <Choice
        label="A retuned string"
        value={schools.retuned}
        options={[
          ['nominal', 'its letter, sound in brackets'],
          ['sounding', 'is called by its sound'],
        ]}
        onChange={(retuned) => change({ retuned })}
        example={stringWordsBy(SETUP, 6, schools, KEY)}
      />
      <Choice
        label="Keys and chords"
        value={schools.keys}
        options={[
          ['both', 'shape and sound'],
          ['shape', 'shape only'],
          ['sound', 'sound only'],
        ]}
        onChange={(keys) => change({ keys })}
        example={keyLabels(KEY, SETUP, schools).words}
      />
      <Choice
        label="First of the two names"
        value={schools.first}
        options={[
          ['shape', 'shape'],
          ['sound', 'sound'],
        ]}
        onChange={(first) => change({ first })}
        example={keyLabels(KEY, SETUP, schools).words}
      />
      <Choice
        label="Frets with a capo"
        value={schools.frets}
        options={[
          ['capo', 'counted from the capo'],
          ['nut', 'counted from the nut'],
        ]}
        onChange={(frets) => change({ frets })}
        example={countingWords(SETUP, schools.frets) ?? ''}
      />
    </>
  );
}

/** How notes are named, and what is usual in tuning, playing and writing. */
function PlayingChoices({ schools, change }: ChoicesProps) {
  return (
    <>
      <Choice
        label="Note names"
        value={schools.notes}
        options={[
          ['letters', 'letters'],
          ['solfege', 'Do Re Mi'],
          ['german', 'German H'],
        ]}
        onChange={(notes) => change({ notes })}
        example={[59, 58, 64].map((m) => pitchLabel(m, schools.notes)).join(', ')}
      />
      <Choice
        label="Tuning with a capo"
        value={schools.capoTuning}
        options={[
          ['capo-on', 'capo on, then tune'],
          ['open', 'tune open, then capo'],
        ]}
        onChange={(capoTuning) => change({ capoTuning })}
        example={CAPO_TUNING_WORDS[schools.capoTuning]}
      />
      <Choice
        label="Place of the capo"
        value={schools.capoPlace}
        options={[
          ['anywhere', 'anywhere behind the wire'],
          ['behind', 'close behind the wire'],
          ['middle', 'middle of the space'],
        ]}
        onChange={(capoPlace) => change({ capoPlace })}
        example={CAPO_PLACE_WORDS[schools.capoPlace]}
      />
      <Choice
        label="Hands"
        value={schools.handed}
        options={[
          ['right', 'right-handed'],
          ['left', 'left-handed, necks mirrored'],
        ]}
        onChange={(handed) => change({ handed })}
        example={schools.handed === 'left' ? 'The nut lies at the right.' : 'The nut lies at the left.'}
      />
      <Choice
        label="Strokes"
        value={schools.picking}
        options={[
          ['alternate', 'alternate, by the grid'],
          ['by-note', 'alternate, by the note'],
          ['economy', 'economy'],
          ['down', 'all down'],
          ['off-up', 'off the beat up'],
          ['fingers', 'fingers'],
          ['slap', 'slap and pop'],
        ]}
        onChange={(picking) => change({ picking })}
        example={`1 e & a 2 &: ${strokesShown(schools.picking)}`}
      />
      <Choice
        label="Staff of a detuned instrument"
        value={schools.staff}
        options={[
          ['sounding', 'at sounding pitch'],
          ['shape', 'at the pitch of the shape'],
        ]}
        onChange={(staff) => change({ staff })}
        example={`The open thick string is written ${pitchLabel(schools.staff === 'sounding' ? 50 : 52, schools.notes)}, an octave above.`}
      />
      <Choice
        label="Swing on paper"
        value={schools.swing}
        options={[
          ['mark', 'straight, with a mark'],
          ['triplets', 'written out as triplets'],
        ]}
        onChange={(swing) => change({ swing })}
        example={
          schools.swing === 'mark'
            ? 'Eighths stay eighths; the head says swing.'
            : 'A pair of eighths becomes a quarter and an eighth of a triplet.'
        }
      />
    </>
  );
}

/** What the choices come to, on one neck. */
function Example({ schools, note }: { readonly schools: Schools; readonly note: string }) {
  const [measure, width] = useWidth();
  return (
    <section aria-label="Example" className="flex flex-col gap-4">
      <h2 className="text-xl">On an example</h2>
      <p>Guitar a whole step down with a capo at fret {CAPO}. The note asked for is:</p>
      <p className="border-l-4 border-proposed pl-3 text-lg">
        <b>{note}</b>
      </p>
      <div ref={measure}>
        {width > 0 ? (
          <Neck
            setup={SETUP}
            stringNames={[1, 2, 3, 4, 5, 6].map((s) => {
              const words = stringWordsBy(SETUP, s, schools, KEY);
              const open = words.indexOf('(');
              return [String(s), open < 0 ? '' : (words.slice(open + 1, -1).split(',')[0] ?? '')] as const;
            })}
            places={[{ string: 6, fretFromNut: CAPO + FRET, kind: 'locked', text: '3', title: 'the note' }]}
            hand={{ from: CAPO + 3, to: CAPO + 6 }}
            width={Math.min(560, width)}
            label={`Neck: ${note}`}
            mirrored={schools.handed === 'left'}
            counting={schools.frets}
          />
        ) : null}
      </div>
      <p>
        The piece is in <b>{keyLabels(KEY, SETUP, schools).words}</b>.
      </p>
      <figure>
        <CapoPlace fret={CAPO} scaleMm={SETUP.instrument.scaleMm} place={schools.capoPlace} strings={6} held={null} />
        <figcaption className="text-sm text-soft">{CAPO_PLACE_WORDS[schools.capoPlace]}</figcaption>
      </figure>
    </section>
  );
}

/** What a school makes of a few strokes, in words. */
function strokesShown(picking: Schools['picking']): string {
  const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
  const at = [quarter(0), quarter(1, 4), quarter(1, 2), quarter(3, 4), quarter(1), quarter(3, 2)];
  const riff = makeRiff('r', 'r', {
    events: at.map((a, i) =>
      makeEvent(`e${i}`, a, quarter(1, 4), [
        makeNote(`n${i}`, 45 + (i > 2 ? 7 : 0), 'instructor', {
          place: i > 2 ? makePlace(4, 2, 'instructor') : makePlace(5, 0, 'instructor'),
        }),
      ]),
    ),
  });
  return strokesOf(riff, setup, picking)
    .map((struck) => struck.stroke ?? '–')
    .join(' ');
}

function Row({ example, children }: { readonly example: string; readonly children: ReactNode }) {
  return (
    <div className="grid grid-cols-[15rem_1fr] items-end gap-5 max-[899px]:grid-cols-1 py-2">
      {children}
      <p className="pb-1.5 text-[15px] text-soft">{example}</p>
    </div>
  );
}

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly (readonly [T, string])[];
  readonly onChange: (value: T) => void;
  readonly example: string;
}

function Choice<T extends string>({ label, value, options, onChange, example }: ChoiceProps<T>) {
  return (
    <Row example={example}>
      <SelectField
        label={label}
        value={value}
        onChange={(event) => {
          const found = options.find(([one]) => one === event.target.value);
          if (found) onChange(found[0]);
        }}
      >
        {options.map(([one, name]) => (
          <option key={one} value={one}>
            {name}
          </option>
        ))}
      </SelectField>
    </Row>
  );
}

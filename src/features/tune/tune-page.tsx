'use client';

import equal from 'fast-deep-equal';
import { Mic, Waves } from 'lucide-react';
import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { Setup } from '@/core/instrument';
import { capoWords, stringNumbers } from '@/core/instrument';
import { CAPO_TUNING_WORDS, pitchLabel } from '@/core/schools';
import {
  setCapo,
  withCapos,
  simulate,
  soundsNow,
  targetsOf,
  turnPeg,
  type ReadingKind,
  type Shown,
  type SimulatedInstrument,
  type Target,
  type TunerReading,
} from '@/core/tuner';
import { RackFrame } from '@/features/rack/frame';
import { useRack } from '@/features/rack/rack-context';
import { draftOf, FIRST_DRAFT, madeOf, type SetupDraft } from '@/features/setup/draft';
import { SetupFields } from '@/features/setup/setup-fields';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { SelectField } from '@/ui/field';
import { useSchools } from '@/ui/schools';
import { useToast } from '@/ui/toast';
import { TunerLog } from './tuner-log';
import { microphoneFault, TunerSession, type Source } from './tuner-session';
import { Needle } from './needle';
import { StringRow } from './string-row';

/** How the strings are sounded: as they lie, or at the 12th fret for the octave check. */
type Mode = 'open' | 'harmonic12' | 'stopped12';

interface Props {
  readonly start: Partial<SetupDraft> | null;
  readonly startSetup: Setup | null;
}

const seconds = (): number => performance.now() / 1000;

/** Tuning up: reference tones, the tuner over microphone or simulated instrument, and the log. */
export function TunePage({ start, startSetup }: Props) {
  const rack = useRack();
  const schools = useSchools();
  const [draft, setDraft] = useState<SetupDraft>(() =>
    startSetup ? draftOf(startSetup) : { ...FIRST_DRAFT, ...start },
  );
  const [choosing, setChoosing] = useState(false);
  const [last, setLast] = useState<Setup | null>(startSetup);
  const made = madeOf(draft, rack);
  const setup = made.ok ? made.value.setup : last;
  return (
    <RackFrame
      at="/rack/tune"
      title="Tune up"
      aside={
        setup ? (
          <div className="flex items-center gap-4">
            <p className="text-right">
              <b>{setup.instrument.name}</b>
              <br />
              <span className="font-figures text-[15px] text-soft">
                {stringNumbers(setup)
                  .map((string) => pitchLabel(setup.open[setup.open.length - string] ?? 0, schools.notes))
                  .join(' ')}
                {setup.capos.length > 0 ? `, capo ${capoWords(setup)}` : ''}
              </span>
            </p>
            <Button onClick={() => setChoosing(true)}>Another set-up</Button>
          </div>
        ) : null
      }
    >
      {setup ? (
        <Tuner key={JSON.stringify({ ...setup, capos: [] })} setup={setup} a4={schools.a4} />
      ) : (
        <SetupFields draft={draft} onChange={setDraft} />
      )}
      <Dialog
        open={choosing}
        onOpenChange={(open) => {
          setChoosing(open);
          if (!open && made.ok) setLast(made.value.setup);
        }}
        title="What is tuned"
        wide
      >
        <SetupFields draft={draft} onChange={setDraft} />
        <Button tone="yours" className="mt-5" disabled={!made.ok} onClick={() => setChoosing(false)}>
          Tune this
        </Button>
      </Dialog>
    </RackFrame>
  );
}

/** What the strings are tuned to as they are sounded: open or at the capo, or an octave higher at fret 12. */
function targetsIn(mode: Mode, setup: Setup, capoOn: boolean, a4: number): readonly Target[] {
  if (mode === 'open') return targetsOf(setup, capoOn, a4);
  return targetsOf({ ...setup, capos: [] }, false, a4).map((target) => ({
    ...target,
    midi: target.midi + 12,
    hz: target.hz * 2,
  }));
}

/** A session that lives as long as the page, aimed at its targets. */
function useTunerSession(hear: (next: Shown | null) => void, targetText: string): RefObject<TunerSession | null> {
  const session = useRef<TunerSession | null>(null);
  useEffect(() => {
    const made = new TunerSession(hear);
    session.current = made;
    return () => {
      made.end();
      session.current = null;
    };
  }, [hear]);
  useEffect(() => {
    session.current?.aim(JSON.parse(targetText) as Target[]);
  }, [targetText]);
  return session;
}

function Tuner({ setup, a4 }: { readonly setup: Setup; readonly a4: number }) {
  const schools = useSchools();
  const toast = useToast();
  const [source, setSource] = useState<Source>('none');
  const [shown, setShown] = useState<Shown | null>(null);
  const [done, setDone] = useState<ReadonlyMap<number, number>>(new Map());
  const [capoOn, setCapoOn] = useState(setup.capos.length > 0 && schools.capoTuning === 'capo-on');
  const [mode, setMode] = useState<Mode>('open');
  const [fixed, setFixed] = useState<number | null>(null);
  const [aloud, setAloud] = useState(true);
  const [sim, setSim] = useState<SimulatedInstrument | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [readings, setReadings] = useState<readonly TunerReading[] | null>(null);
  // A capo put on after tuning lies on the same instrument, whose pegs stand where they were turned to.
  const [capos, setCapos] = useState(setup.capos);
  if (!equal(capos, setup.capos)) {
    setCapos(setup.capos);
    setCapoOn(setup.capos.length > 0);
    if (sim) setSim(withCapos(sim, setup.capos, setup.capos.length > 0));
    setShown(null);
    setDone(new Map());
  }
  const targets = targetsIn(mode, setup, capoOn, a4);
  const targetText = JSON.stringify(targets);

  const hear = useCallback((next: Shown | null) => {
    setShown(next);
    if (next?.string && next.steady) setDone((one) => new Map(one).set(next.string as number, next.cents));
  }, []);
  const session = useTunerSession(hear, targetText);

  const forget = (): void => {
    setShown(null);
    setDone(new Map());
  };
  const listen = async (): Promise<void> => {
    setFault(null);
    try {
      await session.current?.listen();
      setSource('microphone');
      setSim(null);
      forget();
    } catch (reason) {
      setFault(microphoneFault(reason));
    }
  };
  const begin = async (): Promise<void> => {
    setFault(null);
    await session.current?.simulate();
    // A new instrument each time it is taken in hand, out of tune in another way.
    setSim(setCapo(simulate(setup, a4, Math.floor(seconds() * 1000), seconds()), capoOn));
    setSource('simulated');
    forget();
  };
  const strike = (string: number, instrument: SimulatedInstrument | null): void => {
    if (instrument)
      void session.current?.strike(soundsNow(instrument, string, seconds(), mode === 'open' ? 'open' : mode).hz, aloud);
  };
  const turn = (string: number, cents: number): void => {
    if (!sim) return;
    const turned = turnPeg(sim, string, cents, seconds());
    if (!turned.ok) {
      toast(turned.error.words);
      return;
    }
    setSim(turned.value);
    strike(string, turned.value);
  };
  const flipCapo = (): void => {
    setCapoOn(!capoOn);
    if (sim) setSim(setCapo(sim, !capoOn));
    forget();
  };
  const kind: ReadingKind = mode === 'open' ? (capoOn ? 'capo' : 'open') : mode;
  const inTune = targets.filter((target) => Math.abs(done.get(target.string) ?? 99) <= 4).length;
  return (
    <div className="flex flex-col gap-6">
      <section
        aria-label="Tuner"
        className="grid grid-cols-[minmax(0,1fr)_17rem] gap-8 max-[899px]:grid-cols-1 max-[899px]:gap-5 border-b border-rule pb-5"
      >
        <div>
          <Needle shown={shown} setup={setup} targets={targets} source={source} />
        </div>
        <div className="flex flex-col gap-2">
          <Button
            tone={source === 'microphone' ? 'plain' : 'yours'}
            aria-pressed={source === 'microphone'}
            onClick={() => (source === 'microphone' ? (session.current?.stop(), setSource('none')) : void listen())}
          >
            <Mic size={18} aria-hidden /> {source === 'microphone' ? 'Stop listening' : 'Listen to my instrument'}
          </Button>
          <Button
            aria-pressed={source === 'simulated'}
            onClick={() =>
              source === 'simulated' ? (session.current?.stop(), setSource('none'), setSim(null)) : void begin()
            }
          >
            <Waves size={18} aria-hidden />{' '}
            {source === 'simulated' ? 'Put the simulated one away' : 'Simulated instrument'}
          </Button>
          {source === 'simulated' ? (
            <label className="flex items-center gap-2 text-[15px]">
              <input type="checkbox" checked={aloud} onChange={(event) => setAloud(event.target.checked)} /> Let it
              sound aloud
            </label>
          ) : null}
          {setup.capos.length > 0 ? (
            <Button aria-pressed={capoOn} onClick={flipCapo}>
              {capoOn ? 'Capo is on: take it off' : 'Capo is off: put it on'}
            </Button>
          ) : null}
          <SelectField
            label="Strings sounded"
            value={mode}
            onChange={(event) => {
              setMode(
                event.target.value === 'harmonic12'
                  ? 'harmonic12'
                  : event.target.value === 'stopped12'
                    ? 'stopped12'
                    : 'open',
              );
              forget();
            }}
          >
            <option value="open">as they lie</option>
            <option value="harmonic12">12th-fret harmonic</option>
            <option value="stopped12">stopped at the 12th fret</option>
          </SelectField>
          {fault ? (
            <p role="alert" className="text-sm font-semibold text-trouble">
              {fault}
            </p>
          ) : null}
          {setup.capos.length > 0 && mode === 'open' ? (
            <p className="text-sm text-soft">{CAPO_TUNING_WORDS[schools.capoTuning]}</p>
          ) : null}
        </div>
      </section>
      <div className="grid grid-cols-[minmax(0,7fr)_minmax(0,5fr)] gap-8 max-[899px]:grid-cols-1 max-[899px]:gap-5">
        <section aria-label="Strings">
          <div className="flex items-baseline gap-4">
            <h2 className="text-xl">Strings, thick to thin</h2>
            <p aria-live="polite" className="text-[15px] text-soft">
              {source === 'none'
                ? 'Reference tones are ready; for the needle choose what it hears.'
                : `${inTune} of ${targets.length} in tune`}
            </p>
          </div>
          <ul className="mt-1">
            {targets.map((one) => (
              <StringRow
                key={one.string}
                target={one}
                setup={setup}
                here={shown?.string === one.string}
                cents={done.get(one.string) ?? null}
                fixed={fixed === one.string}
                onFix={() => {
                  const next = fixed === one.string ? null : one.string;
                  setFixed(next);
                  session.current?.fix(next);
                }}
                onTone={() => void session.current?.tone(one.hz)}
                pegs={sim ? { strike: () => strike(one.string, sim), turn: (c) => turn(one.string, c) } : null}
              />
            ))}
          </ul>
          {sim ? (
            <p className="mt-2 text-sm text-soft">
              On a string’s buttons, the arrow keys turn its peg: up and down by a cent, left and right by ten; the
              space bar strikes. Raised strings settle a little flat: strike again after a while.
            </p>
          ) : null}
          <p className="mt-2 text-sm text-soft">
            Tune from below up to the pitch. A string near its limit can snap: keep the face away, turn slowly.
          </p>
        </section>
        <TunerLog
          instrument={setup.instrument.id}
          readings={readings}
          onReadings={setReadings}
          ready={
            shown?.steady && shown.string !== null
              ? {
                  string: shown.string,
                  kind,
                  capo: kind === 'capo' ? Math.max(...setup.capos.map((capo) => capo.fret)) : 0,
                  cents: shown.cents,
                }
              : null
          }
        />
      </div>
    </div>
  );
}

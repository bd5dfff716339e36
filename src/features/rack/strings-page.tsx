'use client';

import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import {
  bendEffort,
  lengthOf,
  nutOf,
  stringNumbers,
  suggestGauges,
  tensionReport,
  tuningOf,
  TUNINGS,
  type BendEase,
  type Setup,
} from '@/core/instrument';
import { frequency } from '@/core/pitch';
import { FIRST_DRAFT, madeOf, type SetupDraft } from '@/features/setup/draft';
import { SetupFields } from '@/features/setup/setup-fields';
import { Button } from '@/ui/button';
import { LineMark, TensionChart } from '@/ui/draw/tension-chart';
import { SelectField, TextField } from '@/ui/field';
import { useSchools } from '@/ui/schools';
import { useWidth } from '@/ui/use-width';
import { RackFrame } from './frame';
import { useRack } from './rack-context';
import { TensionTable } from './tension-table';

const MOST = 4;

/** Strings and what they bear: set-ups side by side, gauges that suit, and what a bend asks of the hand. */
export function StringsPage() {
  const rack = useRack();
  const schools = useSchools();
  const [drafts, setDrafts] = useState<readonly SetupDraft[]>([FIRST_DRAFT, { ...FIRST_DRAFT, tuning: 'drop-c' }]);
  const [at, setAt] = useState(1);
  const [box, width] = useWidth();
  const setups = drafts.map((one) => {
    const made = madeOf(one, rack);
    return made.ok ? made.value.setup : null;
  });
  const draft = drafts[at] ?? FIRST_DRAFT;
  const setup = setups[at] ?? null;
  const name = (setup: Setup | null, one: SetupDraft): string =>
    setup
      ? `${setup.instrument.name}, ${tuningOf(setup.instrument, setup.open, [...TUNINGS, ...rack.tunings])?.name ?? one.tuning}`
      : 'not yet right';
  const lines = setups.flatMap((setup, i) =>
    setup
      ? [
          {
            index: i,
            name: name(setup, drafts[i] ?? FIRST_DRAFT),
            newtons: tensionReport(setup.instrument, setup.open, setup.absent, schools.a4)
              .strings.filter((row) => !row.partner)
              .map((row) => ({ string: row.string, newtons: row.newtons })),
          },
        ]
      : [],
  );
  return (
    <RackFrame
      at="/rack/strings"
      title="Strings"
      lead="Tension string by string against what each is made for, gauges that would keep it, and the force a bend takes."
    >
      <div className="grid grid-cols-[minmax(0,4fr)_minmax(0,6fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
        <div className="flex flex-col gap-4">
          <ul className="flex flex-col" aria-label="Set-ups compared">
            {drafts.map((one, i) => (
              <li
                key={i}
                className={`flex items-center gap-2 border-t border-rule py-1 ${i === at ? 'bg-chosen/40' : ''}`}
              >
                <LineMark index={i} />
                <button
                  type="button"
                  aria-pressed={i === at}
                  className="min-w-0 flex-1 truncate text-left font-semibold underline-offset-4 hover:underline"
                  onClick={() => setAt(i)}
                >
                  {name(setups[i] ?? null, one)}
                </button>
                {drafts.length > 1 ? (
                  <Button
                    tone="quiet"
                    size="icon"
                    className="size-7"
                    aria-label={`Leave out set-up ${i + 1}`}
                    onClick={() => {
                      setDrafts(drafts.filter((_, index) => index !== i));
                      setAt(0);
                    }}
                  >
                    <X size={16} aria-hidden />
                  </Button>
                ) : null}
              </li>
            ))}
          </ul>
          {drafts.length < MOST ? (
            <Button
              size="small"
              className="self-start"
              onClick={() => {
                setDrafts([...drafts, draft]);
                setAt(drafts.length);
              }}
            >
              <Plus size={16} aria-hidden /> Set-up to compare
            </Button>
          ) : null}
          <SetupFields draft={draft} onChange={(next) => setDrafts(drafts.map((one, i) => (i === at ? next : one)))} />
        </div>
        <div ref={box} className="min-w-0">
          {width > 0 ? (
            <TensionChart lines={lines} floppy={setup?.instrument.kind === 'bass' ? 110 : 45} width={width} />
          ) : null}
          {setup ? <Gauges setup={setup} /> : null}
          <Bends
            setups={setups.flatMap((setup, i) =>
              setup ? [{ setup: setup, index: i, name: name(setup, drafts[i] ?? FIRST_DRAFT) }] : [],
            )}
          />
        </div>
      </div>
      {setup ? (
        <section aria-label="Tension" className="mt-6">
          <h2 className="text-xl">{setup.instrument.name}, string by string</h2>
          <TensionTable instrument={setup.instrument} open={setup.open} absent={setup.absent} />
        </section>
      ) : null}
    </RackFrame>
  );
}

function Gauges({ setup }: { readonly setup: Setup }) {
  const suggested = suggestGauges(setup.instrument, setup.open, setup.absent);
  const change = suggested.filter((one) => one.change);
  if (suggested.length === 0)
    return (
      <p className="mt-2 text-[15px] text-soft">
        Nylon sets are sold by tension: take one grade higher for a lower tuning.
      </p>
    );
  return (
    <section aria-label="Suggested gauges" className="mt-3">
      <h2 className="text-xl">Gauges that keep the feel</h2>
      {change.length === 0 ? (
        <p className="text-[15px]">The strings that are on are the nearest already.</p>
      ) : (
        <>
          <ul className="mt-1 flex flex-wrap gap-x-6 gap-y-1 text-[15px]">
            {suggested.map((one) => (
              <li key={one.string}>
                <b className="font-figures">{one.string}</b>{' '}
                <span className={`font-figures ${one.change ? 'font-bold text-yours' : 'text-soft'}`}>
                  .{String(one.thousandths).replace('.', '').padStart(3, '0')}
                </span>
                <span className="text-soft">
                  {' '}
                  {one.gaugeMm.toFixed(2)} mm {one.kind}, {one.newtons.toFixed(0)} N
                </span>
              </li>
            ))}
          </ul>
          <p className="mt-1 text-sm text-soft">
            Heavier strings may need wider slots and another height: a set-up by a qualified repairer.
          </p>
        </>
      )}
    </section>
  );
}

const EASE: Readonly<Record<BendEase, string>> = {
  easy: 'text-proposed',
  usual: 'text-ink',
  hard: 'text-question',
  'very hard': 'text-trouble',
};

function Bends({
  setups,
}: {
  readonly setups: readonly { readonly setup: Setup; readonly index: number; readonly name: string }[];
}) {
  const [string, setString] = useState('2');
  const [fret, setFret] = useState('7');
  const [cents, setCents] = useState('200');
  const schools = useSchools();
  const at = Number(fret);
  const frets = [...new Set([Math.max(1, at - 5), at, at + 5])].filter((f) => Number.isInteger(f) && f <= 24);
  const effort = (setup: Setup, f: number) => {
    const s = Number(string);
    const make = setup.instrument.strings[setup.open.length - s];
    if (!make || !stringNumbers(setup).includes(s)) return null;
    return bendEffort({
      make,
      scaleMm: lengthOf(setup.instrument, s),
      openHz: frequency(setup.open[setup.open.length - s] ?? 0, 0, schools.a4),
      fret: f,
      nut: nutOf(setup, s),
      cents: Number(cents),
    });
  };
  const wrong = setups.map(({ setup }) => effort(setup, at)).find((made) => made && !made.ok);
  return (
    <section aria-label="Bends" className="mt-5">
      <h2 className="text-xl">What a bend asks</h2>
      <div className="mt-1 grid grid-cols-[8rem_9rem_1fr] gap-3 max-[899px]:grid-cols-1">
        <SelectField label="String" value={string} onChange={(event) => setString(event.target.value)}>
          {Array.from({ length: Math.max(...setups.map((one) => one.setup.open.length), 4) }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Fret, from the nut"
          inputMode="numeric"
          value={fret}
          onChange={(event) => setFret(event.target.value)}
        />
        <SelectField label="By" value={cents} onChange={(event) => setCents(event.target.value)}>
          <option value="50">a quarter tone</option>
          <option value="100">a half step</option>
          <option value="200">a whole step</option>
          <option value="300">a step and a half</option>
          <option value="400">two whole steps</option>
        </SelectField>
      </div>
      {wrong && !wrong.ok ? (
        <p role="alert" className="mt-1 text-sm font-semibold text-trouble">
          {wrong.error.words}
        </p>
      ) : null}
      <table className="mt-2 w-full text-[15px]">
        <thead className="text-left text-sm text-soft">
          <tr>
            <th className="font-semibold">Set-up</th>
            {frets.map((f) => (
              <th key={f} className="w-40 font-semibold">
                fret {f}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {setups.map(({ setup, index, name }) => (
            <tr key={index} className="border-t border-rule">
              <td className="max-w-0 truncate py-1 pr-3">
                <LineMark index={index} /> <span className="sr-only">{name}</span>
              </td>
              {frets.map((f) => {
                const made = effort(setup, f);
                return (
                  <td key={f} className="font-figures">
                    {made?.ok ? (
                      <>
                        <b>{made.value.newtons.toFixed(1)} N</b>{' '}
                        <span className={`font-text font-semibold ${EASE[made.value.ease]}`}>{made.value.ease}</span>
                        <span className="text-soft"> {made.value.pushMm.toFixed(0)} mm</span>
                      </>
                    ) : (
                      '–'
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-soft">
        Force at the fingertip and how far the string is pushed. Wide bends near the nut on heavy strings strain the
        hand: stop at pain, use lighter strings, see a clinician if it lasts.
      </p>
    </section>
  );
}

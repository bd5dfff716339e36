'use client';

import { Link } from '@/ui/link';
import { useState } from 'react';
import { capoWords, dayOrder, spellTuning, tuningPitches, tuningsFor, type DayRoute } from '@/core/instrument';
import type { PartSetup } from '@/server/repositories/pieces';
import { SelectField } from '@/ui/field';
import { RackFrame } from './frame';
import { useRack } from './rack-context';
import { RetuneSteps } from './retune-steps';

/** The order of a day's pieces with least retuning, for each instrument by itself. */
export function DayPage({ parts }: { readonly parts: readonly PartSetup[] }) {
  const rack = useRack();
  const [out, setOut] = useState<readonly string[]>([]);
  const [start, setStart] = useState<Readonly<Record<string, string>>>({});
  const chosen = parts.filter((entry) => !out.includes(entry.id));
  const instruments = [...new Map(parts.map((entry) => [entry.setup.instrument.id, entry.setup.instrument])).values()];
  const starts: Record<string, readonly number[]> = {};
  for (const instrument of instruments) {
    const tuning = tuningsFor(instrument, rack.tunings).find((tuning) => tuning.id === start[instrument.id]);
    if (tuning) starts[instrument.id] = tuningPitches(tuning);
  }
  const routes = dayOrder(
    chosen.map((entry) => ({
      id: entry.id,
      title: entry.title,
      instrument: entry.setup.instrument,
      open: entry.setup.open,
      absent: entry.setup.absent,
    })),
    starts,
  );
  return (
    <RackFrame
      at="/rack/day"
      title="The day"
      lead="Which pieces today? The order that turns the fewest pegs, instrument by instrument, and what to turn between."
    >
      {parts.length === 0 ? (
        <p className="py-16 text-center text-lg text-soft">The shelf has no parts yet.</p>
      ) : (
        <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,5fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
          <fieldset className="flex flex-col gap-1.5">
            <legend className="mb-1 text-xl font-semibold">Pieces</legend>
            {parts.map((entry) => (
              <label key={entry.id} htmlFor={`day-${entry.id}`} className="flex items-baseline gap-2 font-semibold">
                <input
                  id={`day-${entry.id}`}
                  type="checkbox"
                  checked={!out.includes(entry.id)}
                  onChange={(event) =>
                    setOut(event.target.checked ? out.filter((x) => x !== entry.id) : [...out, entry.id])
                  }
                />
                {entry.title}
                <span className="font-normal text-soft">
                  {entry.part}, {entry.setup.instrument.name}
                </span>
              </label>
            ))}
          </fieldset>
          <div className="flex flex-col gap-8">
            {routes.map((route) => (
              <Route
                key={route.instrument.id}
                route={route}
                parts={parts}
                start={start[route.instrument.id] ?? ''}
                onStart={(id) => setStart({ ...start, [route.instrument.id]: id })}
              />
            ))}
          </div>
        </div>
      )}
    </RackFrame>
  );
}

function Route({
  route,
  parts,
  start,
  onStart,
}: {
  readonly route: DayRoute;
  readonly parts: readonly PartSetup[];
  readonly start: string;
  readonly onStart: (tuning: string) => void;
}) {
  const rack = useRack();
  const saved = route.asGiven.moved - route.moved;
  return (
    <section aria-label={route.instrument.name}>
      <div className="flex items-end gap-6 border-b border-line pb-2">
        <div>
          <h2 className="text-2xl">{route.instrument.name}</h2>
          <p className="text-[15px] text-soft">
            {route.moved === 0
              ? 'No peg to turn'
              : `${route.moved} peg${route.moved === 1 ? '' : 's'} to turn, ${route.semitones} semitones in all`}
            {saved > 0 ? `; as listed it would be ${route.asGiven.moved}` : ''}
            {route.exact ? '' : '; so many tunings are ordered step by step, not by trying all'}.
          </p>
        </div>
        <div className="ml-auto w-72">
          <SelectField label="Tuned in the morning to" value={start} onChange={(event) => onStart(event.target.value)}>
            <option value="">whatever is best to begin with</option>
            {tuningsFor(route.instrument, rack.tunings).map((tuning) => (
              <option key={tuning.id} value={tuning.id}>
                {tuning.name}
              </option>
            ))}
          </SelectField>
        </div>
      </div>
      <ol>
        {route.stops.map(({ item, plan }) => {
          const part = parts.find((entry) => entry.id === item.id);
          return part ? (
            <li key={item.id} className="border-b border-rule py-2">
              {plan.steps.length > 0 ? (
                <div className="mb-1 ml-6 border-l-4 border-yours pl-3">
                  <RetuneSteps plan={plan} setup={part.setup} compact />
                </div>
              ) : null}
              <div className="flex items-baseline gap-4">
                <Link
                  href={`/pieces/${part.piece}/parts/${part.partId}`}
                  className="font-display text-lg font-semibold underline-offset-4 hover:underline"
                >
                  {part.title}
                </Link>
                <span className="text-soft">{part.part}</span>
                <span className="font-figures">{spellTuning(item.open, item.absent)}</span>
                {part.setup.capos.length > 0 ? <span>capo {capoWords(part.setup)}</span> : null}
              </div>
            </li>
          ) : null;
        })}
        {route.refused.map(({ item, why }) => (
          <li key={item.id} className="border-b border-rule py-2 text-trouble">
            <b>{item.title}</b> left out: {why}
          </li>
        ))}
      </ol>
    </section>
  );
}

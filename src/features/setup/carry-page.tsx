'use client';

import { Link } from '@/ui/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { carryPart, type CarriedRiff, type CarryMode } from '@/core/carry';
import { behind, editionPart, renewEdition } from '@/core/command';
import { capoWords, INSTRUMENTS, makeSetup, setupWords, TUNINGS, tuningsFor, type Setup } from '@/core/instrument';
import { optionsFor } from '@/core/place';
import { keyOf, tempoOf, type Part, type Piece, type Riff } from '@/core/score';
import { barOf } from '@/core/time';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { useRack } from '@/features/rack/rack-context';
import { Button } from '@/ui/button';
import { SelectField, TextField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import type { Bars } from './bar-range';
import { RiffChoice } from './riff-choice';
import { CarriedRow } from './carried-row';
import { PartPaths } from './part-paths';
import { useEdit } from './setup-inputs';
import { useLongWork } from './use-long-work';

/** Carrying a part, a riff or some bars over to other set-ups: one table of what is kept and what is lost. */
export function CarryPage({ partId }: { readonly partId: string }) {
  const piece = usePiece((state) => state.document);
  const part = piece.parts.find((one) => one.id === partId);
  return (
    <Frame partId={part?.id ?? null}>
      {part ? (
        <main className="min-h-0 flex-1 overflow-y-auto pb-8">
          <PartPaths piece={piece.id} part={part.id} />
          <Behind piece={piece} part={part} />
          {part.riffs.some((riff) => riff.events.length > 0) ? (
            <Carry piece={piece} part={part} />
          ) : (
            <p className="py-16 text-center text-lg text-soft">
              {part.name} has no notes yet. Call its notes first, then they can be carried over.
            </p>
          )}
        </main>
      ) : (
        <p className="py-20 text-center text-lg text-soft">This part is not in the piece any more.</p>
      )}
    </Frame>
  );
}

/** Whether the part an edition was made of has been changed since. */
function Behind({ piece, part }: { readonly piece: Piece; readonly part: Part }) {
  const edit = useEdit();
  const riffs = behind(piece, part);
  const model = piece.parts.find((one) => one.id === part.carried?.of);
  if (!part.carried || !model) return null;
  return (
    <p className="mt-3 flex flex-wrap items-center gap-3 border-l-4 border-question pl-3">
      <span>
        Carried over from{' '}
        <Link href={`/pieces/${piece.id}/parts/${model.id}/carry`} className="underline underline-offset-4">
          {model.name}
        </Link>
        {riffs.length > 0 ? `, where ${riffs.join(', ')} was changed since.` : ', and up to date with it.'}
      </span>
      {riffs.length > 0 ? (
        <Button
          size="small"
          onClick={() => {
            const made = renewEdition(piece, part.id);
            if (made.ok) edit(made.value);
          }}
        >
          Make these riffs anew
        </Button>
      ) : null}
    </p>
  );
}

/** Set-ups worth a look from here: the usual of the same instrument, and the same lesson on bass or guitar. */
function firstTargets(from: Setup): Setup[] {
  const usual = [
    'drop-d',
    'open-g',
    'modal-dadgad',
    'down-2',
    'standard',
    'bass-drop-d',
    'bass-down-2',
    'bass-standard',
  ];
  const known = tuningsFor(from.instrument).filter((tuning) => tuning.id !== from.tuningId);
  const same = (known.some((one) => usual.includes(one.id)) ? known.filter((one) => usual.includes(one.id)) : known)
    .slice(0, 4)
    .flatMap((tuning) => made(from.instrument.id, tuning.id));
  const other = from.instrument.kind === 'bass' ? made('guitar-6', 'standard') : made('bass-4', 'bass-standard');
  return [...same, ...other];
}

function made(instrument: string, tuning: string, capo = 0): Setup[] {
  const one = makeSetup({ instrument, tuning, capo });
  return one.ok ? [one.value.setup] : [];
}

const keyOfSetup = (setup: Setup): string => `${setup.instrument.id}:${setup.open.join()}:${capoWords(setup)}`;

const editionName = (part: Part, to: Setup): string => {
  const tuning = TUNINGS.find((one) => one.id === to.tuningId)?.name ?? 'another tuning';
  return `${part.name}, ${to.instrument.id === part.setup.instrument.id ? tuning : to.instrument.name}`;
};

/** Only the events of some bars. */
const barsOf = (riff: Riff, bars: Bars): Riff => ({
  ...riff,
  events: riff.events.filter((event) => {
    const { bar } = barOf(riff.meters, event.at);
    return bar >= bars.from && bar <= bars.to;
  }),
});

function Carry({ piece, part }: { readonly piece: Piece; readonly part: Part }) {
  const edit = useEdit();
  const toast = useToast();
  const router = useRouter();
  const riffs = part.riffs.filter((riff) => riff.events.length > 0);
  const [which, setWhich] = useState(riffs[0]?.id ?? '');
  const [bars, setBars] = useState<Bars | null>(null);
  const [keep, setKeep] = useState<CarryMode>('sound');
  const [targets, setTargets] = useState<readonly Setup[]>(() => firstTargets(part.setup));
  const [octaves, setOctaves] = useState<Readonly<Record<string, number>>>({});
  const [substitute, setSubstitute] = useState<ReadonlySet<string>>(new Set());
  const { answer, ask, share, fault } =
    useLongWork<readonly { readonly key: string; readonly riffs: readonly CarriedRiff[] }[]>();
  const chosen = useMemo(() => {
    const list = part.riffs.filter((riff) => riff.events.length > 0 && (which === 'all' || riff.id === which));
    return bars && which !== 'all' ? list.map((riff) => barsOf(riff, bars)) : list;
  }, [part, which, bars]);
  const requests = useMemo(
    () =>
      targets.map((to) => ({
        key: keyOfSetup(to),
        list: chosen.map((riff) => ({
          ...{ riff, from: part.setup, to, keep, octaves: octaves[keyOfSetup(to)] },
          ...{ substitute: substitute.has(keyOfSetup(to)), tempo: tempoOf(piece, riff) },
          ...{ key: riff.key ?? keyOf(piece, null), options: optionsFor(piece, part) },
        })),
      })),
    [targets, chosen, part, keep, octaves, substitute, piece],
  );
  useEffect(() => {
    ask(async (door) => {
      const out: { key: string; riffs: readonly CarriedRiff[] }[] = [];
      for (const { key, list } of requests) out.push({ key, riffs: await door.carry(list) });
      return out;
    });
  }, [requests, ask]);
  const wish = (to: Setup): { setup: Setup; keep: CarryMode; octaves?: number; substitute?: boolean } => {
    const at = octaves[keyOfSetup(to)];
    return {
      ...{ setup: to, keep, substitute: substitute.has(keyOfSetup(to)) },
      ...(at === undefined ? {} : { octaves: at }),
    };
  };
  const makeEdition = (to: Setup): void => {
    const done = editionPart(piece, part.id, wish(to), editionName(part, to).slice(0, 120));
    if (!done.ok) return toast(done.error.words);
    if (edit(done.value.edit)) {
      toast('The edition stands beside its model and knows when that is changed.');
      router.push(`/pieces/${piece.id}/parts/${done.value.part}/carry`);
    }
  };
  const move = (to: Setup): void => {
    if (edit({ type: 'setSetup', part: part.id, setup: to, riffs: carryPart(part, to, keep).riffs }))
      toast(`${part.name} is in ${setupWords(to)} now. Undo brings the old set-up back.`);
  };
  return (
    <div className="flex flex-col gap-4 pt-4">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-3">
        <RiffChoice label="Carried over" {...{ riffs, which, bars }} onWhich={setWhich} onBars={setBars} />
        <fieldset className="flex flex-col gap-0.5 text-[15px]">
          <legend className="sr-only">What is kept</legend>
          <label className="flex min-h-6 items-center gap-2">
            <input type="radio" checked={keep === 'sound'} onChange={() => setKeep('sound')} />
            <span>
              <b>Keep the sound:</b> the same notes, new places
            </span>
          </label>
          <label className="flex min-h-6 items-center gap-2">
            <input type="radio" checked={keep === 'shape'} onChange={() => setKeep('shape')} />
            <span>
              <b>Keep the shape:</b> the same frets, another sound
            </span>
          </label>
        </fieldset>
        <AddTarget
          from={part.setup}
          onAdd={(setup) =>
            setTargets((now) => (now.some((one) => keyOfSetup(one) === keyOfSetup(setup)) ? now : [...now, setup]))
          }
        />
      </div>
      {fault ? (
        <p role="alert" className="text-trouble">
          It broke off: {fault}. Try one riff at a time.
        </p>
      ) : null}
      <table className="w-full text-[15px]" aria-busy={share !== null}>
        <caption className="sr-only">What is kept and lost on each set-up</caption>
        <thead className="text-left text-sm text-soft max-[899px]:sr-only">
          <tr>
            <th className="py-1 pr-4 font-semibold">On</th>
            <th className="pr-4 font-semibold">Octave</th>
            <th className="pr-4 font-semibold">Kept</th>
            <th className="pr-4 font-semibold">Lost or changed</th>
            <th className="pr-4 font-semibold">Hand, before and after</th>
            <th className="pr-4 font-semibold">Key</th>
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        {targets.map((to) => {
          const key = keyOfSetup(to);
          return (
            <CarriedRow
              key={key}
              setup={to}
              from={part.setup}
              riffs={chosen}
              carried={answer?.find((one) => one.key === key)?.riffs ?? null}
              keep={keep}
              octaves={octaves[key]}
              substitute={substitute.has(key)}
              onOctaves={(value) => setOctaves({ ...octaves, [key]: value })}
              onSubstitute={(on) => {
                const next = new Set(substitute);
                if (on) next.add(key);
                else next.delete(key);
                setSubstitute(next);
              }}
              onEdition={() => makeEdition(to)}
              onMove={() => move(to)}
              onDelete={() => setTargets(targets.filter((one) => one !== to))}
            />
          );
        })}
      </table>
      <p className="max-w-prose text-sm text-soft">
        The table shows what is chosen; an edition or a move takes the whole part. An edition is a part of its own
        beside this one. What is changed in it changes nothing here; when this part is changed, the edition says so.
        Nothing is left out: what can’t be played stays, without a place.
      </p>
    </div>
  );
}

/** Another set-up for the table: an instrument, a tuning by name or spelled, a capo. */
function AddTarget({ from, onAdd }: { readonly from: Setup; readonly onAdd: (setup: Setup) => void }) {
  const rack = useRack();
  const [instrument, setInstrument] = useState(from.instrument.id);
  const [tuning, setTuning] = useState('');
  const [capo, setCapo] = useState('0');
  const [error, setError] = useState<string | null>(null);
  const all = [...rack.instruments.map((entry) => entry.instrument), ...INSTRUMENTS];
  const found = all.find((one) => one.id === instrument) ?? from.instrument;
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const typed = tuning.trim();
        const named = TUNINGS.find((one) => one.name.toLowerCase() === typed.toLowerCase())?.id;
        const asked = makeSetup(
          { instrument: found, ...(typed ? { tuning: named ?? typed } : {}), capo: Number(capo) || 0 },
          rack.tunings,
        );
        setError(asked.ok ? null : asked.error.words);
        if (asked.ok) onAdd(asked.value.setup);
      }}
    >
      <div className="w-60">
        <SelectField label="Instrument" value={instrument} onChange={(event) => setInstrument(event.target.value)}>
          {all.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </SelectField>
      </div>
      <div className="w-44">
        <TextField
          label="Tuning"
          placeholder="its own"
          list="tunings-known"
          value={tuning}
          onChange={(event) => setTuning(event.target.value)}
          error={error}
        />
        <datalist id="tunings-known">
          {tuningsFor(found, rack.tunings).map((one) => (
            <option key={one.id} value={one.name} />
          ))}
        </datalist>
      </div>
      <div className="w-16">
        <TextField label="Capo" inputMode="numeric" value={capo} onChange={(event) => setCapo(event.target.value)} />
      </div>
      <Button type="submit">Add</Button>
    </form>
  );
}

'use client';

import { Plus, X } from 'lucide-react';
import { INSTRUMENTS, MAX_CAPOS, openPitch, spellTuning, stringNumbers, tuningsFor } from '@/core/instrument';
import { CAPO_PLACE_WORDS, CAPO_TUNING_WORDS } from '@/core/schools';
import { InstrumentOptions } from '@/features/rack/instrument-options';
import { instrumentBy, useRack } from '@/features/rack/rack-context';
import { Button } from '@/ui/button';
import { SelectField, TextField } from '@/ui/field';
import { noteName } from '@/core/pitch';
import { useSchools } from '@/ui/schools';
import { madeOf, toggleString, type CapoDraft, type SetupDraft } from './draft';

interface Props {
  readonly draft: SetupDraft;
  readonly onChange: (draft: SetupDraft) => void;
  readonly errors?: {
    readonly instrument?: string | null;
    readonly tuning?: string | null;
    readonly capo?: string | null;
  };
  /** Without the capo rows, where a page has no use for them. */
  readonly noCapo?: boolean;
}

/**
 * Instrument, tuning (from the lists or spelled), strings taken off and capos, with what was understood shown at
 * once.
 */
export function SetupFields({ draft, onChange, errors = {}, noCapo = false }: Props) {
  const rack = useRack();
  const schools = useSchools();
  const instrument =
    (draft.kept?.id === draft.instrument ? draft.kept : instrumentBy(rack, draft.instrument)) ?? INSTRUMENTS[0];
  const tunings = instrument ? tuningsFor(instrument, rack.tunings) : [];
  const listed = tunings.find((tuning) => tuning.id === draft.tuning);
  const made = madeOf(draft, rack);
  const fault = made.ok ? null : made.error;
  const faultAt = (name: string): string | null =>
    fault && String(fault.locus.path?.[0] ?? '').startsWith(name) ? fault.words : null;
  const spelled = listed ? listed.spelling : draft.tuning;
  const setup = made.ok ? made.value.setup : null;
  const count = instrument?.strings.length ?? 6;
  const gone = draft.kept && !instrumentBy(rack, draft.kept.id) ? draft.kept : null;
  const sounds = setup
    ? stringNumbers(setup)
        .map((string) => noteName(openPitch(setup, string), { naming: schools.notes }))
        .join(' ')
    : '';
  const setCapo = (i: number, capo: CapoDraft | null): void =>
    onChange({ ...draft, capos: draft.capos.flatMap((one, index) => (index === i ? (capo ? [capo] : []) : [one])) });
  return (
    <div className="flex flex-col gap-4">
      <SelectField
        label="Instrument"
        value={draft.instrument}
        error={errors.instrument ?? faultAt('instrument')}
        onChange={(event) => {
          const next = instrumentBy(rack, event.target.value);
          const first = next ? tuningsFor(next, rack.tunings)[0] : undefined;
          onChange({ instrument: event.target.value, tuning: first?.id ?? '', capos: draft.capos, kept: draft.kept });
        }}
      >
        {gone ? <option value={gone.id}>{gone.name} (as this piece has it)</option> : null}
        <InstrumentOptions />
      </SelectField>
      <div className="grid gap-4 sm:grid-cols-2">
        <SelectField
          label="Tuning"
          value={listed?.id ?? 'own'}
          onChange={(event) =>
            onChange({ ...draft, tuning: event.target.value === 'own' ? spelled : event.target.value })
          }
        >
          {tunings.map((tuning) => (
            <option key={tuning.id} value={tuning.id}>
              {tuning.name} ({tuning.spelling.replace(/\d/g, '')})
            </option>
          ))}
          <option value="own">Spelled by hand</option>
        </SelectField>
        <TextField
          label="Spelled thick to thin"
          value={spelled}
          onChange={(event) => onChange({ ...draft, tuning: event.target.value })}
          error={errors.tuning ?? faultAt('tuning')}
          hint={
            made.ok
              ? (made.value.assumed ??
                (setup && setup.capos.length > 0
                  ? `Sounds ${sounds}`
                  : `Sounds ${spellTuning(made.value.setup.open, made.value.setup.absent, made.value.setup.signs)}`))
              : 'D A D G B E, or with octaves; x for a string taken off; or only changes: 6=D'
          }
          spellCheck={false}
        />
      </div>
      {setup ? (
        <StringChips
          legend="Strings on"
          count={count}
          on={(s) => !setup.absent.includes(s)}
          onToggle={(s) => {
            const next = toggleString(draft, setup, s);
            if (next.ok) onChange(next.value);
          }}
        />
      ) : null}
      {noCapo ? null : (
        <div className="flex flex-col gap-2">
          {draft.capos.map((capo, i) => {
            const which = draft.capos.length > 1 ? `${i === 0 ? 'First' : 'Second'} capo` : 'Capo';
            return (
              <div key={i} className="flex flex-wrap items-end gap-x-4 gap-y-2">
                <div className="w-32">
                  <TextField
                    label={`${which} at fret`}
                    inputMode="numeric"
                    value={capo.fret}
                    onChange={(event) => setCapo(i, { ...capo, fret: event.target.value })}
                    aria-invalid={faultAt('capo') ? true : undefined}
                  />
                </div>
                <StringChips
                  legend={`${which} on strings`}
                  count={count}
                  on={(s) => capo.strings === null || capo.strings.includes(s)}
                  onToggle={(s) => {
                    const all = Array.from({ length: count }, (_, k) => count - k);
                    const now = capo.strings ?? all;
                    const next = now.includes(s) ? now.filter((x) => x !== s) : [...now, s].sort((a, b) => b - a);
                    setCapo(i, { ...capo, strings: next.length === count ? null : next });
                  }}
                />
                <Button
                  tone="quiet"
                  size="icon"
                  aria-label={`Take the ${which.toLowerCase()} off`}
                  onClick={() => setCapo(i, null)}
                >
                  <X size={18} aria-hidden />
                </Button>
              </div>
            );
          })}
          {errors.capo || faultAt('capo') ? (
            <p role="alert" className="text-sm font-semibold text-trouble">
              {errors.capo ?? faultAt('capo')}
            </p>
          ) : null}
          {draft.capos.length < MAX_CAPOS ? (
            <Button
              size="small"
              className="self-start"
              onClick={() =>
                onChange({
                  ...draft,
                  capos: [...draft.capos, { fret: draft.capos.length === 0 ? '2' : '4', strings: null }],
                })
              }
            >
              <Plus size={16} aria-hidden /> {draft.capos.length === 0 ? 'Capo' : 'Second capo'}
            </Button>
          ) : null}
          {draft.capos.length > 0 ? (
            <p className="text-sm text-soft">
              {CAPO_PLACE_WORDS[schools.capoPlace]} {CAPO_TUNING_WORDS[schools.capoTuning]}
            </p>
          ) : null}
        </div>
      )}
    </div>
  );
}

/** Strings by number, thick to thin, each on or off. */
function StringChips({
  legend,
  count,
  on,
  onToggle,
}: {
  readonly legend: string;
  readonly count: number;
  readonly on: (s: number) => boolean;
  readonly onToggle: (s: number) => void;
}) {
  return (
    <fieldset>
      <legend className="text-sm font-semibold text-soft">{legend}, thick to thin</legend>
      <div className="mt-1 flex gap-1">
        {Array.from({ length: count }, (_, i) => count - i).map((s) => (
          <button
            key={s}
            type="button"
            aria-pressed={on(s)}
            aria-label={`${legend}: string ${s}`}
            onClick={() => onToggle(s)}
            className="min-h-9 min-w-9 rounded-sm border border-line/70 bg-sheet px-2 font-figures text-[15px] text-soft line-through aria-pressed:border-ink aria-pressed:bg-chosen/60 aria-pressed:font-bold aria-pressed:text-ink aria-pressed:no-underline"
          >
            {s}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

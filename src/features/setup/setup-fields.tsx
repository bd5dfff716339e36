'use client';

import { INSTRUMENTS, makeSetup, spellTuning, tuningsFor } from '@/core/instrument';
import { SelectField, TextField } from '@/ui/field';

export interface SetupDraft {
  readonly instrument: string;
  /** A catalogue id or a spelling. */
  readonly tuning: string;
  readonly capo: string;
}

interface Props {
  readonly draft: SetupDraft;
  readonly onChange: (draft: SetupDraft) => void;
  readonly errors?: Partial<Record<keyof SetupDraft, string | null>>;
}

/** Instrument, tuning (from the catalogue or spelled) and capo, with what was understood shown at once. */
export function SetupFields({ draft, onChange, errors = {} }: Props) {
  const instrument = INSTRUMENTS.find((i) => i.id === draft.instrument) ?? INSTRUMENTS[0];
  const tunings = instrument ? tuningsFor(instrument) : [];
  const catalogued = tunings.find((t) => t.id === draft.tuning);
  const made = makeSetup({ instrument: draft.instrument, tuning: draft.tuning, capo: draft.capo.trim() === '' ? 0 : Number(draft.capo) });
  const fault = made.ok ? null : made.error;
  const faultAt = (name: string): string | null => (fault?.at?.startsWith(name) ? fault.message : null);
  const spelled = catalogued ? catalogued.spelling : draft.tuning;
  return (
    <div className="flex flex-col gap-4">
      <SelectField
        label="Instrument"
        value={draft.instrument}
        error={errors.instrument ?? null}
        onChange={(e) => {
          const next = INSTRUMENTS.find((i) => i.id === e.target.value);
          const first = next ? tuningsFor(next)[0] : undefined;
          onChange({ ...draft, instrument: e.target.value, tuning: first?.id ?? '' });
        }}
      >
        {INSTRUMENTS.map((i) => (
          <option key={i.id} value={i.id}>
            {i.name}
          </option>
        ))}
      </SelectField>
      <div className="grid gap-4 sm:grid-cols-2">
        <SelectField label="Tuning" value={catalogued?.id ?? 'own'} onChange={(e) => onChange({ ...draft, tuning: e.target.value === 'own' ? spelled : e.target.value })}>
          {tunings.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name} ({t.spelling.replace(/\d/g, '')})
            </option>
          ))}
          <option value="own">Spelled by hand</option>
        </SelectField>
        <TextField
          label="Spelled thick to thin"
          value={spelled}
          onChange={(e) => onChange({ ...draft, tuning: e.target.value })}
          error={errors.tuning ?? faultAt('tuning')}
          hint={made.ok ? (made.value.assumed ?? `Sounds ${spellTuning(made.value.setup.open.map((m) => m + made.value.setup.capo), made.value.setup.absent)}`) : 'D A D G B E, or with octaves; x for a string taken off'}
          spellCheck={false}
        />
      </div>
      <TextField
        label="Capo at fret (0 for none)"
        inputMode="numeric"
        value={draft.capo}
        onChange={(e) => onChange({ ...draft, capo: e.target.value })}
        error={errors.capo ?? faultAt('capo')}
        hint="Anywhere behind the wire, never on it. Put it on first, then tune."
      />
    </div>
  );
}


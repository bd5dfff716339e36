'use client';

import { counted } from '@/core/base';
import { useEffect, useState } from 'react';
import type { Remote } from 'comlink';
import type { Setup } from '@/core/instrument';
import { useRack } from '@/features/rack/rack-context';
import { draftOf, madeOf, type SetupDraft } from '@/features/setup/draft';
import { SetupFields } from '@/features/setup/setup-fields';
import { SelectField, TextField } from '@/ui/field';
import type { ImportDoor, OnSetup, PartSummary } from '@/workers/import.worker';
import { QuestionList } from './question-list';
import type { PartPlan } from './use-import';

interface Props {
  readonly file: string;
  readonly index: number;
  readonly part: PartSummary;
  readonly plan: PartPlan;
  readonly door: () => Remote<ImportDoor>;
  readonly onChange: (plan: PartPlan) => void;
}

/** What one part is to be played on, in which octave, and what is believed where the file says two things. */
export function PartSettings({ file, index, part, plan, door, onChange }: Props) {
  const rack = useRack();
  const [draft, setDraft] = useState<SetupDraft>(() => draftOf(plan.setup));
  const [on, setOn] = useState<OnSetup | null>(null);
  const made = madeOf(draft, rack);
  const setupText = JSON.stringify(plan.setup);
  useEffect(() => {
    let wanted = true;
    void door()
      .onSetup(file, index, JSON.parse(setupText) as Setup)
      .then((answer) => {
        if (wanted) setOn(answer);
      });
    return () => {
      wanted = false;
    };
  }, [door, file, index, setupText]);
  const change = (next: SetupDraft): void => {
    setDraft(next);
    const setup = madeOf(next, rack);
    if (setup.ok) onChange({ ...plan, setup: setup.value.setup });
  };
  const shift = plan.shift ?? on?.best ?? 0;
  const inside = on?.inRange[shift] ?? 0;
  return (
    <div className="flex flex-col gap-4">
      <TextField
        label="Name of the part"
        value={plan.name}
        maxLength={120}
        onChange={(event) => onChange({ ...plan, name: event.target.value })}
      />
      {part.assumed && made.ok ? <p className="text-sm text-question">{part.assumed}</p> : null}
      <SetupFields draft={draft} onChange={change} />
      <SelectField
        label="Octave"
        value={String(shift)}
        onChange={(event) => onChange({ ...plan, shift: Number(event.target.value) })}
        hint={
          on === null
            ? ''
            : inside === part.notes
              ? part.notes === 1
                ? 'Its note lies on the neck.'
                : `All ${part.notes} notes lie on the neck.`
              : `${inside} of ${counted(part.notes, 'note')} ${inside === 1 ? 'lies' : 'lie'} on the neck.`
        }
      >
        {[24, 12, 0, -12, -24].map((s) => (
          <option key={s} value={s}>
            {s === 0
              ? 'as in the file'
              : `${Math.abs(s) / 12} octave${Math.abs(s) > 12 ? 's' : ''} ${s > 0 ? 'up' : 'down'}`}
          </option>
        ))}
      </SelectField>
      <QuestionList
        questions={on?.questions ?? []}
        answers={plan.trust === null ? {} : { [`trust-${index}`]: plan.trust }}
        name={`${file}-${index}`}
        onAnswer={(_, answer) => onChange({ ...plan, trust: answer === 'pitches' ? 'pitches' : 'places' })}
      />
    </div>
  );
}

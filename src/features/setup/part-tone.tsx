import equal from 'fast-deep-equal';
import { useEffect, useState } from 'react';
import { ok } from '@/core/base';
import { setTone } from '@/core/command';
import type { Tone } from '@/core/instrument';
import type { Part } from '@/core/score';
import { LineField } from '@/features/form/line-field';
import { tonesAction } from '@/features/rack/actions';
import { useRack } from '@/features/rack/rack-context';
import { ToneNotes } from '@/features/rack/tone-notes';
import { useEdit } from './setup-inputs';

interface Known {
  readonly from: string;
  readonly tone: Tone;
}

/** How a part should sound: in words, and as settings that other pieces of the studio lend and take. */
export function PartTone({ part }: { readonly part: Part }) {
  const edit = useEdit();
  const rack = useRack();
  const [draft, setDraft] = useState<readonly Tone[]>(part.tones ?? []);
  const [others, setOthers] = useState<readonly Known[]>([]);
  useEffect(() => {
    let current = true;
    void tonesAction()
      .then((found) => {
        if (current) setOthers(found);
      })
      // Without an answer there is nothing to copy from; everything else works.
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, []);
  const known: Known[] = [
    ...rack.instruments.flatMap((one) => one.tones.map((tone) => ({ from: one.instrument.name, tone }))),
    ...others,
  ];
  const keep = (tones: readonly Tone[]): void => {
    const named = tones.filter((tone) => tone.name.trim() !== '');
    if (!equal(named, part.tones ?? [])) edit(setTone(part.id, { tones: named }));
  };
  return (
    <div
      className="flex flex-col gap-3"
      // What is typed is one change when the field is left, not one for each letter.
      onBlur={() => keep(draft)}
    >
      <ToneNotes
        title="Sound of the part"
        tones={draft}
        onChange={(tones) => {
          const typed = document.activeElement instanceof HTMLInputElement;
          setDraft(tones);
          if (!typed) keep(tones);
        }}
      />
      <LineField
        label="In words"
        value={part.tone ?? ''}
        hint="A section can name another of the sounds above as its tone."
        onTake={(tone) => {
          edit(setTone(part.id, { tone: tone || null }));
          return ok(null);
        }}
      />
      {known.length > 0 ? (
        <label className="flex flex-wrap items-center gap-2 text-[15px]">
          Copy a sound
          <select
            value=""
            className="min-h-9 max-w-full rounded-sm border border-line/70 bg-sheet px-2"
            onChange={(event) => {
              const one = known[Number(event.target.value)];
              if (!one) return;
              const tones = [...draft, one.tone];
              setDraft(tones);
              keep(tones);
            }}
          >
            <option value="">from the rack or another piece…</option>
            {known.map((one, i) => (
              <option key={i} value={i}>
                {one.tone.name}, {one.from}
              </option>
            ))}
          </select>
        </label>
      ) : null}
    </div>
  );
}

import { useState } from 'react';
import { setEvidence, setArticulation } from '@/core/command';
import type { Basis, Evidence, Note, RiffEvent } from '@/core/score';
import { SelectField, TextField } from '@/ui/field';
import type { BenchContext } from './commands';

const BASES: readonly (readonly [Basis, string])[] = [
  ['attack', 'attack heard'],
  ['ring', 'open string heard ringing'],
  ['seen', 'seen live'],
  ['isolated', 'alone in the mix'],
  ['told', 'told by the player'],
  ['pattern', 'by the pattern'],
];
const FREES = [
  ['either', 'either will do'],
  ['fill', 'a fill, if wished'],
  ['leave-out', 'may be left out'],
] as const;

/** How sure one is of what is chosen, what it rests on, and why it is played here: for all chosen notes at once. */
export function EvidenceFields({
  desk,
  event,
  note,
}: {
  readonly desk: BenchContext;
  readonly event: RiffEvent;
  readonly note: Note | null;
}) {
  const { piece, riff, edit } = desk;
  const all = desk.chosen.events.map((event) => event.id);
  const count = desk.chosen.events.reduce((n, event) => n + event.notes.length, 0);
  const only = all.length === 1 && note ? note.id : null;
  const say = (spec: Parameters<typeof setEvidence>[3]): boolean => edit(setEvidence(piece, riff.id, all, spec, only));
  const evidence: Evidence = note?.evidence ?? { basis: null, at: null, remark: '' };
  const put = (change: Partial<Evidence>): boolean => {
    const next = { ...evidence, ...change };
    return say({ evidence: next.basis === null && next.at === null && next.remark === '' ? null : next });
  };
  return (
    <fieldset className="grid grid-cols-2 gap-x-3 gap-y-2">
      <legend className="col-span-2 mb-1 text-[15px] font-semibold">
        How it is known{count > 1 && only === null ? `, for ${count} notes` : ''}
      </legend>
      {note ? (
        <>
          <SelectField
            label="Certainty"
            value={note.certainty}
            onChange={(event) => say({ certainty: event.target.value as Note['certainty'] })}
          >
            <option value="sure">sure</option>
            <option value="likely">likely</option>
            <option value="guess">a guess</option>
          </SelectField>
          <SelectField
            label="It rests on"
            value={evidence.basis ?? ''}
            onChange={(event) => put({ basis: event.target.value === '' ? null : (event.target.value as Basis) })}
          >
            <option value="">unsaid</option>
            {BASES.map(([one, words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </SelectField>
          <Line
            key={`${note.id}at${evidence.at ?? ''}`}
            label="At, seconds in the clip"
            initial={evidence.at === null ? '' : String(evidence.at)}
            check={(text) =>
              text === '' || (Number(text) >= 0 && Number(text) <= 36_000) ? null : 'Seconds, such as 12.4.'
            }
            onSave={(text) => put({ at: text === '' ? null : Number(text) })}
          />
          <Line
            key={`${note.id}say${evidence.remark}`}
            label="In words"
            initial={evidence.remark}
            check={() => null}
            onSave={(text) => put({ remark: text.slice(0, 300) })}
          />
        </>
      ) : null}
      <SelectField
        label="Free"
        value={event.free?.kind ?? ''}
        onChange={(change) =>
          edit(
            setArticulation(piece, riff.id, all, {
              free:
                change.target.value === ''
                  ? null
                  : { kind: change.target.value as 'either', remark: event.free?.remark ?? '' },
            }),
          )
        }
      >
        <option value="">no, as written</option>
        {FREES.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </SelectField>
      {event.free ? (
        <Line
          key={`${event.id}free${event.free.remark}`}
          label="Such as"
          initial={event.free.remark}
          check={() => null}
          onSave={(text) =>
            edit(
              setArticulation(piece, riff.id, all, {
                free: { kind: event.free?.kind ?? 'either', remark: text.slice(0, 200) },
              }),
            )
          }
        />
      ) : (
        <span />
      )}
      <div className="col-span-2">
        <Line
          key={`${event.id}why${event.remark ?? ''}`}
          label="Why it is played here"
          initial={event.remark ?? ''}
          check={() => null}
          onSave={(text) =>
            edit(setArticulation(piece, riff.id, all, { remark: text === '' ? null : text.slice(0, 300) }))
          }
        />
      </div>
    </fieldset>
  );
}

/** A line of text saved when it is left or Enter is pressed. */
export function Line({
  label,
  initial,
  check,
  onSave,
  hint,
}: {
  readonly label: string;
  readonly initial: string;
  readonly check: (text: string) => string | null;
  readonly onSave: (text: string) => void;
  readonly hint?: string;
}) {
  const [text, setText] = useState(initial);
  const [error, setError] = useState<string | null>(null);
  const save = (): void => {
    const wording = text.trim();
    const wrong = check(wording);
    setError(wrong);
    if (wrong === null && wording !== initial) onSave(wording);
  };
  return (
    <TextField
      label={label}
      value={text}
      error={error}
      {...(hint ? { hint } : {})}
      onChange={(event) => setText(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') save();
      }}
    />
  );
}

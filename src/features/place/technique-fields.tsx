import { useState, type ReactNode } from 'react';
import type { Result } from '@/core/base';
import { type ArticulationChange, type NoteRef } from '@/core/command';
import { type TechniqueChange, type Note, type Part, type Piece, type Riff, type RiffEvent } from '@/core/score';
import type { Edit } from '@/core/edit';
import { microtone, microtoneWords, parseMicrotone, type Key } from '@/core/pitch';
import { useSchools } from '@/ui/schools';
import { TextField } from '@/ui/field';

export interface TechniqueProps {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
  readonly keyShown: Key | null;
  readonly edit: (made: Result<Edit>) => boolean;
}

/** What the groups of fields work on and with. */
export interface Fields extends TechniqueProps {
  readonly target: NoteRef;
  readonly noteTechniques: Note['technique'];
  readonly set: (change: TechniqueChange) => boolean;
  readonly manner: (change: ArticulationChange) => boolean;
}

export function Group({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <fieldset className="grid grid-cols-2 gap-x-3 gap-y-2">
      <legend className="col-span-2 mb-1 text-[15px] font-semibold">{name}</legend>
      {children}
    </fieldset>
  );
}

/** A distance above a pitch, typed and read in any of its four ways. */
export function Micro({
  label,
  base,
  fret,
  cents,
  unsaid,
  keyShown,
  onSet,
  onUnsaid,
}: {
  readonly label: string;
  readonly base: number;
  readonly fret: number | null;
  readonly cents: number | null;
  readonly unsaid: boolean;
  readonly keyShown: Key | null;
  readonly onSet: (cents: number | null) => boolean;
  readonly onUnsaid: (() => void) | null;
}) {
  const { notes } = useSchools();
  const [text, setText] = useState(cents === null ? (unsaid ? '?' : '') : String(cents));
  const [error, setError] = useState<string | null>(null);
  const read = cents === null ? null : microtoneWords(microtone(base, cents, fret), { key: keyShown, naming: notes });
  const save = (): void => {
    const wording = text.trim();
    if (wording === '?' && onUnsaid) return onUnsaid();
    if (wording === '') return void onSet(null);
    const made = parseMicrotone(wording, base, fret);
    if (!made.ok) return setError(made.error.words);
    setError(null);
    if (made.value !== cents) onSet(made.value === 0 ? null : made.value);
  };
  return (
    <TextField
      label={label}
      value={text}
      error={error}
      placeholder={onUnsaid ? 'not' : 'on the fret'}
      hint={
        read
          ? `${read.cents} · ${read.frets}${read.at ? ` · ${read.at}` : ''} · ${read.target}`
          : `whole, 150, 1.5 frets, fret 8.5, E4${onUnsaid ? ', ?' : ''}`
      }
      onChange={(event) => setText(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') save();
      }}
    />
  );
}

import { Plus } from 'lucide-react';
import { useState } from 'react';
import { freeLabel, insertMap, insertSection } from '@/core/command';
import { ok, type Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { BAR_MAPS, mapChords } from '@/core/form';
import { keyOf, type Piece } from '@/core/score';
import { Button } from '@/ui/button';
import { TextField } from '@/ui/field';
import { Popover } from '@/ui/popover';

const NAMES = ['Intro', 'Verse', 'Refrain', 'Bridge', 'Solo', 'Ending'] as const;

/** A new section: empty with a name and bars, or a map of bars laid in one step. */
export function NewSection({
  piece,
  edit,
  onMade,
}: {
  readonly piece: Piece;
  readonly edit: (made: Result<Edit>) => Result<unknown>;
  readonly onMade: (section: string) => void;
}) {
  const [name, setName] = useState('');
  const [bars, setBars] = useState('8');
  const key = keyOf(piece, null);
  const count = Math.max(1, Math.min(2000, Math.round(Number(bars)) || 8));
  const make = (wanted: string): void => {
    const made = insertSection(piece, {
      name: freeLabel(piece.sections, wanted.trim() || 'Section').slice(0, 80),
      bars: count,
    });
    if (edit(ok(made.edit)).ok) onMade(made.id);
    setName('');
  };
  return (
    <Popover
      title="New section"
      trigger={
        <Button>
          <Plus size={16} aria-hidden /> Section
        </Button>
      }
    >
      <div className="flex w-80 flex-col gap-3">
        <form
          className="grid grid-cols-[1fr_5rem_auto] items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            make(name);
          }}
        >
          <TextField label="Name" value={name} maxLength={80} onChange={(event) => setName(event.target.value)} />
          <TextField label="Bars" inputMode="numeric" value={bars} onChange={(event) => setBars(event.target.value)} />
          <Button type="submit" tone="yours">
            Add
          </Button>
        </form>
        <div className="flex flex-wrap gap-1">
          {NAMES.map((one) => (
            <Button key={one} size="small" onClick={() => make(one)}>
              {one}
            </Button>
          ))}
        </div>
        <div className="border-t border-rule pt-2">
          <p className="text-sm font-semibold text-soft">With chords laid over the bars</p>
          <ul className="mt-1 flex flex-col gap-1">
            {BAR_MAPS.map((map) => (
              <li key={map.id}>
                <button
                  type="button"
                  className="w-full rounded-sm border border-rule bg-sheet px-2 py-1 text-left hover:border-line"
                  onClick={() => {
                    const made = insertMap(piece, map, name.trim() || map.name.split(',')[0] || 'Section', key);
                    if (edit(made.ok ? ok(made.value.edit) : made).ok && made.ok) onMade(made.value.id);
                  }}
                >
                  <b>{map.name}</b>
                  <span className="block truncate font-figures text-[13px] text-soft">{mapChords(map, key)}</span>
                </button>
              </li>
            ))}
          </ul>
        </div>
      </div>
    </Popover>
  );
}

import { useState } from 'react';
import { ToggleGroup } from 'radix-ui';
import type { Result } from '@/core/base';
import { setWish } from '@/core/command';
import {
  endOf,
  riffEnd,
  riffStart,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
  type RiffWish,
} from '@/core/score';
import type { Edit } from '@/core/edit';
import { fretsLeft, stringNumbers } from '@/core/instrument';
import { placeInBars } from '@/core/rhythm';
import { Button } from '@/ui/button';
import { SelectField } from '@/ui/field';

interface Props {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  /** The stretch chosen; the whole riff where nothing is. */
  readonly events: readonly RiffEvent[];
  readonly edit: (made: Result<Edit>) => boolean;
}

const NOTHING = { hand: null, liking: null, avoid: [], prefer: [] } as const;

type Draft = Omit<RiffWish, 'id'>;

const isEmpty = (one: Draft): boolean =>
  one.hand === null &&
  one.liking === null &&
  one.avoid.length === 0 &&
  one.prefer.length === 0 &&
  one.thumb === undefined;

/**
 * What the instructor wishes for a stretch: where the hand should be, open strings or not, strings to keep free or to
 * use.
 */
export function Wishes({ piece, part, riff, events, edit }: Props) {
  const wishes = riff.wishes ?? [];
  const from = events[0]?.at ?? riffStart(riff);
  const last = events.at(-1);
  const to = last ? endOf(last) : riffEnd(riff);
  const known = wishes.find((wish) => wish.from === from && wish.to === to) ?? null;
  return (
    <section aria-label="Wishes" className="flex flex-col gap-2 text-[15px]">
      <h2 className="text-lg">Wished for {events.length > 0 ? `${events.length} chosen` : 'the whole riff'}</h2>
      <WishFields
        key={`${from}${to}${JSON.stringify(known)}`}
        part={part}
        wish={known ?? { ...NOTHING, from, to }}
        onChange={(wish) =>
          edit(setWish(piece, riff.id, known?.id ?? null, isEmpty(wish) ? null : { ...wish, from, to }))
        }
      />
      {wishes.length > 0 ? (
        <ul className="divide-y divide-rule border-y border-rule">
          {wishes.map((wish) => (
            <li key={wish.id} className="flex items-baseline justify-between gap-2 py-1">
              <span>
                From {placeInBars(riff.meters, wish.from)}: {wishWords(wish)}
              </span>
              <Button
                size="small"
                tone="word"
                aria-label={`Take back: ${wishWords(wish)}`}
                onClick={() => edit(setWish(piece, riff.id, wish.id, null))}
              >
                take back
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

function WishFields({
  part,
  wish,
  onChange,
}: {
  readonly part: Part;
  readonly wish: Draft;
  readonly onChange: (wish: Draft) => void;
}) {
  const strings = stringNumbers(part.setup).reverse();
  const [how, setHow] = useState<'avoid' | 'prefer'>(wish.prefer.length > 0 ? 'prefer' : 'avoid');
  const chosen = wish[how];
  return (
    <div className="flex flex-col gap-2">
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          label="Hand at fret"
          value={wish.hand === null ? '' : String(wish.hand)}
          onChange={(event) =>
            onChange({ ...wish, hand: event.target.value === '' ? null : Number(event.target.value) })
          }
        >
          <option value="">anywhere</option>
          {Array.from({ length: Math.min(20, fretsLeft(part.setup)) }, (_, i) => i + 1).map((f) => (
            <option key={f} value={f}>
              {f}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Open strings"
          value={wish.liking === null ? '' : String(wish.liking)}
          onChange={(event) =>
            onChange({ ...wish, liking: event.target.value === '' ? null : Number(event.target.value) })
          }
        >
          <option value="">as they come</option>
          <option value="1">wherever they can be</option>
          <option value="0.5">rather</option>
          <option value="-0.5">rather not</option>
          <option value="-1">avoided</option>
        </SelectField>
      </div>
      <SelectField
        label="Thumb"
        value={wish.thumb ?? ''}
        onChange={(event) => {
          const { thumb: _, ...rest } = wish;
          onChange(event.target.value === '' ? rest : { ...rest, thumb: event.target.value as 'over' });
        }}
      >
        <option value="">as the player is used to</option>
        <option value="over">may come over the neck</option>
        <option value="behind">stays behind the neck</option>
      </SelectField>
      <SelectField label="Strings" value={how} onChange={(event) => setHow(event.target.value as typeof how)}>
        <option value="avoid">keep these free</option>
        <option value="prefer">use these where it can be</option>
      </SelectField>
      <ToggleGroup.Root
        type="multiple"
        aria-label={how === 'avoid' ? 'Strings kept free' : 'Strings wished for'}
        value={chosen.map(String)}
        onValueChange={(list) => onChange({ ...wish, [how]: list.map(Number) })}
        className="flex flex-wrap gap-1"
      >
        {strings.map((string) => (
          <ToggleGroup.Item
            key={string}
            value={String(string)}
            className="size-9 rounded-sm border border-line/60 font-figures data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-sheet"
          >
            {string}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

export function wishWords(one: Draft): string {
  const strings = (list: readonly number[]): string => `string${list.length === 1 ? '' : 's'} ${list.join(', ')}`;
  return [
    one.hand === null ? '' : `hand at fret ${one.hand}`,
    one.liking === null
      ? ''
      : one.liking > 0
        ? 'open strings wished'
        : one.liking < 0
          ? 'open strings avoided'
          : 'open strings as they come',
    one.avoid.length > 0 ? `${strings(one.avoid)} kept free` : '',
    one.prefer.length > 0 ? `on ${strings(one.prefer)}` : '',
    one.thumb === 'over' ? 'thumb over the neck' : one.thumb === 'behind' ? 'thumb behind the neck' : '',
  ]
    .filter(Boolean)
    .join('; ');
}

import { X } from 'lucide-react';
import { useState } from 'react';
import { setDifference, setJoint, spelledRoute } from '@/core/command';
import { fail, ok, type Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { mapOf, passTimes, playsWords } from '@/core/form';
import type { FormEntry, PassName, Piece, Section, Use } from '@/core/score';
import { Button } from '@/ui/button';

interface Props {
  readonly piece: Piece;
  readonly section: Section;
  readonly edit: (made: Result<Edit>) => Result<unknown>;
}

const pick = 'min-h-8 min-w-0 rounded-sm border border-line/70 bg-sheet px-1.5 text-[14px]';
const WHEN: readonly (readonly [string, readonly PassName[]])[] = [
  ['1st time', [1]],
  ['2nd time', [2]],
  ['3rd time', [3]],
  ['4th time', [4]],
  ['last time', ['last']],
  ['odd times', ['odd']],
  ['even times', ['even']],
];

interface Played {
  readonly use: Use;
  readonly words: string;
  readonly variants: readonly { readonly id: string; readonly name: string }[];
}

/** What is played in a section, use by use, in words. */
function usesIn(piece: Piece, section: Section): Played[] {
  return section.rows.flatMap((row) => {
    const part = piece.parts.find((one) => one.id === row.part);
    return row.uses.flatMap((use, i) => {
      const riff = part?.riffs.find((one) => one.id === use.riff);
      if (!part || !riff) return [];
      const again = row.uses.filter((one, k) => k < i && one.riff === use.riff).length;
      return [
        {
          use,
          words: `${part.name}: ${riff.name}${again > 0 ? ` (${again + 1})` : ''}`,
          variants: riff.variants ?? [],
        },
      ];
    });
  });
}

/** What a place in the order plays otherwise on some passes, and what leads back into its beginning. */
export function PassEditor({ piece, section, edit }: Props) {
  const entries = piece.form.filter((entry) => entry.section === section.id);
  const [where, setWhere] = useState('');
  const [what, setWhat] = useState('');
  const [when, setWhen] = useState(4);
  const [instead, setInstead] = useState('silent');
  const uses = usesIn(piece, section);
  const map = mapOf(piece);
  const barOf = (entry: FormEntry): number =>
    (map.passes.find((pass) => pass.entry?.id === entry.id)?.firstBar ?? 0) + 1;
  if (uses.length === 0) return null;
  if (entries.length === 0)
    return (
      <section aria-label="What differs by pass" className="border-t border-rule pt-2">
        <h3 className="text-base">What differs by pass</h3>
        <p className="text-sm text-soft">Say the order of playing first; then each place in it can differ.</p>
        {piece.form.length === 0 ? (
          <Button
            size="small"
            className="mt-1"
            onClick={() => edit(ok({ type: 'setForm', form: spelledRoute(piece) }))}
          >
            Sections in this order
          </Button>
        ) : null}
      </section>
    );
  const entry = entries.find((one) => one.id === where) ?? entries[0];
  const use = uses.find((one) => one.use.id === what) ?? uses[0];
  const nameOf = (id: string): string => uses.find((one) => one.use.id === id)?.words ?? '?';
  const variantName = (useId: string, id: string | undefined): string =>
    uses.find((one) => one.use.id === useId)?.variants.find((one) => one.id === id)?.name ?? '?';
  const add = (): Result<unknown> => {
    if (!entry || !use) return fail('nothing', 'Choose what differs.');
    if (when === WHEN.length)
      return instead === 'silent'
        ? fail('joint', 'A joint needs a variant.')
        : edit(setJoint(piece, entry.id, use.use.id, instead));
    return edit(
      setDifference(
        piece,
        entry.id,
        use.use.id,
        WHEN[when]?.[1] ?? ['last'],
        instead === 'silent' ? 'silent' : { variant: instead },
      ),
    );
  };
  return (
    <section aria-label="What differs by pass" className="flex flex-col gap-1.5 border-t border-rule pt-2">
      <h3 className="text-base">What differs by pass</h3>
      <ul className="flex flex-col text-[15px]">
        {entries.flatMap((one) => [
          ...(one.differences ?? []).map((told) => (
            <Told
              key={`${one.id} ${told.use} ${String(told.passes)}`}
              words={`From bar ${barOf(one)}, ${passTimes(told.passes)}: ${nameOf(told.use)} ${told.leaveOut ? 'is silent' : `as ${variantName(told.use, told.variant)}`}`}
              onDelete={() => edit(setDifference(piece, one.id, told.use, told.passes, null))}
            />
          )),
          ...(one.joints ?? []).map((joint) => (
            <Told
              key={`${one.id} ${joint.use} joint`}
              words={`From bar ${barOf(one)}, into the repeat: ${nameOf(joint.use)} as ${variantName(joint.use, joint.variant)}`}
              onDelete={() => edit(setJoint(piece, one.id, joint.use, null))}
            />
          )),
        ])}
      </ul>
      <div className="grid grid-cols-2 gap-1.5">
        <select
          aria-label="Place in the order"
          className={pick}
          value={entry?.id}
          onChange={(event) => setWhere(event.target.value)}
        >
          {entries.map((one) => (
            <option key={one.id} value={one.id}>
              from bar {barOf(one)}, {playsWords(one.plays)}
            </option>
          ))}
        </select>
        <select
          aria-label="What differs"
          className={pick}
          value={use?.use.id}
          onChange={(event) => setWhat(event.target.value)}
        >
          {uses.map((one) => (
            <option key={one.use.id} value={one.use.id}>
              {one.words}
            </option>
          ))}
        </select>
        <select
          aria-label="On which pass"
          className={pick}
          value={when}
          onChange={(event) => setWhen(Number(event.target.value))}
        >
          {WHEN.map(([words], i) => (
            <option key={words} value={i}>
              {words}
            </option>
          ))}
          <option value={WHEN.length}>leading into the repeat</option>
        </select>
        <select
          aria-label="Played instead"
          className={pick}
          value={instead}
          onChange={(event) => setInstead(event.target.value)}
        >
          <option value="silent">silent</option>
          {use?.variants.map((one) => (
            <option key={one.id} value={one.id}>
              as {one.name}
            </option>
          ))}
        </select>
      </div>
      <Button size="small" className="self-start" onClick={add}>
        Add the difference
      </Button>
    </section>
  );
}

function Told({ words, onDelete }: { readonly words: string; readonly onDelete: () => void }) {
  return (
    <li className="flex items-center gap-1">
      <span className="min-w-0 flex-1">{words}</span>
      <Button tone="quiet" size="icon" className="size-7" aria-label={`Delete: ${words}`} onClick={onDelete}>
        <X size={14} aria-hidden />
      </Button>
    </li>
  );
}

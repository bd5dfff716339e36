'use client';

import { useEffect, useMemo, useState } from 'react';
import { stateOf, type CheckFinding, type FindingState } from '@/core/check';
import { dropHearing } from '@/core/command';
import type { Edit } from '@/core/edit';
import { findRiff, type Claim, type Piece } from '@/core/score';
import { Frame } from '@/features/piece/frame';
import { useFindings, usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { SelectField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import { Claims } from './claims';
import { FindingCard } from './finding-card';
import { HarmonyTable } from './harmony-table';
import { placeOf } from './where';

/** Which list of the check is looked at. */
export type Shown = 'open' | 'unsaid' | 'later' | 'meant' | 'probably';

export const LISTS: readonly (readonly [Shown, string])[] = [
  ['open', 'Questions'],
  ['unsaid', 'Unsaid'],
  ['later', 'Later'],
  ['meant', 'Meant'],
  ['probably', 'Probably meant'],
];

/** No more at once than one can look into before the next pupil. */
const HANDFUL = 6;

interface Judged {
  readonly finding: CheckFinding;
  readonly state: FindingState;
}

const listOf = ({ finding, state }: Judged): Shown =>
  state === 'open' || state === 'again' ? (finding.severity === 'open' ? 'unsaid' : 'open') : state;

/** Proof-reading: what doesn't add up, each a question with its answers; what is unsaid; what was said of it. */
export function CheckPage({ start }: { readonly start: Shown }) {
  const piece = usePiece((state) => state.document);
  const dispatch = usePiece((state) => state.dispatch);
  const { findings, checker } = useFindings();
  const toast = useToast();
  const [chosen, setChosen] = useState<Shown | null>(start === 'open' ? null : start);
  useEffect(() => checker?.hurry(), [checker]);
  const judged = useMemo(
    () => (findings ?? []).map((finding): Judged => ({ finding, state: stateOf(finding, piece.answers) })),
    [findings, piece.answers],
  );
  const lists = useMemo(() => {
    const out = new Map<Shown, Judged[]>(LISTS.map(([name]) => [name, []]));
    for (const one of judged) out.get(listOf(one))?.push(one);
    return out;
  }, [judged]);
  const edit = (made: Edit, what?: string): void => {
    const done = dispatch(made, what);
    if (!done.ok) toast(`${done.error.words} The piece changed meanwhile: look at the question again.`);
  };
  const count = (name: Shown): number => lists.get(name)?.length ?? 0;
  // Where nothing asks, what is unsaid is what there is to look at.
  const shown = chosen ?? (count('open') === 0 && count('unsaid') > 0 ? 'unsaid' : 'open');
  return (
    <Frame>
      <div className="flex min-h-0 flex-1 gap-8 py-5 max-[899px]:flex-col max-[899px]:gap-4 max-[899px]:overflow-y-auto max-[899px]:py-3">
        <main className="min-h-0 min-w-0 flex-1 overflow-y-auto pr-2 max-[899px]:flex-none max-[899px]:overflow-visible max-[899px]:pr-0">
          <h2 className="text-2xl">
            {findings === null ? 'Reading the piece…' : summary(count('open'), count('unsaid'))}
          </h2>
          <p className="mt-1 text-soft">
            {findings === null
              ? 'Everything said is held against everything else.'
              : count('open') > 0
                ? 'Each is a question: mend it, or say it is meant. Nothing is corrected by itself.'
                : count('unsaid') > 0
                  ? 'All that is written agrees. What is unsaid may stay so; it is printed as open.'
                  : 'All that is written agrees, as far as the program can tell.'}
          </p>
          <div role="group" aria-label="Which questions" className="mt-3 flex flex-wrap gap-1.5">
            {LISTS.filter(([name]) => name === 'open' || count(name) > 0).map(([name, words]) => (
              <Button
                key={name}
                size="small"
                aria-pressed={shown === name}
                onClick={() => setChosen(name)}
                className={shown === name ? 'border-ink bg-ink text-sheet' : ''}
              >
                {words} {count(name)}
              </Button>
            ))}
          </div>
          <FindingList key={shown} piece={piece} list={lists.get(shown) ?? []} onEdit={edit} />
        </main>
        <aside className="flex w-96 shrink-0 flex-col gap-6 overflow-y-auto pr-1 max-[899px]:w-full max-[899px]:overflow-visible">
          <WholeClaims piece={piece} onEdit={edit} />
          <Hearings piece={piece} onEdit={edit} />
          <HarmonyTable piece={piece.id} checker={checker} findings={findings} />
        </aside>
      </div>
    </Frame>
  );
}

function summary(open: number, unsaid: number): string {
  const questions = open === 0 ? '' : `${open} ${open === 1 ? 'question' : 'questions'} open`;
  const rest = unsaid === 0 ? '' : `${unsaid} unsaid`;
  return [questions, rest].filter(Boolean).join(', ') || 'Ready to hand out';
}

/** Questions grouped by place, the group with the likeliest slip first; a handful until more are wanted. */
function FindingList({
  piece,
  list,
  onEdit,
}: {
  readonly piece: Piece;
  readonly list: readonly Judged[];
  readonly onEdit: (edit: Edit, what?: string) => void;
}) {
  const [all, setAll] = useState(false);
  const groups = useMemo(() => {
    const out = new Map<string, Judged[]>();
    for (const one of all ? list : list.slice(0, HANDFUL)) {
      const { group } = placeOf(piece, one.finding);
      out.set(group, [...(out.get(group) ?? []), one]);
    }
    return [...out];
  }, [piece, list, all]);
  if (list.length === 0) return <p className="mt-6 text-lg text-soft">Nothing here.</p>;
  return (
    <div className="mt-4 flex flex-col gap-5">
      {groups.map(([group, members]) => (
        <section key={group} aria-label={group} className="flex flex-col gap-2">
          <h3 className="text-lg">{group}</h3>
          <ul className="flex flex-col gap-3">
            {members.map(({ finding, state }) => (
              <FindingCard key={finding.id} {...{ piece, finding, state, onEdit }} />
            ))}
          </ul>
        </section>
      ))}
      {!all && list.length > HANDFUL ? (
        <Button className="self-start" onClick={() => setAll(true)}>
          Show {list.length - HANDFUL} more
        </Button>
      ) : null}
    </div>
  );
}

/** Claims about the piece, a part, a section or a riff. */
function WholeClaims({ piece, onEdit }: { readonly piece: Piece; readonly onEdit: (edit: Edit) => void }) {
  const [about, setAbout] = useState('');
  const options = useMemo(
    () => [
      { value: '', name: 'the piece', claim: {} },
      ...piece.parts.flatMap((part) => [
        { value: `part ${part.id}`, name: part.name, claim: { part: part.id } },
        ...part.riffs.map((riff) => ({
          value: `riff ${riff.id}`,
          name: `${part.name}, ${riff.name}`,
          claim: { part: part.id, riff: riff.id } satisfies Omit<Claim, 'id' | 'words'>,
        })),
      ]),
      ...piece.sections.map((section) => ({
        value: `section ${section.id}`,
        name: section.name,
        claim: { section: section.id },
      })),
    ],
    [piece.parts, piece.sections],
  );
  const chosen = options.find((one) => one.value === about) ?? options[0];
  return (
    <div className="flex flex-col gap-2">
      <Claims piece={piece} about={chosen?.claim ?? {}} listed={() => true} onEdit={onEdit} />
      <SelectField label="Of what" value={about} onChange={(event) => setAbout(event.target.value)}>
        {options.map((one) => (
          <option key={one.value} value={one.value}>
            {one.name}
          </option>
        ))}
      </SelectField>
    </div>
  );
}

/** Recordings that are compared with what is written. */
function Hearings({ piece, onEdit }: { readonly piece: Piece; readonly onEdit: (edit: Edit) => void }) {
  const hearings = piece.hearings ?? [];
  if (hearings.length === 0) return null;
  return (
    <section aria-label="Compared with recordings" className="flex flex-col gap-2">
      <h2 className="text-lg">Compared with recordings</h2>
      <ul className="flex flex-col divide-y divide-rule border-y border-rule text-[15px]">
        {hearings.map((one) => (
          <li key={one.riff} className="flex items-center justify-between gap-2 py-1.5">
            <span>
              {findRiff(piece, one.riff)?.riff.name ?? 'a deleted riff'} against “{one.source}”, {one.notes.length}{' '}
              notes heard
            </span>
            <Button size="small" onClick={() => onEdit(dropHearing(one.riff))}>
              Let go
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

import { useMemo, useState } from 'react';
import { easierBars, STARTER, type EasierBar, type EasierLimits } from '@/core/arrange';
import type { Result } from '@/core/base';
import { acceptEasier, levelPart, withSomeForm } from '@/core/command';
import type { Edit } from '@/core/edit';
import { comparedBars, resolve } from '@/core/form';
import { keyOf, tempoOf, type Part, type Piece, type Riff } from '@/core/score';
import { ComparedBars } from '@/features/desk/compare-dialog';
import { Button } from '@/ui/button';
import { useSchools } from '@/ui/schools';

const LEVELS = {
  recorded: 'as recorded',
  live: 'as played live',
  teaching: 'for teaching',
  starter: 'for a start',
} as const;
const box = 'min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px]';

/** Levels of one part under one bar numbering, with their differences, and proposals for an easier one. */
export function Levels({ piece, edit }: { readonly piece: Piece; readonly edit: (made: Result<Edit>) => boolean }) {
  const [partId, setPart] = useState(piece.parts[0]?.id ?? '');
  const [level, setLevel] = useState<NonNullable<Part['level']>>('starter');
  const [chosen, setChosen] = useState<string | null>(null);
  const part = piece.parts.find((one) => one.id === partId);
  // Whatever is an edition of the same model stands together.
  const model = part?.editionOf && piece.parts.some((one) => one.id === part.editionOf) ? part.editionOf : partId;
  const editions = piece.parts.filter((one) => one.id !== partId && (one.editionOf === model || one.id === model));
  const edition = editions.find((one) => one.id === chosen) ?? editions[0] ?? null;
  const make = (): void => {
    const made = levelPart(piece, partId, level, `${part?.name ?? 'Part'}, ${LEVELS[level]}`.slice(0, 120));
    if (edit(made.ok ? { ok: true, value: made.value.edit } : made) && made.ok) setChosen(made.value.part);
  };
  return (
    <div className="flex flex-col gap-5">
      <section aria-label="Levels of a part" className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col gap-0.5">
          <span className="text-sm font-semibold text-soft">Part</span>
          <select className={box} value={partId} onChange={(event) => setPart(event.target.value)}>
            {piece.parts.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col gap-0.5">
          <span className="text-sm font-semibold text-soft">New level</span>
          <select
            className={box}
            value={level}
            onChange={(event) => setLevel(event.target.value as NonNullable<Part['level']>)}
          >
            {Object.entries(LEVELS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <Button tone="yours" onClick={make}>
          Make the level
        </Button>
        {editions.length > 1 ? (
          <label className="flex flex-col gap-0.5">
            <span className="text-sm font-semibold text-soft">Beside it</span>
            <select className={box} value={edition?.id ?? ''} onChange={(event) => setChosen(event.target.value)}>
              {editions.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          </label>
        ) : null}
      </section>
      {part && edition ? (
        <div className="grid grid-cols-2 gap-10 max-[899px]:grid-cols-1">
          <Proposals {...{ piece, edit }} part={edition} />
          <section aria-label="How the level differs">
            <h3 className="mb-2 border-b border-rule pb-1 text-lg">
              {edition.name} beside {part.name}
            </h3>
            <Compared piece={piece} part={part} edition={edition} />
          </section>
        </div>
      ) : (
        <p className="text-soft">
          There is no other level of this part yet. A level begins as the part is, note for note; what is changed in it
          changes nothing else.
        </p>
      )}
    </div>
  );
}

function Compared({ piece, part, edition }: { readonly piece: Piece; readonly part: Part; readonly edition: Part }) {
  const schools = useSchools();
  const bars = useMemo(() => {
    const whole = withSomeForm(piece);
    const [a, b] = [resolve(whole, part.id), resolve(whole, edition.id)];
    return a && b ? comparedBars(a, b, { key: keyOf(piece, null), schools }) : [];
  }, [piece, part, edition, schools]);
  return <ComparedBars bars={bars} />;
}

/** What would make a level easier, bar by bar, each taken or left. */
function Proposals({
  piece,
  part,
  edit,
}: {
  readonly piece: Piece;
  readonly part: Part;
  readonly edit: (made: Result<Edit>) => boolean;
}) {
  const [limits, setLimits] = useState<EasierLimits>(STARTER);
  const list = useMemo(
    () =>
      part.riffs.flatMap((riff) =>
        easierBars(riff, part.setup, tempoOf(piece, riff), limits, part.player?.profile).map(
          (bar): { readonly riff: Riff; readonly bar: EasierBar } => ({ riff, bar }),
        ),
      ),
    [piece, part, limits],
  );
  return (
    <section aria-label="Easier, bar by bar" className="flex flex-col gap-2">
      <h3 className="border-b border-rule pb-1 text-lg">{part.name}, easier bar by bar</h3>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 text-[15px]">
        <label className="flex items-center gap-2">
          notes a second, at most
          <input
            type="number"
            min={1}
            max={20}
            value={limits.notesPerSecond}
            onChange={(event) =>
              setLimits({ ...limits, notesPerSecond: Math.max(1, Math.min(20, Number(event.target.value) || 1)) })
            }
            className="min-h-8 w-14 rounded-sm border border-line/70 bg-sheet px-1.5 text-right font-figures"
          />
        </label>
        <label className="flex items-center gap-2">
          reach, % of the hand’s
          <input
            type="number"
            min={30}
            max={130}
            step={10}
            value={Math.round(limits.reach * 100)}
            onChange={(event) =>
              setLimits({ ...limits, reach: Math.max(30, Math.min(130, Number(event.target.value) || 80)) / 100 })
            }
            className="min-h-8 w-16 rounded-sm border border-line/70 bg-sheet px-1.5 text-right font-figures"
          />
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={limits.barre}
            onChange={(event) => setLimits({ ...limits, barre: event.target.checked })}
          />
          barre allowed
        </label>
      </div>
      {list.length === 0 ? (
        <p className="text-soft">Nothing is beyond these limits. What you locked stays as it is in any case.</p>
      ) : (
        <ul className="text-[15px]">
          {list.slice(0, 100).map(({ riff, bar }) => (
            <li
              key={`${riff.id} ${bar.bar} ${bar.rule}`}
              className="flex items-center gap-3 border-b border-rule/60 py-1"
            >
              <span className="w-40 shrink-0 truncate">
                {riff.name}, {bar.bar < 0 ? 'pickup' : `bar ${bar.bar + 1}`}
              </span>
              <span className="min-w-0 flex-1">
                <b>{bar.rule}</b>: {bar.words}
              </span>
              <Button
                size="small"
                aria-label={`Take it: ${riff.name}, bar ${bar.bar + 1}, ${bar.rule}`}
                onClick={() => edit({ ok: true, value: acceptEasier(part.id, riff.id, bar) })}
              >
                Take it
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

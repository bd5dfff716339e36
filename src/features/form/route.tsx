import { Repeat, X } from 'lucide-react';
import { useState } from 'react';
import { patchEntry, setRoute, spelledRoute } from '@/core/command';
import { counted, ok, type Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { parseRoute, playsWords, printRoute, stopWords, type FormMap, type RouteItem } from '@/core/form';
import type { FormEntry, Piece } from '@/core/score';
import { Button } from '@/ui/button';
import { cn } from '@/ui/cn';
import { LineField } from './line-field';

interface Props {
  readonly piece: Piece;
  readonly map: FormMap;
  readonly edit: (made: Result<Edit>) => Result<unknown>;
  /** The place in the route that sounds now. */
  readonly sounding: number | null;
  readonly onPlay: (entryIndex: number) => void;
  readonly onLoop: (entryIndex: number) => void;
}

const DRAG = 'application/x-intonazione-place';

const itemOf = (section: string, name: string): RouteItem => ({ section, name, plays: 1, stop: null, from: 0, to: 0 });
const routeItems = (entries: readonly FormEntry[]): RouteItem[] =>
  entries.map((entry) => ({ ...itemOf(entry.section, ''), plays: entry.plays, stop: entry.stop ?? null }));

/** How a typed order is understood, word by word. */
function Understood({ line, piece }: { readonly line: string; readonly piece: Piece }) {
  const read = parseRoute(line, piece.sections);
  if (!read.ok) return <span className="text-trouble">{read.error.words}</span>;
  return (
    <>
      {read.value.map((one: RouteItem, i) => (
        <span key={i} className="mr-2 inline-block">
          <b>{one.name}</b>
          {one.plays > 1 ? ` ${playsWords(one.plays)}` : ''}
          {one.stop ? `, ${stopWords(one.stop)}` : ''}
          {one.section === null ? ' (new, 8 bars)' : ''}
        </span>
      ))}
    </>
  );
}

/** The order as it is played: places with their bar numbers, to be dragged, moved by keys, typed. */
export function Route({ piece, map, edit, sounding, onPlay, onLoop }: Props) {
  const [over, setOver] = useState<number | null>(null);
  const said = piece.form.length > 0;
  const entries = said ? piece.form : spelledRoute(piece);
  const put = (form: readonly FormEntry[]): Result<unknown> => edit(ok({ type: 'setForm', form }));
  const move = (from: number, to: number): void => {
    const next = [...entries];
    const [one] = next.splice(from, 1);
    if (!one || to < 0 || to > next.length) return;
    next.splice(to, 0, one);
    put(next);
  };
  const remove = (index: number): void => void put(entries.filter((_, i) => i !== index));
  const onKey = (event: React.KeyboardEvent<HTMLElement>, index: number): void => {
    if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      event.preventDefault();
      const to = index + (event.key === 'ArrowUp' ? -1 : 1);
      move(index, to);
      const list = event.currentTarget.closest('ol');
      requestAnimationFrame(() => list?.querySelectorAll<HTMLElement>('[data-place]')[to]?.focus());
    } else if (event.key === 'Delete') {
      event.preventDefault();
      remove(index);
    } else if (event.key === '+' || event.key === '-') {
      event.preventDefault();
      const entry = entries[index];
      if (!entry) return;
      const plays = Math.max(1, Math.min(999, entry.plays + (event.key === '+' ? 1 : -1)));
      if (said) edit(patchEntry(piece, entry.id, (one) => ({ ...one, plays })));
      else put(entries.map((one, i) => (i === index ? { ...one, plays } : one)));
    }
  };
  return (
    <section aria-label="As it is played" className="flex flex-col gap-2">
      <h2 className="text-base">As it is played</h2>
      <ol className="relative flex flex-col max-[899px]:flex-row max-[899px]:flex-wrap max-[899px]:gap-x-1">
        {entries.map((entry, index) => {
          const section = piece.sections.find((one) => one.id === entry.section);
          const pass = map.passes.find((one) => one.entryIndex === index);
          return (
            <li
              key={entry.id}
              draggable
              onDragStart={(event) => event.dataTransfer.setData(DRAG, String(index))}
              onDragOver={(event) => {
                if (!event.dataTransfer.types.includes(DRAG)) return;
                event.preventDefault();
                setOver(index);
              }}
              onDragLeave={() => setOver(null)}
              onDrop={(event) => {
                setOver(null);
                const from = Number(event.dataTransfer.getData(DRAG));
                if (Number.isInteger(from)) move(from, index);
              }}
              className={cn(
                'group flex items-center gap-1 rounded-sm border-t-2 border-transparent',
                sounding === index && 'bg-chosen',
                over === index && 'border-proposed',
              )}
            >
              <button
                type="button"
                data-place={index}
                onClick={() => onPlay(index)}
                onKeyDown={(event) => onKey(event, index)}
                title="Plays from here. Alt with arrows moves it, + and - set how often, Delete takes it out."
                className="flex min-h-8 min-w-0 flex-1 items-center gap-2 px-1 text-left"
              >
                <span
                  aria-hidden
                  className={cn('size-2.5 shrink-0 rounded-full border-2 border-ink', sounding === index && 'bg-ink')}
                />
                <span className="min-w-0 flex-1 leading-[18px]">
                  <b className="font-semibold">{section?.name}</b>
                  {entry.plays > 1 ? <span className="text-[14px] text-soft"> {entry.plays} times</span> : null}
                  {entry.stop ? <span className="block text-[13px] text-soft">{stopWords(entry.stop)}</span> : null}
                </span>
                <span className="font-figures text-[14px] text-soft">
                  <span className="sr-only">from bar </span>
                  {(pass?.firstBar ?? 0) + 1}
                </span>
              </button>
              <button
                type="button"
                aria-label={`Loop ${section?.name ?? ''} from bar ${(pass?.firstBar ?? 0) + 1}`}
                onClick={() => onLoop(index)}
                className="rounded-sm p-1 text-soft hover:bg-rule/50 hover:text-ink max-[899px]:hidden"
              >
                <Repeat size={14} aria-hidden />
              </button>
              <button
                type="button"
                aria-label={`Take ${section?.name ?? ''} at bar ${(pass?.firstBar ?? 0) + 1} out of the order`}
                onClick={() => remove(index)}
                className="rounded-sm p-1 text-soft hover:bg-rule/50 hover:text-ink"
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          );
        })}
      </ol>
      {map.bars > 0 ? (
        <p className="text-[14px] text-soft max-[899px]:hidden">{counted(map.bars, 'bar')} in all</p>
      ) : null}
      <LineField
        label="Type it"
        figures
        rows={3}
        value={printRoute(piece.form, piece.sections)}
        hint="verse 2 times, refrain, (bridge, refrain) twice, end slowing"
        onTake={(line) => {
          const read = parseRoute(line, piece.sections);
          return read.ok ? edit(setRoute(piece, read.value)) : read;
        }}
        told={(line) => <Understood line={line} piece={piece} />}
      />
      <div className="flex flex-wrap gap-1">
        {piece.sections.map((section) => (
          <Button
            key={section.id}
            size="small"
            title={`Puts ${section.name} at the end`}
            onClick={() => edit(setRoute(piece, [...routeItems(entries), itemOf(section.id, section.name)]))}
          >
            + {section.name}
          </Button>
        ))}
      </div>
    </section>
  );
}

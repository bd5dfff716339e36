import { X } from 'lucide-react';
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import type { Clue, FinderQuestion, FoundClue } from '@/core/setup-finder';
import { asciiPitch } from '@/core/pitch';
import { barOf } from '@/core/time';
import { Button } from '@/ui/button';

/** The clues and the one key each. */
const KINDS: readonly {
  readonly kind: Exclude<Clue['kind'], 'string'>;
  readonly key: string;
  readonly words: string;
  readonly many?: true;
}[] = [
  { kind: 'open', key: 'o', words: 'sounds open' },
  { kind: 'stopped', key: 's', words: 'is stopped' },
  { kind: 'ring', key: 'r', words: 'ring together', many: true },
  { kind: 'hammeredFromOpen', key: 'h', words: 'hammered from open' },
  { kind: 'slack', key: 'l', words: 'sounds slack' },
  { kind: 'drone', key: 'd', words: 'drones on' },
  { kind: 'shape', key: 'p', words: 'one shape moves', many: true },
];

interface Spot {
  readonly event: string;
  readonly note: number;
  readonly bar: number;
  readonly name: string;
}

/** The notes by bar; a clue is said of the chosen ones with one key. */
export function ClueDesk({
  question,
  clues,
  found,
  onChange,
}: {
  readonly question: FinderQuestion;
  readonly clues: readonly Clue[];
  readonly found: readonly FoundClue[];
  readonly onChange: (clues: readonly Clue[]) => void;
}) {
  const spots = useMemo(
    () =>
      question.events.flatMap((event) =>
        event.notes.map((note, k): Spot => ({
          ...{ event: event.id, note: k, bar: barOf(question.meters, event.at).bar },
          name: asciiPitch(note.pitch),
        })),
      ),
    [question],
  );
  const [at, setAt] = useState(0);
  const [from, setFrom] = useState<number | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const here = Math.min(at, spots.length - 1);
  const [low, high] = from === null ? [here, here] : [Math.min(from, here), Math.max(from, here)];
  const go = (to: number, extend: boolean): void => {
    const next = Math.max(0, Math.min(spots.length - 1, to));
    setFrom(extend ? (from ?? here) : null);
    setAt(next);
    list.current?.querySelector<HTMLElement>(`[data-spot="${next}"]`)?.focus();
  };
  const add = (made: readonly Clue[]): void => {
    const key = (clue: Clue): string => JSON.stringify(clue);
    const fresh = made.filter((clue) => !clues.some((one) => key(one) === key(clue)));
    // The same key again takes it back.
    onChange(
      fresh.length > 0 ? [...clues, ...fresh] : clues.filter((one) => !made.some((clue) => key(one) === key(clue))),
    );
  };
  const say = (kind: Exclude<Clue['kind'], 'string'>): void => {
    const chosen = spots.slice(low, high + 1);
    const spec = KINDS.find((one) => one.kind === kind);
    const events = [...new Set(chosen.map((one) => one.event))];
    if (spec?.many && events.length < 2) return;
    const made: Clue[] =
      kind === 'ring' || kind === 'shape'
        ? [{ kind, events }]
        : kind === 'hammeredFromOpen'
          ? events.map((event) => ({ kind, event }))
          : chosen.map(({ event, note }) => ({ kind, event, note }));
    add(made);
  };
  const press = (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
      event.preventDefault();
      go(here + (event.key === 'ArrowRight' ? 1 : -1), event.shiftKey);
      return;
    }
    if (/^[1-9]$/.test(event.key)) {
      event.preventDefault();
      add(
        spots.slice(low, high + 1).map(({ event: id, note }) => ({
          ...{ kind: 'string' as const, event: id, note, string: Number(event.key) },
        })),
      );
      return;
    }
    const spec = KINDS.find((one) => one.key === event.key.toLowerCase());
    if (!spec) return;
    event.preventDefault();
    say(spec.kind);
  };
  const bars = new Map<number, { spot: Spot; i: number }[]>();
  spots.forEach((spot, i) => bars.set(spot.bar, [...(bars.get(spot.bar) ?? []), { spot, i }]));
  const marks = useMemo(() => marksOf(clues), [clues]);
  const missing = found.filter((one) => !clues.some((clue) => JSON.stringify(clue) === JSON.stringify(one.clue)));
  return (
    <div className="flex flex-col gap-3">
      <div ref={list} role="group" aria-label="Notes" className="max-h-72 overflow-y-auto">
        {[...bars].map(([bar, notes]) => (
          <div key={bar} className="flex gap-2 border-t border-rule py-1">
            <span className="w-8 shrink-0 pt-1 text-right font-figures text-sm text-soft">{bar + 1}</span>
            <div className="flex flex-wrap gap-1">
              {notes.map(({ spot, i }) => {
                const said = marks.get(`${spot.event}.${spot.note}`) ?? marks.get(`${spot.event}.*`);
                const chosen = i >= low && i <= high;
                return (
                  <button
                    key={i}
                    type="button"
                    data-spot={i}
                    tabIndex={i === here ? 0 : -1}
                    aria-pressed={chosen}
                    aria-label={`${spot.name}, bar ${spot.bar + 1}${said ? `, ${said.join(', ')}` : ''}`}
                    onKeyDown={press}
                    onClick={(event) => go(i, event.shiftKey)}
                    className={`min-h-8 min-w-10 rounded-sm border px-1.5 font-figures text-[15px] ${chosen ? 'border-ink bg-chosen text-ink' : 'border-rule bg-sheet'} ${said ? 'font-bold underline decoration-yours decoration-2 underline-offset-4' : ''}`}
                  >
                    {spot.name}
                  </button>
                );
              })}
            </div>
          </div>
        ))}
      </div>
      <div role="group" aria-label="Clue" className="flex flex-wrap gap-1.5">
        {KINDS.map(({ kind, key, words, many }) => (
          <Button key={kind} size="small" disabled={many && low === high} onClick={() => say(kind)}>
            <kbd className="font-figures font-bold">{key.toUpperCase()}</kbd> {words}
          </Button>
        ))}
      </div>
      <p className="text-sm text-soft">
        Choose a note, with Shift and the arrow keys several, then press the letter; 1 to 9 say on which string you saw
        it. The same again takes it back.
      </p>
      {clues.length > 0 ? (
        <ul aria-label="Clues" className="flex flex-wrap gap-1.5 text-[15px]">
          {clues.map((clue, i) => (
            <li key={i} className="flex items-center gap-1 rounded-sm border border-yours/60 bg-sheet pl-2">
              {clueWords(clue, spots)}
              <Button
                size="small"
                tone="quiet"
                aria-label={`Delete the clue ${clueWords(clue, spots)}`}
                onClick={() => onChange(clues.filter((_, k) => k !== i))}
              >
                <X size={14} aria-hidden />
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      {missing.length > 0 ? (
        <ul
          aria-label="Clues the program sees"
          className="flex flex-col gap-1 border-l-4 border-question pl-3 text-[15px]"
        >
          {missing.map((one) => (
            <li key={one.words} className="flex items-center justify-between gap-3">
              <span>{one.words}</span>
              <Button size="small" aria-label={`Yes: ${one.words}`} onClick={() => onChange([...clues, one.clue])}>
                Yes
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}

const wordsOf = (clue: Clue): string =>
  clue.kind === 'string'
    ? `on string ${clue.string}${clue.fret === undefined ? '' : `, fret ${clue.fret}`}`
    : (KINDS.find((one) => one.kind === clue.kind)?.words ?? '');

/** What is said of each note, by event and index; an asterisk for all of an event. */
function marksOf(clues: readonly Clue[]): Map<string, string[]> {
  const marks = new Map<string, string[]>();
  for (const clue of clues) {
    const words = wordsOf(clue);
    const keys =
      'events' in clue
        ? clue.events.map((id) => `${id}.*`)
        : [`${clue.event}.${'note' in clue && clue.note !== null ? clue.note : '*'}`];
    for (const key of keys) marks.set(key, [...(marks.get(key) ?? []), words]);
  }
  return marks;
}

function clueWords(clue: Clue, spots: readonly Spot[]): string {
  const words = wordsOf(clue);
  const events = 'events' in clue ? clue.events : [clue.event];
  const spot = spots.find(
    (one) => one.event === events[0] && (!('note' in clue) || clue.note === null || one.note === clue.note),
  );
  if (!spot) return words;
  return events.length > 1
    ? `${events.length} notes from bar ${spot.bar + 1}: ${words}`
    : `${spot.name}, bar ${spot.bar + 1}: ${words}`;
}

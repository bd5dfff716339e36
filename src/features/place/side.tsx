import { Link } from '@/ui/link';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { ok } from '@/core/base';
import type { AnchorChoice, Blocked } from '@/core/place';
import { endOf } from '@/core/score';
import type { Quarter } from '@/core/time';
import type { Key } from '@/core/pitch';
import type { PhraseAnswer, Weighed } from '@/workers/place.worker';
import { AskCard } from './ask-card';
import { phraseOf } from './asking';
import { Overview } from './bench-parts';
import { commandsFor, type BenchContext } from './commands';
import { CompareHands } from './compare-hands';
import { EvidenceFields } from './evidence';
import { NotePanel } from './note-panel';
import type { CheckFinding } from '@/core/check';
import { Claims } from '@/features/check/claims';
import { RiffQuestions } from '@/features/check/riff-questions';
import { GripNames } from './grip-names';
import { Questions } from './questions';
import { Readings } from './alternatives-panel';
import { Recall } from './recall';
import { Regions } from './regions';
import { RiffPanel } from './riff-panel';
import { Ways } from './ways';
import { Wishes } from './wishes';

export type SideTab = 'note' | 'phrase' | 'hand' | 'riff';

interface Props {
  readonly desk: BenchContext;
  readonly lines: readonly string[];
  readonly keyShown: Key | null;
  readonly weighed: Weighed | null;
  readonly blocked: readonly Blocked[];
  /** What the check asks about the riff. */
  readonly asked: readonly CheckFinding[];
  /** Pitch class of the bass under what is chosen, where one is said. */
  readonly bass: number | null;
  readonly phrases: readonly PhraseAnswer[] | null;
  readonly asking: PhraseAnswer | null;
  readonly onAnswer: (choice: AnchorChoice | undefined) => void;
  readonly onPass: () => void;
  readonly tab: SideTab;
  readonly onTab: (tab: SideTab) => void;
}

const TABS: readonly (readonly [SideTab, string])[] = [
  ['note', 'Note'],
  ['phrase', 'Phrase'],
  ['hand', 'Hand'],
  ['riff', 'Riff'],
];

/** Beside the strip: what the program asks, and what is chosen seen as note, phrase, hand and riff. */
export function Side({
  desk,
  lines,
  keyShown,
  weighed,
  blocked,
  asked,
  bass,
  phrases,
  asking,
  onAnswer,
  onPass,
  tab,
  onTab,
}: Props) {
  const { piece, part, riff, chosen, edit } = desk;
  const { focus, noteIndex, events } = chosen;
  const note = focus?.notes[noteIndex] ?? null;
  const [open, setOpen] = useState(false);
  const showEvent = (id: string): void => {
    const event = riff.events.find((event) => event.id === id);
    if (event) chosen.choose(event, null);
  };
  const inHand = phrases ? phraseOf(riff, phrases, chosen.selection.focus) : null;
  const shownPhrase =
    inHand ?? (phrases && phrases.length > 0 ? [...phrases].sort((a, b) => a.sure - b.sure)[0] : null);
  return (
    <aside className="flex w-72 shrink-0 flex-col gap-5 overflow-y-auto pr-1 max-[899px]:max-h-[46dvh] max-[899px]:w-full max-[899px]:border-t max-[899px]:border-rule max-[899px]:pt-2">
      {asking ? (
        <AskCard
          part={part}
          riff={riff}
          keyShown={keyShown}
          phrase={asking}
          onAnswer={onAnswer}
          onShow={showEvent}
          onPass={onPass}
        />
      ) : null}
      <Tabs.Root value={tab} onValueChange={(value) => onTab(value as SideTab)}>
        <Tabs.List aria-label="What is shown" className="flex border-b border-rule">
          {TABS.map(([value, name]) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="-mb-px min-h-9 flex-1 border-b-2 border-transparent text-[15px] text-soft data-[state=active]:border-ink data-[state=active]:font-bold data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="note" className="flex flex-col gap-4 pt-3">
          {note && focus && events.length <= 1 ? (
            <NotePanel
              piece={piece}
              part={part}
              riff={riff}
              event={focus}
              note={note}
              index={chosen.focusIndex}
              keyShown={keyShown}
              alternatives={weighed?.list ?? null}
              why={weighed?.why ?? null}
              edit={edit}
              open={open}
              onOpen={setOpen}
            />
          ) : focus ? (
            <Several desk={desk} />
          ) : (
            <Overview riff={riff} lines={lines} />
          )}
          {focus ? (
            <GripNames events={events.length > 0 ? events : [focus]} setup={part.setup} {...{ keyShown, bass }} />
          ) : null}
          {focus ? <EvidenceFields desk={desk} event={focus} note={note} /> : null}
        </Tabs.Content>
        <Tabs.Content value="phrase" className="flex flex-col gap-5 pt-3">
          {shownPhrase ? (
            <Regions piece={piece} riff={riff} phrase={shownPhrase} edit={edit} />
          ) : (
            <p className="text-soft">
              {riff.events.length === 0
                ? 'Nothing is written yet.'
                : riff.events.length > 600 && !focus
                  ? 'Choose a note: its phrase is looked at.'
                  : 'Looking along the neck…'}
            </p>
          )}
          {shownPhrase ? <Recall piece={piece} riff={riff} phrase={shownPhrase} edit={edit} /> : null}
          <Ways
            piece={piece}
            riff={riff}
            events={events.length > 1 ? events : riff.events}
            whole={events.length <= 1}
            edit={edit}
          />
          <Readings desk={desk} />
          <Claims
            piece={piece}
            about={claimAbout(desk)}
            listed={(claim) => claim.riff === riff.id}
            onEdit={(made) => edit(ok(made))}
          />
        </Tabs.Content>
        <Tabs.Content value="hand" className="flex flex-col gap-5 pt-3">
          <p className="text-[15px]">
            Placed for <b>{part.player?.name ?? 'an adult hand'}</b>, by{' '}
            {piece.costs ? (
              <b>
                {piece.costs.name}, version {piece.costs.version}
              </b>
            ) : (
              'the program’s own weights'
            )}
            .{' '}
            <Link
              href={`/pieces/${piece.id}/parts/${part.id}`}
              className="underline decoration-line underline-offset-4"
            >
              Change
            </Link>
          </p>
          <Wishes piece={piece} part={part} riff={riff} events={events} edit={edit} />
          <CompareHands riff={riff} player={part.player} />
        </Tabs.Content>
        <Tabs.Content value="riff" className="pt-3">
          <RiffPanel desk={desk} />
        </Tabs.Content>
      </Tabs.Root>
      <RiffQuestions piece={piece} questions={asked} onEdit={(made) => edit(ok(made))} />
      <Questions
        piece={piece}
        part={part}
        blocked={blocked}
        riff={riff}
        edit={edit}
        onShow={(event) => chosen.choose(event, null)}
      />
    </aside>
  );
}

/** What a claim at the bench is about: the chosen stretch, or the riff. */
function claimAbout({ part, riff, chosen }: BenchContext): {
  part: string;
  riff: string;
  from?: Quarter;
  to?: Quarter;
} {
  const about = { part: part.id, riff: riff.id };
  const { events } = chosen;
  const last = events.at(-1);
  return events.length > 1 && events[0] && last ? { ...about, from: events[0].at, to: endOf(last) } : about;
}

/** What is offered for a stretch or for what has no notes: the commands most wanted, all others in the list. */
const WANTED = [
  'Palm mute, or not',
  'Choked by the fretting hand, or not',
  'Let ring, or not',
  'Staccato, or not',
  'Vibrato, or not',
  'Dead note, or not',
  'Downstroke, or as the school says',
  'Upstroke, or as the school says',
  'Up a fret, in shape',
  'Down a fret, in shape',
  'An octave up, in sound',
  'An octave down, in sound',
  'Keep this as a reading beside',
];

function Several({ desk }: { readonly desk: BenchContext }) {
  const { events, focus } = desk.chosen;
  const notes = events.reduce((n, event) => n + event.notes.length, 0);
  const what =
    events.length === 1 && focus?.kind
      ? { hole: 'A hole: played here, not yet written', hit: 'A percussive hit', scrape: 'A pick scrape' }[focus.kind]
      : `${notes} notes chosen`;
  return (
    <section aria-label="Chosen" className="flex flex-col gap-2">
      <h2 className="text-xl">{what}</h2>
      {notes > 0 ? (
        <ul className="grid grid-cols-1 text-[15px]">
          {commandsFor(desk)
            .filter((command) => WANTED.includes(command.name))
            .map((command) => (
              <li key={command.name}>
                <button
                  type="button"
                  onClick={command.run}
                  className="flex min-h-8 w-full items-center justify-between gap-2 border-b border-rule text-left hover:bg-chosen/40"
                >
                  {command.name}{' '}
                  {command.key ? (
                    <kbd className="font-figures text-sm text-soft">{command.key.replace('+', ' ').toUpperCase()}</kbd>
                  ) : null}
                </button>
              </li>
            ))}
        </ul>
      ) : (
        <p className="text-[15px] text-soft">Call the notes here and they take its place.</p>
      )}
      <p className="text-sm text-soft">Ctrl K lists everything else.</p>
    </section>
  );
}

'use client';

import Link from 'next/link';
import { useSchools } from '@/ui/schools';
import { useWidth } from '@/ui/use-width';
import { Tabs } from 'radix-ui';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Result } from '@/core/base';
import type { AnchorChoice } from '@/core/place';
import { callEvent } from '@/core/callout';
import { insertEvents, lockAt, type Edit } from '@/core/edit';
import { baseNut, nutOf, stringNumbers, type Setup } from '@/core/instrument';
import { keyAt, riffEnd, riffStart, type Part, type Piece, type Riff, type RiffEvent } from '@/core/score';
import { barOf, barStart, bpmAt, meterAt, ZERO, type Quarter } from '@/core/time';
import { Transport, type TransportHandle } from '@/features/hear/transport';
import { Frame } from '@/features/piece/frame';
import { usePiece, usePlacement, useRiff } from '@/features/piece/provider';
import { SetupBand } from '@/features/setup/setup-band';
import { Dialog } from '@/ui/dialog';
import { LaneSwitch } from './lane-switch';
import type { LaneName } from '@/ui/draw/lanes';
import { Neck, type NeckPlace } from '@/ui/draw/neck';
import { useToast } from '@/ui/toast';
import { CallLine, type CallLineHandle } from './call-line';
import { KEY_SHEET } from './keys';
import { NotePanel } from './note-panel';
import { Questions } from './questions';
import { RiffSwitch } from './riff-switch';
import { useSelection } from './selection';
import { stringLabels, Strip } from './strip';
import { AskCard } from './ask-card';
import { answerEdit, askedPhrase, offered, phraseOf } from './asking';
import { CompareHands } from './compare-hands';
import { Recall } from './recall';
import { Regions } from './regions';
import { useAlternatives } from './use-alternatives';
import { useKeys } from './use-keys';
import { usePhrases } from './use-phrases';
import { Ways } from './ways';
import { Wishes } from './wishes';

const ALL_LANES: readonly LaneName[] = ['sound', 'strings', 'hand', 'count'];

/** The bench: strip, neck, reasons and call line around one riff. */

const NO_ANSWER = { hands: new Map<string, number>(), whys: new Map<string, string>(), blocked: [] as const };
export function Bench({ riffId, startBar }: { readonly riffId: string; readonly startBar: number | null }) {
  const found = useRiff(riffId);
  if (!found) {
    return (
      <Frame>
        <p className="py-20 text-center text-lg text-soft">This riff is not in the piece any more.</p>
      </Frame>
    );
  }
  return <RiffBench key={riffId} {...found} startBar={startBar} />;
}

function RiffBench({ piece, part, riff, startBar }: { readonly piece: Piece; readonly part: Part; readonly riff: Riff; readonly startBar: number | null }) {
  const dispatch = usePiece((s) => s.dispatch);
  const undo = usePiece((s) => s.undo);
  const redo = usePiece((s) => s.redo);
  const lines = usePiece((s) => s.lines);
  const toast = useToast();
  const chosen = useSelection(riff);
  const [lanes, setLanes] = useState<ReadonlySet<LaneName>>(new Set(ALL_LANES));
  const [help, setHelp] = useState(false);
  const transport = useRef<TransportHandle>(null);
  const calls = useRef<CallLineHandle>(null);
  const playhead = useCallback(() => transport.current?.at() ?? null, []);
  const stripBox = useRef<HTMLDivElement>(null);
  const { setup } = part;
  const { tempo } = piece.lanes;
  const key = keyAt(piece, ZERO);

  const { hands, whys, blocked } = useAnswer(riff);
  const { focus, noteIndex, events } = chosen;
  const note = focus?.notes[noteIndex] ?? null;
  const alternatives = useAlternatives(part, riff, tempo, chosen.focusIndex, noteIndex);

  const edit = useCallback(
    (made: Result<Edit>): boolean => {
      const done = made.ok ? dispatch(made.value) : made;
      if (!done.ok) toast(done.error.message);
      return done.ok;
    },
    [dispatch, toast],
  );
  const phrases = usePhrases(riff, chosen.selection.focus);
  const [passed, setPassed] = useState<ReadonlySet<string>>(new Set());
  const inHand = phrases ? phraseOf(riff, phrases, chosen.selection.focus) : null;
  const asking = phrases ? askedPhrase(phrases, inHand, passed) : null;
  const answer = useCallback((choice: AnchorChoice | undefined): void => {
    if (asking && choice) edit(answerEdit(piece, riff, asking, choice));
  }, [asking, edit, piece, riff]);
  const shownPhrase = inHand ?? (phrases && phrases.length > 0 ? [...phrases].sort((a, b) => a.sure - b.sure)[0] : null);
  const [tab, setTab] = useState<'note' | 'phrase' | 'hand'>('note');
  const showEvent = (id: string): void => { const event = riff.events.find((e) => e.id === id); if (event) chosen.choose(event, null); };

  const onKeyDown = useKeys({
    piece, part, riff, chosen, edit, undo, redo,
    play: () => transport.current?.toggle(),
    call: () => calls.current?.focus(),
    help: () => setHelp(true),
    say: toast,
    answer: (n) => answer(asking?.ask ? offered(asking.ask)[n] : undefined),
  });

  const onCall = (called: readonly RiffEvent[], until: Quarter, whole: boolean): boolean => {
    const made: Result<Edit> = whole
      ? { ok: true, value: { type: 'putEvents', part: part.id, riff: riff.id, put: called, remove: riff.events.map((e) => e.id).filter((id) => !called.some((e) => e.id === id)) } }
      : insertEvents(piece, riff.id, called, until);
    const ok = edit(made);
    if (ok) chosen.setCaret(until);
    return ok;
  };

  const schools = useSchools();
  const names = useMemo(() => stringLabels(setup, stringNumbers(setup).reverse(), key, schools), [setup, key, schools]);
  const places: NeckPlace[] = note ? neckPlaces(focus, note.id, alternatives, setup) : [];
  const base = baseNut(setup);
  const handFret = (focus && hands.get(focus.id)) ?? 0;
  const hand = handFret > 0 ? { from: handFret + base, to: Math.min(setup.instrument.frets, handFret + base + 3) } : null;
  const meter = meterAt(riff.meters, Math.max(0, barOf(riff.meters, focus?.at ?? ZERO).bar));
  const stretch = stretchOf(riff, events);

  return (
    <Frame riffId={riff.id} partId={part.id} open={blocked.length} sub={<RiffSwitch riffId={riff.id} />}>
      <SetupBand setup={setup} keyShown={key} tempo={bpmAt(tempo, ZERO)} meter={`${meter.beats}/${meter.unit}`} href={`/pieces/${piece.id}/parts/${part.id}`} />
      <div className="flex min-h-0 flex-1 gap-5 py-2">
        <main className="flex min-w-0 flex-1 flex-col gap-1.5" ref={stripBox}>
          <Strip riff={riff} setup={setup} keyShown={key} hands={hands} lanes={lanes} chosen={chosen} onKeyDown={onKeyDown} playhead={playhead} startBar={startBar} />
          <NeckFrame>
            {(width) => (
              <Neck
                setup={setup}
                stringNames={names}
                places={places}
                hand={hand}
                width={width}
                mirrored={(setup.instrument.handed === 'left') !== (schools.handed === 'left')}
                counting={schools.frets}
                label={note && focus ? `Neck: ${callEvent(focus, undefined, setup, { schools, key })}` : 'Neck: no note chosen'}
                onPick={note && focus ? (string, nut) => edit(lockAt(piece, { riff: riff.id, event: focus.id, note: note.id }, string, Math.max(0, nut - nutOf(setup, string)))) : () => undefined}
              />
            )}
          </NeckFrame>
        </main>
        <aside className="flex w-72 shrink-0 flex-col gap-5 overflow-y-auto pr-1">
          {asking ? <AskCard part={part} riff={riff} keyShown={key} phrase={asking} onAnswer={answer} onShow={showEvent} onPass={() => setPassed(new Set([...passed, `${asking.ask?.event}.${asking.ask?.note}`]))} /> : null}
          <Tabs.Root value={tab} onValueChange={(v) => setTab(v as typeof tab)}>
            <Tabs.List aria-label="What is shown" className="flex border-b border-rule">
              {([['note', 'Note'], ['phrase', 'Phrase'], ['hand', 'Hand']] as const).map(([value, name]) => (
                <Tabs.Trigger key={value} value={value} className="-mb-px min-h-9 flex-1 border-b-2 border-transparent text-[15px] text-soft data-[state=active]:border-ink data-[state=active]:font-bold data-[state=active]:text-ink">{name}</Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value="note" className="pt-3">
              {note && focus ? (
                <NotePanel piece={piece} part={part} riff={riff} event={focus} note={note} index={chosen.focusIndex} keyShown={key} alternatives={alternatives} why={whys.get(focus.id) ?? null} edit={edit} />
              ) : (
                <Overview riff={riff} lines={lines} />
              )}
            </Tabs.Content>
            <Tabs.Content value="phrase" className="flex flex-col gap-5 pt-3">
              {shownPhrase ? <Regions piece={piece} riff={riff} phrase={shownPhrase} edit={edit} /> : <p className="text-soft">{riff.events.length === 0 ? 'Nothing is written yet.' : riff.events.length > 600 && !focus ? 'Choose a note: its phrase is looked at.' : 'Looking along the neck…'}</p>}
              {shownPhrase ? <Recall piece={piece} riff={riff} phrase={shownPhrase} edit={edit} /> : null}
              <Ways piece={piece} riff={riff} events={events.length > 1 ? events : riff.events} whole={events.length <= 1} edit={edit} />
            </Tabs.Content>
            <Tabs.Content value="hand" className="flex flex-col gap-5 pt-3">
              <p className="text-[15px]">Placed for <b>{part.player?.name ?? 'an adult hand'}</b>, by {piece.costs ? <b>{piece.costs.name}, version {piece.costs.version}</b> : 'the program’s own weights'}. <Link href={`/pieces/${piece.id}/parts/${part.id}`} className="underline decoration-line underline-offset-4">Change</Link></p>
              <Wishes piece={piece} part={part} riff={riff} events={events} edit={edit} />
              <CompareHands riff={riff} player={part.player} />
            </Tabs.Content>
          </Tabs.Root>
          <Questions piece={piece} part={part} blocked={blocked} riff={riff} edit={edit} onShow={(e) => chosen.choose(e, null)} />
        </aside>
      </div>
      <div className="flex flex-col gap-1.5 pb-2">
        <section aria-label="Listen" className="flex items-center gap-4">
          <Transport ref={transport} riff={riff} setup={setup} tempo={tempo} from={stretch.from} to={stretch.to} partial={stretch.partial} beats={meter.beats} onFault={toast} />
          <LaneSwitch lanes={lanes} onChange={setLanes} />
          <button type="button" onClick={() => setHelp(true)} className="ml-auto text-[15px] underline decoration-line underline-offset-4">Keys</button>
        </section>
        <CallLine
          ref={calls}
          riff={riff}
          setup={setup}
          insertAt={chosen.insertAt}
          string={note?.place?.string ?? null}
          onCall={onCall}
          onLeave={() => stripBox.current?.querySelector<HTMLElement>('[role="application"]')?.focus()}
        />
      </div>
      <p aria-live="polite" className="sr-only">{focus ? callEvent(focus, riff.events[chosen.focusIndex - 1], setup, { schools, key }) : ''}</p>
      <Dialog open={help} onOpenChange={setHelp} title="Keys at the bench" wide>
        <div className="grid gap-6 sm:grid-cols-2">
          {KEY_SHEET.map((g) => (
            <section key={g.group}>
              <h3 className="text-lg">{g.group}</h3>
              <dl className="mt-1 grid grid-cols-[9rem_1fr] gap-y-1 text-[15px]">
                {g.keys.map(([k, what]) => (
                  <div key={k} className="contents">
                    <dt className="font-figures font-bold">{k}</dt>
                    <dd>{what}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
      </Dialog>
    </Frame>
  );
}

/** The worker's answer for a riff: the hand at each event, reasons, and what is blocked. The last answer stands until the next. */
function useAnswer(riff: Riff) {
  const { keeper, version } = usePlacement();
  const [last, setLast] = useState<ReturnType<typeof read> | null>(null);
  const fresh = useMemo(() => read(keeper, riff, version), [keeper, riff, version]);
  useEffect(() => {
    if (keeper && !keeper.answerTo(riff)) keeper.look(riff.id);
  }, [keeper, riff]);
  if (fresh && fresh !== last) setLast(fresh);
  return fresh ?? last ?? NO_ANSWER;
}

function read(keeper: ReturnType<typeof usePlacement>['keeper'], riff: Riff, _version: number) {
  const answer = keeper?.answerTo(riff);
  if (!answer) return null;
  return {
    hands: new Map(answer.hands.map((h) => [h.event, h.hand])),
    whys: new Map(answer.hands.map((h) => [h.event, h.why])),
    blocked: answer.blocked,
  };
}

function stretchOf(riff: Riff, events: readonly RiffEvent[]): { from: Quarter; to: Quarter; partial: boolean } {
  const first = events[0];
  const last = events.at(-1);
  if (!first || !last || first === last) return { from: riffStart(riff), to: riffEnd(riff), partial: false };
  const next = riff.events[riff.events.indexOf(last) + 1];
  const { bar } = barOf(riff.meters, last.at);
  return { from: first.at, to: next ? next.at : barStart(riff.meters, bar + 1), partial: true };
}

function neckPlaces(focus: RiffEvent | null, noteId: string, alternatives: ReturnType<typeof useAlternatives>, setup: Setup): NeckPlace[] {
  const marks: NeckPlace[] = [];
  for (const n of focus?.notes ?? []) {
    if (!n.place || n.id === noteId) continue;
    marks.push({ string: n.place.string, fretFromNut: n.place.fret + nutOf(setup, n.place.string), kind: 'other', text: n.place.finger ? String(n.place.finger) : '0', title: 'another note of this chord' });
  }
  const note = focus?.notes.find((n) => n.id === noteId);
  for (const a of alternatives ?? []) {
    if (note?.place?.string === a.string && note.place.fret === a.fret) continue;
    marks.push({ string: a.string, fretFromNut: a.fretFromNut, kind: a.extra === null ? 'other' : 'possible', text: a.extra === null ? '—' : `+${a.extra.toFixed(1)}`, title: a.reason });
  }
  if (note?.place) {
    const { string, fret, finger, locked } = note.place;
    marks.push({ string, fretFromNut: fret + nutOf(setup, string), kind: locked ? 'locked' : 'chosen', text: fret === 0 ? '0' : finger ? String(finger) : '•', title: locked ? 'yours' : 'proposed' });
  }
  return marks;
}

function Overview({ riff, lines }: { readonly riff: Riff; readonly lines: readonly string[] }) {
  const notes = riff.events.reduce((n, e) => n + e.notes.length, 0);
  const yours = riff.events.reduce((n, e) => n + e.notes.filter((x) => x.place?.locked).length, 0);
  return (
    <section aria-label="Riff" className="flex flex-col gap-3">
      <h2 className="text-xl">{riff.name}</h2>
      {notes === 0 ? (
        <p>Empty so far. Press <b className="font-figures">C</b> and call the first notes, for example <span className="font-figures">on 6 open 3 on 5 5</span>.</p>
      ) : (
        <p className="text-soft">{notes} notes, {yours} placed by you, {notes - yours} by the program. Choose one to see every place it has and what each costs.</p>
      )}
      {lines.length > 0 ? (
        <>
          <h3 className="text-base">Last done</h3>
          <ol className="flex flex-col gap-1 text-[15px] text-soft">
            {lines.slice(-8).reverse().map((l, i) => (
              <li key={`${lines.length - i}`}>{l}</li>
            ))}
          </ol>
        </>
      ) : null}
    </section>
  );
}

/** Gives the neck the width it has. */
function NeckFrame({ children }: { readonly children: (width: number) => React.ReactNode }) {
  const [measure, width] = useWidth();
  return (
    <div ref={measure} className="shrink-0">
      {width > 0 ? children(width) : null}
    </div>
  );
}

'use client';

import { useSchools } from '@/ui/schools';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Result } from '@/core/base';
import type { AnchorChoice } from '@/core/place';
import { callEvent } from '@/core/callout';
import {
  insertEvents,
  lockAt,
  moved,
  movedWords,
  moveEvents,
  rewriteEvents,
  saidFrame,
  type Move,
} from '@/core/command';
import type { Edit, SimpleEdit } from '@/core/edit';
import { keyAt, tempoOf, type Part, type Piece, type Riff, type RiffEvent } from '@/core/score';
import { baseNut, nutOf, openPitch, stringNumbers } from '@/core/instrument';
import { calledToEvents, FIRST_LENGTH, readCalls, type Called } from '@/core/shorthand';
import { barOf, bpmAt, meterAt, quarter, ZERO, type Quarter } from '@/core/time';
import { Transport, type TransportHandle } from '@/features/hear/transport';
import { Frame } from '@/features/piece/frame';
import { usePiece, useRiff } from '@/features/piece/provider';
import { SetupBand } from '@/features/setup/setup-band';
import { Dialog } from '@/ui/dialog';
import { LaneSwitch } from './lane-switch';
import type { LaneName } from '@/ui/draw/lanes';
import type { NeckPlace } from '@/ui/draw/neck';
import { Later } from '@/ui/later';
import { useToast } from '@/ui/toast';
import { answerEdit, askedPhrase, offered, phraseOf } from './asking';
import { NeckFrame, neckPlaces, stretchOf, useAnswer } from './bench-parts';
import { CallLine, type CallLineHandle, type CallMode } from './call-line';
import type { Command, BenchContext } from './commands';
import { KEY_SHEET } from './keys';
import { Palette } from './palette';
import { PasteMoved } from './paste-moved';
import { PIANO, PlayIn, usePlayIn } from './play-in';
import { RiffSwitch } from './riff-switch';
import { useSelection } from './selection';
import { Side, type SideTab } from './side';
import { SoundingNeck } from './sounding-neck';
import { stringLabels, Strip } from './strip';
import { TapDialog } from './tap';
import { useAlternatives } from './use-alternatives';
import { useKeys } from './use-keys';
import { usePhrases } from './use-phrases';
import { zoomed, ZoomSwitch } from './zoom';

const FIRST_LANES: readonly LaneName[] = ['sound', 'strings', 'hand', 'stroke', 'count'];

interface Start {
  readonly startBar: number | null;
  /** The event a deep link asks for, and the side it opens. */
  readonly startNote: string | null;
  readonly startTab: SideTab;
}

/** The bench: strip, neck, reasons and call line around one riff. */
export function Bench({ riffId, ...start }: { readonly riffId: string } & Start) {
  const found = useRiff(riffId);
  if (!found) {
    return (
      <Frame>
        <p className="py-20 text-center text-lg text-soft">This riff is not in the piece any more.</p>
      </Frame>
    );
  }
  return <RiffBench key={riffId} {...found} {...start} />;
}

function RiffBench({
  piece,
  part,
  riff,
  startBar,
  startNote,
  startTab,
}: { readonly piece: Piece; readonly part: Part; readonly riff: Riff } & Start) {
  const dispatch = usePiece((s) => s.dispatch);
  const undo = usePiece((s) => s.undo);
  const redo = usePiece((s) => s.redo);
  const lines = usePiece((s) => s.lines);
  const toast = useToast();
  const chosen = useSelection(riff);
  const [lanes, setLanes] = useState<ReadonlySet<LaneName>>(new Set(FIRST_LANES));
  const [help, setHelp] = useState(false);
  const [palette, setPalette] = useState<string | null>(null);
  const [tapping, setTapping] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [perRow, setPerRow] = useState<number | null>(null);
  const [wide, setWide] = useState(false);
  const [neck, setNeck] = useState(true);
  const [playIn, setPlayIn] = useState(false);
  const [playLength, setPlayLength] = useState<Quarter>(quarter(1, 2));
  const [tab, setTab] = useState<SideTab>(startTab);
  const [playing, setPlaying] = useState(false);
  const transport = useRef<TransportHandle>(null);
  const calls = useRef<CallLineHandle>(null);
  const playhead = useCallback(() => transport.current?.at() ?? null, []);
  const stripBox = useRef<HTMLDivElement>(null);
  const schools = useSchools();
  const { setup } = part;
  const tempo = tempoOf(piece, riff);
  const key = keyAt(piece, ZERO);

  const { hands, blocked } = useAnswer(riff);
  const { focus, noteIndex, events } = chosen;
  const note = focus?.notes[noteIndex] ?? null;
  const weighed = useAlternatives(part, riff, tempo, chosen.focusIndex, noteIndex);

  const edit = useCallback(
    (made: Result<Edit>): boolean => {
      const done = made.ok ? dispatch(made.value) : made;
      if (!done.ok) toast(done.error.words);
      return done.ok;
    },
    [dispatch, toast],
  );
  const desk: BenchContext = { piece, part, riff, chosen, edit, say: toast };
  const phrases = usePhrases(riff, chosen.selection.focus);
  const [passed, setPassed] = useState<ReadonlySet<string>>(new Set());
  const inHand = phrases ? phraseOf(riff, phrases, chosen.selection.focus) : null;
  const asking = phrases ? askedPhrase(phrases, inHand, passed) : null;
  const answer = useCallback(
    (choice: AnchorChoice | undefined): void => {
      if (asking && choice) edit(answerEdit(piece, riff, asking, choice));
    },
    [asking, edit, piece, riff],
  );

  // A link to a note opens with it chosen; without the effect the strip would not be there to scroll.
  const linked = useRef(false);
  useEffect(() => {
    if (linked.current || startNote === null) return;
    linked.current = true;
    const event = riff.events.find((e) => e.id === startNote);
    if (event) chosen.choose(event, null);
  }, [startNote, riff, chosen]);

  const focusStrip = (): void => stripBox.current?.querySelector<HTMLElement>('[role="application"]')?.focus();
  const onKeyDown = useKeys({
    ...desk,
    undo,
    redo,
    play: () => transport.current?.toggle(),
    call: () => calls.current?.focus(),
    help: () => setHelp(true),
    answer: (n) => answer(asking?.ask ? offered(asking.ask)[n] : undefined),
    palette: setPalette,
    rewrite: () => calls.current?.rewrite(riff, events),
    pasteMoved: () => setPasting(true),
    tap: () => setTapping(true),
    zoom: (by) => setPerRow(zoomed(perRow, by)),
    wide: () => setWide(!wide),
  });
  const player = usePlayIn(desk, playIn, playLength);
  const low = Math.ceil(Math.min(...stringNumbers(setup).map((s) => openPitch(setup, s))) / 12) * 12;
  const pianoKey = (e: React.KeyboardEvent): boolean => {
    if (!playIn || e.ctrlKey || e.metaKey || e.altKey) return false;
    const step = PIANO[e.key.toLowerCase()];
    if (step !== undefined) player.note(low + step);
    else if (e.key === ' ') player.rest();
    else return false;
    e.preventDefault();
    return true;
  };

  const onCall = (
    called: Called,
    made: readonly RiffEvent[],
    mode: CallMode,
    replaced: { readonly ids: readonly string[] } | null,
  ): boolean => {
    const frame = saidFrame(piece, riff.id, called.frame, called.end, mode === 'whole');
    const put: Result<SimpleEdit | Edit> | null =
      made.length === 0
        ? null
        : mode === 'new'
          ? insertEvents(piece, riff.id, made, called.end)
          : rewriteEvents(
              piece,
              riff.id,
              mode === 'whole' ? riff.events.map((e) => e.id) : (replaced?.ids ?? []),
              made,
              called.end,
            );
    const parts: Result<Edit>[] = [...(frame ? [frame] : []), ...(put ? [put as Result<Edit>] : [])];
    const wrong = parts.find((p) => !p.ok);
    if (wrong) return edit(wrong);
    const edits = parts.flatMap((p) =>
      p.ok ? (p.value.type === 'batch' ? p.value.edits : [p.value as SimpleEdit]) : [],
    );
    const [only] = edits;
    if (!only) return true;
    const ok = edit({
      ok: true,
      value: edits.length === 1 ? only : { type: 'batch', what: `called ${made.length} notes`, edits },
    });
    if (ok && mode === 'new') chosen.setCaret(called.end);
    return ok;
  };
  const pasteMoved = async (move: Move): Promise<void> => {
    const text = await navigator.clipboard.readText();
    const called = readCalls(text, {
      setup,
      meters: riff.meters,
      at: chosen.insertAt,
      length: FIRST_LENGTH,
      string: null,
      schools,
    });
    if (called.faults[0] || called.events.length === 0)
      return toast(`The clipboard does not hold calls: ${called.faults[0]?.words ?? 'it is empty.'}`);
    const made = moved(setup, calledToEvents(called, new Set()), move);
    if (!made.ok) return toast(made.error.words);
    if (!edit(insertEvents(piece, riff.id, made.value.events, called.end))) return;
    setPasting(false);
    const lost = movedWords(made.value);
    if (lost) toast(lost);
    focusStrip();
  };
  const onDrag = (
    event: RiffEvent,
    noteId: string,
    to: { readonly string: number | null; readonly by: Quarter | null },
  ): void => {
    const dragged = event.notes.find((n) => n.id === noteId);
    if (to.by !== null)
      edit(
        moveEvents(piece, riff.id, events.some((e) => e.id === event.id) ? events.map((e) => e.id) : [event.id], to.by),
      );
    else if (to.string !== null && dragged)
      edit(
        lockAt(
          piece,
          { riff: riff.id, event: event.id, note: noteId },
          to.string,
          dragged.pitch.midi - openPitch(setup, to.string),
        ),
      );
  };

  const sub = useMemo(() => <RiffSwitch riffId={riff.id} />, [riff.id]);
  const names = useMemo(() => stringLabels(setup, stringNumbers(setup).reverse(), key, schools), [setup, key, schools]);
  const places: NeckPlace[] = note ? neckPlaces(focus, note.id, weighed, setup) : [];
  const base = baseNut(setup);
  const handFret = (focus && hands.get(focus.id)) ?? 0;
  const hand =
    handFret > 0 ? { from: handFret + base, to: Math.min(setup.instrument.frets, handFret + base + 3) } : null;
  const meter = meterAt(riff.meters, Math.max(0, barOf(riff.meters, focus?.at ?? ZERO).bar));
  const stretch = stretchOf(riff, events);
  const onNeck = (string: number, nut: number): void => {
    const fret = Math.max(0, nut - nutOf(setup, string));
    if (playIn) player.place(string, fret);
    else if (note && focus) edit(lockAt(piece, { riff: riff.id, event: focus.id, note: note.id }, string, fret));
  };
  const tools = [
    ['Tap', () => setTapping(true)],
    ['Commands', () => setPalette('')],
    ['Keys', () => setHelp(true)],
  ] as const;
  const more: Command[] = [
    { group: 'Bench', name: 'Play, or stop', key: ' ', run: () => transport.current?.toggle() },
    {
      group: 'Bench',
      name: 'Save the sound as WAV',
      words: 'bounce export audio',
      run: () => void transport.current?.save(),
    },
    { group: 'Bench', name: 'Call notes', key: 'c', run: () => calls.current?.focus() },
    {
      group: 'Bench',
      name: 'Change what is chosen as calls',
      key: 'Ctrl+E',
      words: 'edit text',
      run: () => calls.current?.rewrite(riff, events),
    },
    { group: 'Bench', name: 'Tap the rhythm', key: 'Shift+T', run: () => setTapping(true) },
    {
      group: 'Bench',
      name: 'Play in from a keyboard, or not',
      words: 'midi piano',
      run: () => {
        setPlayIn(!playIn);
        focusStrip();
      },
    },
    { group: 'Bench', name: 'Paste moved', key: 'Ctrl+Shift+V', run: () => setPasting(true) },
    { group: 'Bench', name: 'Choose the whole riff', key: 'Ctrl+A', run: chosen.chooseAll },
    { group: 'Bench', name: 'Undo', key: 'Ctrl+Z', run: undo },
    { group: 'Bench', name: 'Redo', key: 'Ctrl+Y', run: redo },
    { group: 'Bench', name: 'Keys', key: '?', run: () => setHelp(true) },
    ...(['staff', 'sound', 'strings', 'hand', 'stroke', 'count', 'harmony'] as const).map((lane): Command => ({
      group: 'See',
      name: `The ${lane} lane, or not`,
      words: lane === 'staff' ? 'standard notation' : 'lane',
      run: () => setLanes(toggled(lanes, lane)),
    })),
    ...[1, 2, 4, 8].map((n): Command => ({
      group: 'See',
      name: `${n} ${n === 1 ? 'bar' : 'bars'} in a row`,
      words: 'zoom',
      run: () => setPerRow(n),
    })),
    { group: 'See', name: 'As many bars in a row as stay legible', words: 'zoom', run: () => setPerRow(null) },
    {
      group: 'See',
      name: wide ? 'Show the reasons' : 'The strip over the whole width',
      key: 'Shift+W',
      run: () => setWide(!wide),
    },
    { group: 'See', name: neck ? 'Hide the neck' : 'Show the neck', run: () => setNeck(!neck) },
    ...(['note', 'phrase', 'hand', 'riff'] as const).map((t): Command => ({
      group: 'See',
      name: `Beside the strip: ${t}`,
      words: t === 'riff' ? 'tempo meter swing strokes bars' : t === 'phrase' ? 'ways regions readings' : '',
      run: () => {
        setWide(false);
        setTab(t);
      },
    })),
  ];

  return (
    <Frame riffId={riff.id} partId={part.id} open={blocked.length} sub={sub}>
      <Later>
        <SetupBand
          setup={setup}
          keyShown={key}
          tempo={Math.round(bpmAt(tempo, ZERO) * 10) / 10}
          meter={`${meter.beats}/${meter.unit}`}
          href={`/pieces/${piece.id}/parts/${part.id}`}
        />
      </Later>
      <div className="flex min-h-0 flex-1 gap-5 py-2">
        <main className="flex min-w-0 flex-1 flex-col gap-1.5" ref={stripBox}>
          <Strip
            riff={riff}
            setup={setup}
            keyShown={key}
            hands={hands}
            lanes={lanes}
            chosen={chosen}
            onKeyDown={(e) => {
              if (!pianoKey(e)) onKeyDown(e);
            }}
            playing={playing}
            playhead={playhead}
            startBar={startBar}
            tempo={tempo}
            perRow={perRow}
            onDrag={onDrag}
          />
          {neck ? (
            <Later>
              <NeckFrame>
                {(width) => (
                  <SoundingNeck
                    riff={riff}
                    playing={playing}
                    playhead={playhead}
                    setup={setup}
                    stringNames={names}
                    places={places}
                    hand={hand}
                    width={width}
                    mirrored={(setup.instrument.handed === 'left') !== (schools.handed === 'left')}
                    counting={schools.frets}
                    label={
                      note && focus
                        ? `Neck: ${callEvent(focus, undefined, setup, { schools, key })}`
                        : 'Neck: no note chosen'
                    }
                    onPick={onNeck}
                  />
                )}
              </NeckFrame>
            </Later>
          ) : null}
        </main>
        {wide ? null : (
          <Later>
            <Side
              desk={desk}
              lines={lines}
              keyShown={key}
              weighed={weighed}
              blocked={blocked}
              phrases={phrases}
              asking={asking}
              onAnswer={answer}
              onPass={() => setPassed(new Set([...passed, `${asking?.ask?.event}.${asking?.ask?.note}`]))}
              tab={tab}
              onTab={setTab}
            />
          </Later>
        )}
      </div>
      <Later>
        <div className="flex flex-col gap-1.5 pb-2">
          <section aria-label="Listen" className="flex items-center gap-x-3">
            <Transport
              ref={transport}
              riff={riff}
              setup={setup}
              piece={piece}
              partId={part.id}
              tempo={tempo}
              from={stretch.from}
              to={stretch.to}
              partial={stretch.partial}
              beats={meter.beats}
              onFault={toast}
              onPlaying={setPlaying}
            />
            <LaneSwitch lanes={lanes} onChange={setLanes} />
            <ZoomSwitch perRow={perRow} onZoom={setPerRow} wide={wide} onWide={setWide} neck={neck} onNeck={setNeck} />
          </section>
          <CallLine
            ref={calls}
            riff={riff}
            setup={setup}
            insertAt={chosen.insertAt}
            string={note?.place?.string ?? null}
            chosen={events}
            onCall={onCall}
            onLeave={focusStrip}
            tools={
              <div className="flex items-center gap-4 text-[15px]">
                <PlayIn
                  on={playIn}
                  onSwitch={(on) => {
                    setPlayIn(on);
                    if (on) focusStrip();
                  }}
                  length={playLength}
                  onLength={setPlayLength}
                  onNote={player.note}
                />
                {tools.map(([name, run]) => (
                  <button
                    key={name}
                    type="button"
                    onClick={run}
                    className="underline decoration-line underline-offset-4"
                  >
                    {name}
                  </button>
                ))}
              </div>
            }
          />
        </div>
      </Later>
      <Later>
        <p aria-live="polite" className="sr-only">
          {focus ? callEvent(focus, riff.events[chosen.focusIndex - 1], setup, { schools, key }) : ''}
        </p>
      </Later>
      {/* At once: what is typed next is meant for them. */}
      <Palette
        desk={desk}
        more={more}
        open={palette}
        onClose={() => {
          setPalette(null);
          setTimeout(focusStrip, 0);
        }}
      />
      <TapDialog desk={desk} open={tapping} onClose={() => setTapping(false)} />
      <PasteMoved open={pasting} onClose={() => setPasting(false)} onPaste={(m) => void pasteMoved(m)} />
      <Dialog open={help} onOpenChange={setHelp} title="Keys at the bench" wide>
        <KeyList />
      </Dialog>
    </Frame>
  );
}

function KeyList() {
  return (
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
  );
}

function toggled(lanes: ReadonlySet<LaneName>, lane: LaneName): ReadonlySet<LaneName> {
  const next = new Set(lanes);
  if (next.has(lane) && next.size > 1) next.delete(lane);
  else next.add(lane);
  return next;
}

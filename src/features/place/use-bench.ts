import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import type { AnchorChoice } from '@/core/place';
import type { Part, Piece, Riff } from '@/core/score';
import { barOf, quarter, type Quarter } from '@/core/time';
import type { TransportHandle } from '@/features/hear/transport';
import { usePiece } from '@/features/piece/provider';
import type { LaneName } from '@/ui/draw/lanes';
import { useSchools } from '@/ui/schools';
import { useToast } from '@/ui/toast';
import { answerEdit, askedPhrase, offered, phraseOf } from './asking';
import { copyChosen, pasteCalls } from './clipboard';
import type { Bench, BenchActions } from './bench-commands';
import type { BenchContext } from './commands';
import type { CallLineHandle, CallTarget } from './call-line';
import { useSelection } from './selection';
import { useNewRiff } from './riff-switch';
import type { SideTab } from './side';
import { useNarrow } from '@/ui/use-narrow';
import type { Panel } from './panel-switch';
import { useKeys } from './use-keys';
import { usePhrases } from './use-phrases';
import { zoomed } from './zoom';

const FIRST_LANES: readonly LaneName[] = ['sound', 'strings', 'hand', 'stroke', 'count'];
/** Where there is little height, what one plays from. */
const FIRST_LANES_NARROW: readonly LaneName[] = ['strings', 'hand', 'count'];

/** What is open and shown at the bench, and the handles of what plays and calls. */
function useBenchView(startTab: SideTab) {
  const narrow = useNarrow();
  const [lanes, setLanes] = useState<ReadonlySet<LaneName>>(new Set(narrow ? FIRST_LANES_NARROW : FIRST_LANES));
  const [help, setHelp] = useState(false);
  const [palette, setPalette] = useState<string | null>(null);
  const [tapping, setTapping] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [moving, setMoving] = useState(false);
  const [perRow, setPerRow] = useState<number | null>(null);
  const [wide, setWide] = useState(false);
  const [neck, setNeck] = useState(true);
  const [playIn, setPlayIn] = useState(false);
  const [playLength, setPlayLength] = useState<Quarter>(quarter(1, 2));
  const [tab, setTab] = useState<SideTab>(startTab);
  const [playing, setPlaying] = useState(false);
  const [panel, setPanel] = useState<Panel>('none');
  const [target, setTarget] = useState<CallTarget | null>(null);
  return {
    ...{
      lanes,
      setLanes,
      help,
      setHelp,
      palette,
      setPalette,
      tapping,
      setTapping,
      pasting,
      setPasting,
      moving,
      setMoving,
    },
    ...{ perRow, setPerRow, wide, setWide, neck, setNeck, playIn, setPlayIn, playLength, setPlayLength },
    ...{ tab, setTab, playing, setPlaying, panel, setPanel, narrow, target, setTarget },
  };
}

export type BenchView = ReturnType<typeof useBenchView>;

/** The program's question about a phrase, and how it is answered or passed over. */
function useQuestion(context: BenchContext) {
  const { piece, riff, chosen, edit } = context;
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
  const pass = (): void => setPassed(new Set([...passed, `${asking?.ask?.event}.${asking?.ask?.note}`]));
  return { phrases, asking, answer, pass };
}

function toggled(lanes: ReadonlySet<LaneName>, lane: LaneName): ReadonlySet<LaneName> {
  const next = new Set(lanes);
  if (next.has(lane) && next.size > 1) next.delete(lane);
  else next.add(lane);
  return next;
}

/** A link to a note opens with it chosen; without the effect the strip would not be there to scroll. */
function useLinkedNote({ riff, chosen }: Pick<BenchContext, 'riff' | 'chosen'>, startNote: string | null): void {
  const linked = useRef(false);
  useEffect(() => {
    if (linked.current || startNote === null) return;
    linked.current = true;
    const event = riff.events.find((one) => one.id === startNote);
    if (event) chosen.choose(event, null);
  }, [startNote, riff, chosen]);
}

interface Given {
  readonly piece: Piece;
  readonly part: Part;
  readonly riff: Riff;
  /** The event a deep link asks for, and the side it opens. */
  readonly startNote: string | null;
  readonly startTab: SideTab;
}

/** All of the bench but its drawing: what is chosen, open and asked, and what can be done. */
export function useBench({ piece, part, riff, startNote, startTab }: Given) {
  const dispatch = usePiece((state) => state.dispatch);
  const undo = usePiece((state) => state.undo);
  const redo = usePiece((state) => state.redo);
  const toast = useToast();
  const schools = useSchools();
  const router = useRouter();
  const chosen = useSelection(riff);
  const view = useBenchView(startTab);
  const transport = useRef<TransportHandle>(null);
  const calls = useRef<CallLineHandle>(null);
  const stripBox = useRef<HTMLDivElement>(null);
  const playhead = useCallback(() => transport.current?.at() ?? null, []);
  const edit = useCallback(
    (made: Result<Edit>): boolean => {
      const done = made.ok ? dispatch(made.value) : made;
      if (!done.ok) toast(done.error.words);
      return done.ok;
    },
    [dispatch, toast],
  );
  const context: BenchContext = { piece, part, riff, chosen, edit, say: toast };
  const newRiff = useNewRiff(riff.id);
  const question = useQuestion(context);
  useLinkedNote(context, startNote);
  const focusStrip = (): void => stripBox.current?.querySelector<HTMLElement>('[role="application"]')?.focus();
  const playIn = (on: boolean): void => {
    view.setPlayIn(on);
    if (on) focusStrip();
  };
  // Told by the keys below, which are told of the actions: a finger that is typed next.
  const next = useRef<(what: 'finger' | 'option') => void>(() => undefined);
  const actions: BenchActions = {
    undo,
    redo,
    play: () => transport.current?.toggle(),
    saveSound: () => void transport.current?.save(),
    call: () => {
      view.setPanel('calls');
      // Where it was not open it is there with the next frame.
      if (view.narrow && view.panel !== 'calls') requestAnimationFrame(() => calls.current?.focus());
      else calls.current?.focus();
    },
    help: () => view.setHelp(true),
    palette: view.setPalette,
    rewrite: () => calls.current?.rewrite(riff, chosen.events),
    copy: () => copyChosen(context, schools),
    paste: async () => {
      const over = await pasteCalls(context, schools);
      if (over === null) return;
      view.setPanel('calls');
      requestAnimationFrame(() => calls.current?.put(over));
    },
    pasteMoved: () => view.setPasting(true),
    movePhrase: () => view.setMoving(true),
    findSetup: () => {
      const [first, last] = [chosen.events[0], chosen.events.at(-1)];
      const bar = (event: typeof first): number => (event ? Math.max(0, barOf(riff.meters, event.at).bar) : 0);
      const bars = first && chosen.events.length > 1 ? `&from=${bar(first)}&to=${bar(last)}` : '';
      router.push(`/pieces/${piece.id}/parts/${part.id}/find?riff=${riff.id}${bars}`);
    },
    newRiff,
    tap: () => view.setTapping(true),
    playIn: () => playIn(!view.playIn),
    zoom: (by) => view.setPerRow(zoomed(view.perRow, by)),
    barsInRow: view.setPerRow,
    wide: () => view.setWide(!view.wide),
    neck: () => view.setNeck(!view.neck),
    lane: (lane) => view.setLanes(toggled(view.lanes, lane)),
    side: (tab) => {
      view.setWide(false);
      view.setPanel('side');
      view.setTab(tab);
    },
    answer: (n) => question.answer(question.asking?.ask ? offered(question.asking.ask)[n] : undefined),
    fingerNext: (what) => next.current(what),
  };
  const bench: Bench = { ...context, actions, shown: { wide: view.wide, neck: view.neck } };
  const keys = useKeys(bench);
  useEffect(() => {
    next.current = keys.fingerNext;
  });
  return { bench, view, question, keys, transport, calls, stripBox, playhead, focusStrip, playIn };
}

export type BenchState = ReturnType<typeof useBench>;

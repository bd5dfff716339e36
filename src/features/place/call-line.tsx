'use client';

import { useSchools } from '@/ui/schools';
import { history, historyKeymap, standardKeymap } from '@codemirror/commands';
import { linter } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, placeholder } from '@codemirror/view';
import { useEffect, useImperativeHandle, useRef, useState, type ReactNode, type Ref } from 'react';
import { standingIn, type Insertion } from '@/core/command';
import { placeInBars } from '@/core/rhythm';
import {
  calledToEvents,
  FIRST_LENGTH,
  printCalls,
  readCalls,
  type CallContext,
  type Called,
  type Understood,
} from '@/core/shorthand';
import { endOf, riffIds, riffStart, type Riff, type RiffEvent } from '@/core/score';
import type { Setup } from '@/core/instrument';
import { type Quarter } from '@/core/time';
import { Button } from '@/ui/button';
import { keepDraft, readDraft } from './call-draft';
import { marks, theme, diagnosticsOf } from './call-editor';
import { Understanding } from './understanding';

export interface CallLineHandle {
  readonly focus: () => void;
  /**
   * Puts events of a riff into the line, to be changed as text. Given by hand: the line itself is drawn a moment
   * after the choice.
   */
  readonly rewrite: (riff: Riff, chosen: readonly RiffEvent[]) => void;
  /** Puts calls into the line as if they had been typed. */
  readonly put: (text: string) => void;
}

/** Where what is typed goes on the strip. */
export interface CallTarget {
  readonly from: Quarter;
  readonly until: Quarter;
}

/** What the line stands for: new notes, the chosen ones, or the whole riff. */
export type CallMode = 'new' | 'chosen' | 'whole';

/** A stretch as text: what it replaces. */
interface Stretch {
  readonly from: Quarter;
  readonly to: Quarter;
  readonly ids: readonly string[];
}

interface Props {
  readonly riff: Riff;
  readonly setup: Setup;
  readonly insertAt: Quarter;
  readonly string: number | null;
  /** What is chosen, in order. */
  readonly chosen: readonly RiffEvent[];
  /** Puts what was called into the riff; false keeps the line. `replaced` names what it stands for now. */
  readonly onCall: (
    called: Called,
    events: readonly RiffEvent[],
    mode: CallMode,
    replaced: Stretch | null,
    how: Insertion,
  ) => boolean;
  /** Told where what is typed would go; null while nothing is. */
  readonly onTarget: (target: CallTarget | null) => void;
  readonly onLeave: () => void;
  /** Other ways to write, at the end of the line. */
  readonly tools?: ReactNode;
  readonly ref?: Ref<CallLineHandle>;
}

/** Notes called as one would say them aloud; how each word was understood is shown while typing. */
export function CallLine({ riff, setup, insertAt, string, chosen, onCall, onTarget, onLeave, tools, ref }: Props) {
  const schools = useSchools();
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const [text, setText] = useState(() => readDraft(riff.id));
  const [cursor, setCursor] = useState(0);
  const [mode, setMode] = useState<CallMode>('new');
  const [stretch, setStretch] = useState<Stretch | null>(null);
  const whole = mode === 'whole';
  const riffId = riff.id;
  const context: CallContext = {
    setup,
    meters: riff.meters,
    at: whole ? riffStart(riff) : mode === 'chosen' && stretch ? stretch.from : insertAt,
    length: FIRST_LENGTH,
    string: mode === 'new' ? string : null,
    schools,
  };
  const called = readCalls(text, context);
  const first = called.events[0] ?? null;
  const standing = mode === 'new' && first ? standingIn(riff, first.at, called.end) : null;
  // Locked notes are written over only when it is asked for twice: the text it was asked for.
  const [asked, setAsked] = useState<string | null>(null);
  const confirming = asked === text && (standing?.locked ?? 0) > 0;
  useCallTarget(text === '' || !first || mode !== 'new' ? null : first.at, called.end, onTarget);
  // The editor lives longer than a render: it asks for the newest of these.
  const live = useRef({
    context,
    called,
    submit: (_how?: Insertion): boolean => false,
    onLeave,
    rewrite: (): void => undefined,
    typed: (_text: string): void => undefined,
  });

  const replaceAll = (next: string): void => {
    view.current?.dispatch({
      changes: { from: 0, to: view.current.state.doc.length, insert: next },
      selection: { anchor: next.length },
    });
  };
  const leaveText = (): void => {
    replaceAll('');
    setMode('new');
    setStretch(null);
  };
  const rewrite: CallLineHandle['rewrite'] = (riff, chosen) => {
    const first = chosen.find((event) => !event.grace) ?? chosen[0];
    const last = chosen.at(-1);
    if (!first || !last) return;
    const at = riff.events.indexOf(chosen[0] ?? first);
    const events = riff.events.slice(at, riff.events.indexOf(last) + 1);
    setMode('chosen');
    setStretch({ from: first.at, to: endOf(last), ids: events.map((event) => event.id) });
    replaceAll(printCalls({ ...riff, events }, first.at, { setup, frets: schools.frets }));
    view.current?.focus();
  };
  const submit = (how?: Insertion): boolean => {
    const now = readCalls(view.current?.state.doc.toString() ?? '', live.current.context);
    if (now.faults.length > 0 || (now.events.length === 0 && Object.keys(now.frame).length === 0)) return true;
    const typed = view.current?.state.doc.toString() ?? '';
    const [begins] = now.events;
    const locked = mode === 'new' && begins ? standingIn(riff, begins.at, now.end).locked : 0;
    if (!how && locked > 0 && asked !== typed) {
      setAsked(typed);
      return true;
    }
    const taken = whole ? new Set<string>() : riffIds(riff);
    const manner = how ?? (locked > 0 ? 'over-locked' : 'over');
    if (onCall(now, calledToEvents(now, taken), mode, stretch, manner)) leaveText();
    return true;
  };
  useEffect(() => {
    live.current = {
      context,
      called,
      submit,
      onLeave,
      rewrite: () => rewrite(riff, chosen),
      // What rewrites notes that are there is no draft: it can be had again.
      typed: (typed) => {
        setText(typed);
        if (mode === 'new') keepDraft(riff.id, typed);
      },
    };
  });
  const put = (next: string): void => {
    leaveText();
    replaceAll(next);
    view.current?.focus();
  };
  useImperativeHandle(ref, () => ({ focus: () => view.current?.focus(), rewrite, put }));

  useEffect(() => {
    if (!host.current) return;
    const read = (): Called => readCalls(view.current?.state.doc.toString() ?? '', live.current.context);
    const state = EditorState.create({
      doc: readDraft(riffId),
      extensions: [
        history(),
        keymap.of([
          { key: 'Enter', run: () => live.current.submit() },
          { key: 'Mod-Enter', run: () => live.current.submit('by-beat') },
          { key: 'Mod-Shift-Enter', run: () => live.current.submit('by-bar') },
          {
            key: 'Escape',
            run: () => {
              live.current.onLeave();
              return true;
            },
          },
          {
            key: 'Mod-e',
            run: () => {
              live.current.rewrite();
              return true;
            },
          },
          ...historyKeymap,
          ...standardKeymap,
        ]),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': 'Call notes', spellcheck: 'false', autocapitalize: 'off' }),
        placeholder('on 6 open 3, on 5 5 hammer 7, rest, A3 …'),
        marks(read),
        linter((one) => diagnosticsOf(one.state.doc.toString(), live.current.context), { delay: 120 }),
        EditorView.updateListener.of((one) => {
          if (one.docChanged) live.current.typed(one.state.doc.toString());
          if (one.docChanged || one.selectionSet) setCursor(one.state.selection.main.head);
        }),
        theme,
      ],
    });
    const editor = new EditorView({ state, parent: host.current });
    view.current = editor;
    return () => {
      view.current = null;
      editor.destroy();
    };
  }, [riffId]);

  const swap = (token: Understood, to: string): void => {
    view.current?.dispatch({ changes: { from: token.from, to: token.to, insert: to } });
    view.current?.focus();
  };
  const near = called.tokens.filter((understood) => cursor >= understood.from && cursor <= understood.to + 1);
  const shown =
    near.find((understood) => understood.readings.length > 0) ??
    near.at(-1) ??
    called.tokens.find((understood) => understood.readings.length > 0) ??
    called.tokens.at(-1) ??
    null;
  return (
    <section aria-label="Call line" className="border border-line/70 bg-sheet px-4 py-1 max-[899px]:px-2.5">
      <div className="flex items-start gap-4 max-[899px]:flex-wrap max-[899px]:gap-x-2 max-[899px]:gap-y-0">
        <span className="pt-1.5 text-[15px] font-semibold text-soft">Call it</span>
        <div ref={host} className="min-h-9 min-w-0 flex-1 max-[899px]:order-last max-[899px]:basis-full" />
        <Button
          tone="quiet"
          size="small"
          className="mt-0.5 max-[899px]:ml-auto"
          onClick={() => {
            if (mode !== 'new') leaveText();
            else {
              setMode('whole');
              replaceAll(printCalls(riff, riffStart(riff), { setup, frets: schools.frets }, true));
            }
            view.current?.focus();
          }}
        >
          {mode !== 'new' ? 'Call new notes' : 'Whole riff as calls'}
        </Button>
      </div>
      <div className="flex items-center gap-4 max-[899px]:flex-wrap max-[899px]:gap-y-1 max-[899px]:pb-1.5">
        <div
          className="flex min-h-7 max-[899px]:basis-full min-w-0 flex-1 flex-wrap items-baseline gap-x-4 gap-y-1 text-[15px]"
          aria-live="polite"
        >
          <Understanding
            {...{ text, called, shown, standing, confirming }}
            onInsert={(how) => void submit(how)}
            where={
              whole
                ? 'Enter replaces the whole riff.'
                : mode === 'chosen'
                  ? 'Enter writes it in place of what was chosen.'
                  : `Goes to ${placeInBars(riff.meters, insertAt)}. Enter writes it.`
            }
            onSwap={swap}
          />
        </div>
        {tools}
      </div>
    </section>
  );
}

/** Tells the strip where what is typed would go, whenever that changes. */
function useCallTarget(from: Quarter | null, until: Quarter, onTarget: Props['onTarget']): void {
  useEffect(() => {
    onTarget(from === null ? null : { from, until });
  }, [from, until, onTarget]);
}

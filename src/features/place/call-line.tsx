'use client';

import { useSchools } from '@/ui/schools';
import { history, historyKeymap, standardKeymap } from '@codemirror/commands';
import { linter, type Diagnostic } from '@codemirror/lint';
import { EditorState, RangeSetBuilder, type Extension } from '@codemirror/state';
import {
  Decoration,
  EditorView,
  keymap,
  placeholder,
  ViewPlugin,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import { Link } from '@/ui/link';
import { useEffect, useImperativeHandle, useRef, useState, type ReactNode, type Ref } from 'react';
import { standingIn, type Insertion, type Standing } from '@/core/command';
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
import { describeQuarters, type Quarter } from '@/core/time';
import { Button } from '@/ui/button';
import { keepDraft, readDraft } from './call-draft';

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

/** Marks every token by how it was understood: solid underline, dashed where it has other readings. */
function marks(read: () => Called): Extension {
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor() {
        this.decorations = this.build();
      }
      update(update: ViewUpdate): void {
        if (update.docChanged || update.selectionSet || update.focusChanged) this.decorations = this.build();
      }
      build(): DecorationSet {
        const builder = new RangeSetBuilder<Decoration>();
        const called = read();
        for (const understood of [...called.tokens].sort((a, b) => a.from - b.from || a.to - b.to)) {
          if (understood.to > understood.from)
            builder.add(
              understood.from,
              understood.to,
              Decoration.mark({
                class: understood.readings.length > 0 ? 'call-open' : 'call-known',
                attributes: { title: understood.label },
              }),
            );
        }
        return builder.finish();
      }
    },
    { decorations: (v) => v.decorations },
  );
}

const theme = EditorView.theme({
  '&': { fontSize: '18px', backgroundColor: 'transparent' },
  '&.cm-focused': { outline: 'none' },
  '.cm-content': {
    fontFamily: 'var(--font-figures)',
    color: 'var(--ink)',
    caretColor: 'var(--yours)',
    padding: '5px 0',
  },
  '.cm-line': { padding: '0 2px' },
  '.cm-cursor': { borderLeftColor: 'var(--yours)', borderLeftWidth: '2px' },
  '.cm-placeholder': { color: 'var(--soft)' },
  '.call-known': { borderBottom: '2px solid var(--proposed)' },
  '.call-open': { borderBottom: '2px dashed var(--question)' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '3px double var(--trouble)' },
  '.cm-lintRange-warning': { backgroundImage: 'none', borderBottom: '2px dotted var(--question)' },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', border: '1px solid var(--line)' },
});

/** What is wrong or odd in a text, where. */
function diagnosticsOf(text: string, context: CallContext): Diagnostic[] {
  const { faults, warnings } = readCalls(text, context);
  const at =
    (severity: 'error' | 'warning') =>
    ({ locus, words }: (typeof faults)[number]): Diagnostic => ({
      from: Math.min(locus.text.from, text.length),
      to: Math.min(locus.text.to, text.length),
      severity,
      message: words,
    });
  return [...faults.map(at('error')), ...warnings.map(at('warning'))];
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

interface UnderstandingProps {
  readonly text: string;
  readonly called: Called;
  /** The token that is told of. */
  readonly shown: Understood | null;
  /** Where the call goes, while nothing is typed. */
  readonly where: string;
  /** What it would be written over. */
  readonly standing: Standing | null;
  /** Enter was pressed once where locked notes stand. */
  readonly confirming: boolean;
  readonly onInsert: (how: Insertion) => void;
  readonly onSwap: (token: Understood, to: string) => void;
}

/** How the line is understood: its first fault, or the token at the cursor with its other readings. */
function Understanding({ text, called, shown, where, standing, confirming, onInsert, onSwap }: UnderstandingProps) {
  const wrong = called.faults[0] ?? null;
  return wrong ? (
    <p className="font-semibold text-trouble">{wrong.words}</p>
  ) : shown ? (
    <>
      <p>
        <span className="font-figures font-bold">{text.slice(shown.from, shown.to)}</span>
        <span className="text-soft"> is </span>
        {shown.label}
      </p>
      {shown.readings.slice(1).map((interpretation) => (
        <Button
          key={interpretation.text}
          tone="word"
          size="small"
          className="text-question"
          onClick={() => onSwap(shown, interpretation.text)}
        >
          or {interpretation.label}
        </Button>
      ))}
      {standing && standing.events.length > 0 ? <Over {...{ standing, confirming, onInsert }} /> : null}
      {called.warnings[0] ? <p className="text-question">{called.warnings[0].words}</p> : null}
      {called.open ? <p className="text-soft">{barOpenWords(called.open)}</p> : null}
    </>
  ) : (
    <p className="text-soft">
      {where}{' '}
      <Link href="/calls" className="underline decoration-line underline-offset-4">
        How to call notes
      </Link>
    </p>
  );
}

/** What a call would be written over, and how to insert it instead. */
function Over({
  standing,
  confirming,
  onInsert,
}: {
  readonly standing: Standing;
  readonly confirming: boolean;
  readonly onInsert: (how: Insertion) => void;
}) {
  const { events, locked } = standing;
  const count = events.reduce((sum, event) => sum + Math.max(1, event.notes.length), 0);
  const what = `${count} note${count === 1 ? '' : 's'}${locked > 0 ? `, ${locked} of them locked` : ''}`;
  return (
    <p className={confirming ? 'font-semibold text-trouble' : 'text-question'}>
      {confirming ? `Enter again writes over ${what}.` : `Enter writes over ${what}.`}{' '}
      <Button tone="word" size="small" title="Ctrl+Enter" onClick={() => onInsert('by-beat')}>
        Insert by beat
      </Button>{' '}
      <Button tone="word" size="small" title="Ctrl+Shift+Enter" onClick={() => onInsert('by-bar')}>
        Insert by bar
      </Button>
    </p>
  );
}

/** Tells the strip where what is typed would go, whenever that changes. */
function useCallTarget(from: Quarter | null, until: Quarter, onTarget: Props['onTarget']): void {
  useEffect(() => {
    onTarget(from === null ? null : { from, until });
  }, [from, until, onTarget]);
}

/** How the bar being called stands: what it still takes, or what is over and why. */
function barOpenWords({ bar, missing, causes }: NonNullable<Called['open']>): string {
  const over = missing.startsWith('-');
  const amount = describeQuarters((over ? missing.slice(1) : missing) as Quarter);
  return over
    ? `Bar ${bar + 1} is over by ${amount}${causes[0] ? `: ${causes.join('; or ')}` : ''}.`
    : `Bar ${bar + 1} takes ${amount} more.`;
}

'use client';

import { Link } from '@/ui/link';
import { usePathname, useRouter } from 'next/navigation';
import { CloudOff, Redo2, Undo2 } from 'lucide-react';
import { memo, useDeferredValue, useMemo, type DragEvent, type ReactNode } from 'react';
import { openOf } from '@/core/check';
import { checkSize, unspecifiedIn } from '@/core/score';
import { Button } from '@/ui/button';
import { cn } from '@/ui/cn';
import { Later } from '@/ui/later';
import { ThemeSwitch } from '@/ui/theme-switch';
import { useToast } from '@/ui/toast';
import { otherWords, putDropped, sortFiles } from './dropped';
import { useFindings, usePiece } from './provider';

interface Stage {
  readonly name: string;
  readonly href: string | null;
  /** What is still unsaid at this stage, as a count. */
  readonly open: number;
  readonly here: boolean;
}

/** How many questions of the check wait for an answer; none before it has read the piece. */
function useOpenQuestions(): number {
  const { findings } = useFindings();
  const answers = usePiece((state) => state.document.answers);
  return useMemo(
    () => openOf(findings ?? [], answers).filter((one) => one.severity !== 'open').length,
    [findings, answers],
  );
}

/** The path of work along the piece: where one is, and what is still unsaid at each place. */
const Path = memo(function Path({
  riffId,
  partId,
  open,
}: {
  readonly riffId: string | null;
  readonly partId: string | null;
  readonly open: number;
}) {
  const path = usePathname();
  // Ids alone, so that an edit within a riff does not draw the way anew.
  const root = usePiece((state) => `/pieces/${state.document.id}`);
  const riff = usePiece((state) => riffId ?? state.document.parts[0]?.riffs[0]?.id ?? null);
  const part = usePiece(
    (state) =>
      partId ??
      state.document.parts.find((part) => part.riffs.some((one) => one.id === riff))?.id ??
      state.document.parts[0]?.id ??
      null,
  );
  const whole = usePiece((state) => state.document.sections.length > 0);
  const questions = useOpenQuestions();
  // On a riff's own pages its own sheet is meant, elsewhere the piece's where it has a form.
  const sheet = whole && riffId === null ? `${root}/sheet` : riff ? `${root}/riffs/${riff}/sheet` : null;
  const stages: Stage[] = [
    { name: 'Set up', href: part ? `${root}/parts/${part}` : null, open: 0, here: path.includes('/parts/') },
    { name: 'Hear', href: `${root}/hear`, open: 0, here: path.includes('/hear') },
    {
      name: 'Place',
      href: riff ? `${root}/riffs/${riff}` : null,
      open,
      here: path.includes('/riffs/') && !path.endsWith('/sheet'),
    },
    { name: 'Form', href: `${root}/form`, open: 0, here: path.endsWith('/form') },
    { name: 'Check', href: `${root}/check`, open: questions, here: path.endsWith('/check') },
    { name: 'Teach', href: sheet, open: 0, here: path.endsWith('/sheet') },
  ];
  return (
    <nav
      aria-label="Stages"
      className="ml-auto flex shrink-0 items-center whitespace-nowrap max-[899px]:order-last max-[899px]:ml-0 max-[899px]:w-full max-[899px]:justify-between max-[899px]:text-[15px]"
    >
      {stages.map((one, i) => (
        <span key={one.name} className="flex items-center">
          {i > 0 ? (
            <span
              aria-hidden
              className="mx-2.5 w-4 border-t border-dotted border-line max-[899px]:mx-1 max-[899px]:w-1.5"
            />
          ) : null}
          {one.href ? (
            <Link
              href={one.href}
              aria-current={one.here ? 'page' : undefined}
              className={cn(
                'border-b-2 border-transparent py-1 font-semibold',
                one.here ? 'border-yours' : 'text-soft hover:text-ink',
              )}
            >
              {one.name}
              {one.open > 0 ? (
                <sup className="ml-0.5 text-question" aria-label={`${one.open} open questions`}>
                  {one.open}
                </sup>
              ) : null}
            </Link>
          ) : (
            <span className="py-1 text-soft">{one.name}</span>
          )}
        </span>
      ))}
    </nav>
  );
});

/** How much of the piece is still unsaid, with the way to the list. */
function UnsaidLink() {
  const piece = useDeferredValue(usePiece((state) => state.document));
  const { findings } = useFindings();
  // Before the check has read the piece, what can be told at a glance.
  const count = useMemo(
    () =>
      findings === null
        ? unspecifiedIn(piece).length
        : openOf(findings, piece.answers).filter((one) => one.severity === 'open').length,
    [findings, piece],
  );
  if (count === 0) return null;
  return (
    <Link
      href={`/pieces/${piece.id}/check?show=unsaid`}
      className="ml-1 rounded-sm px-1.5 py-1 text-sm whitespace-nowrap text-question underline decoration-line underline-offset-4"
    >
      {count} unsaid
    </Link>
  );
}

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' });

/** For whom the piece is made and by when, with the way to all that stands behind it. */
function AboutLink() {
  const root = usePiece((state) => `/pieces/${state.document.id}`);
  const asked = usePiece((state) => state.asked);
  const path = usePathname();
  const due = asked?.due ? `, due ${day.format(new Date(`${asked.due}T00:00:00Z`))}` : '';
  return (
    <Link
      href={`${root}/about`}
      prefetch={false}
      aria-current={path.endsWith('/about') ? 'page' : undefined}
      title={asked ? `Asked for${due}` : undefined}
      className="max-w-44 min-h-6 self-start truncate text-[13px] leading-6 text-soft underline decoration-line underline-offset-4 hover:text-ink aria-[current=page]:decoration-yours"
    >
      {asked?.asker ? `for ${asked.asker}` : 'About'}
    </Link>
  );
}

/** The way to files out and in. */
function FilesLink() {
  const root = usePiece((state) => `/pieces/${state.document.id}`);
  const path = usePathname();
  return (
    <Link
      href={`${root}/files`}
      prefetch={false}
      aria-current={path.endsWith('/files') ? 'page' : undefined}
      className="min-h-6 self-start text-[13px] leading-6 text-soft underline decoration-line underline-offset-4 hover:text-ink aria-[current=page]:decoration-yours"
    >
      Files
    </Link>
  );
}

const WORDS = {
  saved: 'Saved',
  saving: 'Saving…',
  offline: 'Not saved',
  stale: 'Not saved',
  gone: 'Not saved',
} as const;

/** Undo and redo, named by what they would take back. */
function UndoButtons() {
  const undo = usePiece((state) => state.undo);
  const redo = usePiece((state) => state.redo);
  const undoWhat = usePiece((state) => state.history.undo.at(-1)?.steps[0]?.what);
  const redoWhat = usePiece((state) => state.history.redo.at(-1)?.steps[0]?.what);
  // What was done before this page was opened is read when it is wanted.
  const older = usePiece((state) => state.older);
  const undoWords = undoWhat ? `Undo: ${undoWhat}` : older.undo ? 'Undo what was done before' : 'Nothing to undo';
  const redoWords = redoWhat ? `Redo: ${redoWhat}` : older.redo ? 'Redo what was undone before' : 'Nothing to redo';
  return (
    <Later>
      <Button
        tone="quiet"
        size="icon"
        disabled={!undoWhat && !older.undo}
        onClick={undo}
        aria-label={undoWords}
        title={undoWords}
      >
        <Undo2 size={18} aria-hidden />
      </Button>
      <Button
        tone="quiet"
        size="icon"
        disabled={!redoWhat && !older.redo}
        onClick={redo}
        aria-label={redoWords}
        title={redoWords}
      >
        <Redo2 size={18} aria-hidden />
      </Button>
    </Later>
  );
}

function SaveWord() {
  const saveState = usePiece((state) => state.saveState);
  const kept = usePiece((state) => state.kept);
  return (
    <p
      role="status"
      className={cn(
        'ml-1 w-20 text-right text-sm max-[899px]:w-16',
        saveState === 'saved' || saveState === 'saving' ? 'text-soft' : 'font-semibold text-trouble',
      )}
      data-save={saveState}
      data-kept={kept}
      title={saveState !== 'saved' && kept ? 'Kept on this device' : undefined}
    >
      {saveState === 'offline' ? <CloudOff size={14} aria-hidden className="mr-1 inline" /> : null}
      {WORDS[saveState]}
    </p>
  );
}

/** Changes the server would not keep: each with the reason, to be made again, copied, or let go. */
function SetAsideList() {
  const aside = usePiece((state) => state.aside);
  const tryAside = usePiece((state) => state.tryAside);
  const dropAside = usePiece((state) => state.dropAside);
  const toast = useToast();
  if (aside.length === 0) return null;
  return (
    <ul aria-label="Changes that could not be kept" className="no-print border-b border-trouble bg-trouble-wash">
      {aside.map(({ id, step, why }) => (
        <li key={id} className="flex flex-wrap items-center gap-x-3 gap-y-1 px-3 py-1.5 text-[15px]">
          <span className="min-w-0 flex-1">
            Not kept: <b>{step.what}</b>. {why}
          </span>
          <Button
            size="small"
            onClick={() => {
              const made = tryAside(id);
              if (made && !made.ok) toast(made.error.words);
            }}
          >
            Make it again
          </Button>
          <Button
            size="small"
            onClick={() =>
              void navigator.clipboard
                .writeText(JSON.stringify(step, null, 2))
                .then(() => toast('Copied.'))
                .catch(() => toast('The browser may not copy here.'))
            }
          >
            Copy
          </Button>
          <Button size="small" onClick={() => dropAside(id)}>
            Delete
          </Button>
        </li>
      ))}
    </ul>
  );
}

/** A piece that was stored larger than one may be opens all the same, and says how it comes right. */
function TooLarge() {
  const sized = usePiece((state) => state.document);
  const size = useMemo(() => checkSize(sized), [sized]);
  if (size.ok) return null;
  return (
    <p role="alert" className="no-print border-b border-trouble bg-trouble-wash px-3 py-1.5 text-[15px]">
      {size.error.words} Nothing can be added until then: delete parts, riffs or bars, or duplicate the piece first.
    </p>
  );
}

interface HeadProps {
  readonly riffId: string | null;
  readonly partId: string | null;
  readonly open: number;
  readonly sub: ReactNode;
}

/** Its parts look for themselves after what they show: the head as a whole is drawn once. */
const Head = memo(function Head({ riffId, partId, open, sub }: HeadProps) {
  const title = usePiece((state) => state.document.title);
  const message = usePiece((state) => state.message);
  return (
    <>
      <header className="no-print flex min-h-14 items-center gap-4 border-b border-rule max-[899px]:flex-wrap max-[899px]:gap-x-2 max-[899px]:gap-y-0">
        <Link href="/" className="font-display text-xl font-semibold max-[899px]:py-1 max-[899px]:text-[15px]">
          Intonazione
        </Link>
        <div className="flex flex-col max-[899px]:order-first max-[899px]:min-w-0 max-[899px]:grow max-[899px]:basis-[calc(100%-13rem)]">
          <h1 className="text-xl leading-tight max-[899px]:text-lg">{title}</h1>
          <div className="flex gap-3">
            <AboutLink />
            <FilesLink />
          </div>
        </div>
        {sub}
        <Path riffId={riffId} partId={partId} open={open} />
        <div className="flex items-center gap-0.5 max-[899px]:order-first">
          <UndoButtons />
          <UnsaidLink />
          <SaveWord />
          <ThemeSwitch />
        </div>
      </header>
      <SetAsideList />
      <TooLarge />
      {message ? (
        <p role="alert" className="no-print border-b border-trouble bg-trouble-wash px-3 py-1.5 text-[15px]">
          {message}
        </p>
      ) : null}
    </>
  );
});

/** Every page of a piece: its head with name, way, undo and what is saved, and the page itself. */
export function Frame({
  riffId = null,
  partId = null,
  open = 0,
  sub = null,
  children,
}: Partial<HeadProps> & { readonly children: ReactNode }) {
  const root = usePiece((state) => `/pieces/${state.document.id}`);
  const router = useRouter();
  const toast = useToast();
  /** Files dropped anywhere on the piece go to the page that takes them, where none on the page does. */
  const drop = (event: DragEvent): void => {
    const files = [...event.dataTransfer.files];
    if (event.defaultPrevented || files.length === 0) return;
    event.preventDefault();
    void sortFiles(files).then(({ music, sound, other }) => {
      for (const { file, kind } of other) toast(otherWords(file, kind));
      if (music.length > 0) {
        putDropped('music', music);
        router.push(`${root}/bring-in`);
      } else if (sound.length > 0) {
        putDropped('sound', sound);
        router.push(`${root}/hear`);
      }
    });
  };
  return (
    // Files may be let go of anywhere; everything a drop does is a button elsewhere too.
    <div
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes('Files')) event.preventDefault();
      }}
      onDrop={drop}
      className="flex h-dvh min-h-[640px] flex-col px-6 max-[899px]:min-h-[480px] max-[899px]:px-2.5 print:block print:h-auto print:px-0"
    >
      <Head riffId={riffId} partId={partId} open={open} sub={sub} />
      {children}
    </div>
  );
}

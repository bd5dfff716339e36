'use client';

import { Printer } from 'lucide-react';
import { useMemo, useState } from 'react';
import { setCredit } from '@/core/command';
import { ok } from '@/core/base';
import type { Piece } from '@/core/score';
import { LineField } from '@/features/form/line-field';
import { LastLook } from '@/features/check/last-look';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { PieceSheet, type SheetChoice } from './piece-sheet';
import { SaveSheet } from './save-sheet';
import { PAPER, type Paper } from './sheet-common';

const FIRST: SheetChoice = {
  ...{
    parts: [],
    sections: null,
    unfolded: false,
    staff: false,
    fingers: true,
    strokes: false,
    spoken: false,
    large: false,
    tones: false,
    together: false,
  },
};

const SHOWN: readonly (readonly [
  keyof SheetChoice & ('staff' | 'fingers' | 'strokes' | 'spoken' | 'large' | 'tones'),
  string,
])[] = [
  ['staff', 'Standard notation'],
  ['fingers', 'Fingers'],
  ['strokes', 'Strokes'],
  ['spoken', 'Spoken text'],
  ['large', 'Large print'],
  ['tones', 'Sounds'],
];

/** The whole piece on paper: which parts and sections, how, and the page as it prints. */
export function PieceSheetPage() {
  const piece = usePiece((state) => state.document);
  return <Chosen piece={piece} />;
}

function Chosen({ piece }: { readonly piece: Piece }) {
  const dispatch = usePiece((state) => state.dispatch);
  const [choice, setChoice] = useState<SheetChoice>({
    ...FIRST,
    parts: piece.parts.slice(0, 1).map((part) => part.id),
  });
  const [paper, setPaper] = useState<Paper>('A4');
  const change = (some: Partial<SheetChoice>): void => setChoice({ ...choice, ...some });
  const toggled = (list: readonly string[], id: string, all: readonly string[]): string[] =>
    all.filter((one) => (one === id ? !list.includes(id) : list.includes(one)));
  const parts = piece.parts.map((part) => part.id);
  const sections = piece.sections.map((section) => section.id);
  const footer = useMemo(
    () =>
      [piece.title, piece.credit ?? '']
        .filter(Boolean)
        .join(' · ')
        .replace(/["\\\n]/g, ' '),
    [piece.title, piece.credit],
  );
  return (
    <Frame>
      <style>{`@page { size: ${PAPER[paper].css}; margin: 14mm 14mm 18mm; @bottom-left { content: "${footer}"; font: 9pt sans-serif; } @bottom-right { content: counter(page) " of " counter(pages); font: 9pt sans-serif; } }`}</style>
      <section
        aria-label="What the sheet shows"
        className="no-print flex flex-wrap items-center gap-x-5 gap-y-1.5 border-b border-rule py-2 text-[15px]"
      >
        <fieldset className="flex flex-wrap items-center gap-x-3">
          <legend className="sr-only">Parts</legend>
          {piece.parts.map((part) => (
            <Tick
              key={part.id}
              on={choice.parts.includes(part.id)}
              onTick={() => change({ parts: toggled(choice.parts, part.id, parts) })}
            >
              {part.name}
            </Tick>
          ))}
          {choice.parts.length > 1 ? (
            <Tick on={choice.together} onTick={() => change({ together: !choice.together })}>
              as a score
            </Tick>
          ) : null}
        </fieldset>
        <fieldset className="flex flex-wrap items-center gap-x-3">
          <legend className="sr-only">Sections</legend>
          {piece.sections.map((section) => (
            <Tick
              key={section.id}
              on={(choice.sections ?? sections).includes(section.id)}
              onTick={() => {
                const next = toggled(choice.sections ?? sections, section.id, sections);
                change({ sections: next.length === sections.length ? null : next });
              }}
            >
              {section.name}
            </Tick>
          ))}
        </fieldset>
        <fieldset className="flex items-center gap-x-3">
          <legend className="sr-only">Repeats</legend>
          {[false, true].map((unfolded) => (
            <label key={String(unfolded)} className="flex items-center gap-1.5">
              <input
                type="radio"
                name="repeats"
                checked={choice.unfolded === unfolded}
                onChange={() => change({ unfolded })}
              />
              {unfolded ? 'every bar' : 'repeats told'}
            </label>
          ))}
        </fieldset>
        <fieldset className="flex flex-wrap items-center gap-x-3">
          <legend className="sr-only">Also</legend>
          {SHOWN.map(([key, words]) => (
            <Tick key={key} on={choice[key]} onTick={() => change({ [key]: !choice[key] })}>
              {words}
            </Tick>
          ))}
        </fieldset>
        <fieldset className="flex items-center gap-x-3">
          <legend className="sr-only">Paper</legend>
          {(['A4', 'letter'] as const).map((one) => (
            <label key={one} className="flex items-center gap-1.5">
              <input type="radio" name="paper" checked={paper === one} onChange={() => setPaper(one)} />{' '}
              {one === 'A4' ? 'A4' : 'Letter'}
            </label>
          ))}
        </fieldset>
        <div className="w-56">
          <LineField
            label="By whom"
            hideLabel
            value={piece.credit ?? ''}
            hint={piece.credit ? '' : 'By whom: stands under every page'}
            onTake={(line) => {
              const done = dispatch(setCredit(line || null));
              return done.ok ? ok(null) : done;
            }}
          />
        </div>
        <LastLook />
        <SaveSheet title={piece.title} author={piece.credit ?? ''} paper={paper} />
        <Button tone="yours" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </Button>
      </section>
      <main className="flex min-h-0 flex-1 flex-col print:block">
        <div
          role="region"
          aria-label="The sheet as it prints"
          tabIndex={0}
          className="min-h-0 flex-1 overflow-auto bg-rule/40 py-6 max-[899px]:py-2 print:overflow-visible print:bg-white print:p-0"
        >
          <article
            aria-label="Sheet"
            className="mx-auto bg-white p-[14mm] text-black shadow max-[899px]:p-3 print:m-0 print:min-h-0! print:max-w-none! print:p-0 print:shadow-none"
            style={{ maxWidth: PAPER[paper].width, minHeight: PAPER[paper].height }}
          >
            <PieceSheet piece={piece} choice={choice} />
          </article>
        </div>
      </main>
    </Frame>
  );
}

function Tick({
  on,
  onTick,
  children,
}: {
  readonly on: boolean;
  readonly onTick: () => void;
  readonly children: string;
}) {
  return (
    <label className="flex items-center gap-1.5">
      <input type="checkbox" checked={on} onChange={onTick} /> {children}
    </label>
  );
}

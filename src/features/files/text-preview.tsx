'use client';

import { useRef, useState } from 'react';
import type { Finding } from '@/core/base';
import { Button } from '@/ui/button';

interface Props {
  readonly text: string;
  readonly doubts: readonly Finding[];
  readonly onChange: (text: string) => void;
}

const type = 'whitespace-pre font-figures text-[14px] leading-[1.35] p-3';

/** A text tab as it was typed, every doubtful stretch marked under what can be typed over; read anew when asked. */
export function TextPreview({ text, doubts, onChange }: Props) {
  const [typed, setTyped] = useState(text);
  const area = useRef<HTMLTextAreaElement>(null);
  const marks = useRef<HTMLPreElement>(null);
  const changed = typed !== text;
  const stretches = doubts.flatMap((doubt) => (doubt.locus.text ? [{ ...doubt.locus.text, words: doubt.words }] : []));
  const follow = (): void => {
    if (!area.current || !marks.current) return;
    marks.current.scrollTop = area.current.scrollTop;
    marks.current.scrollLeft = area.current.scrollLeft;
  };
  const show = (from: number, to: number): void => {
    const box = area.current;
    if (!box) return;
    box.focus();
    box.setSelectionRange(from, to);
    const line = typed.slice(0, from).split('\n').length - 1;
    box.scrollTop = Math.max(0, line * 19 - 60);
    follow();
  };
  return (
    <section aria-label="The text" className="flex flex-col gap-2">
      <div className="relative h-80 border border-line bg-sheet">
        <pre ref={marks} aria-hidden className={`absolute inset-0 overflow-hidden text-transparent ${type}`}>
          {changed ? typed : marked(typed, stretches)}
        </pre>
        <textarea
          ref={area}
          aria-label="Text of the tab"
          spellCheck={false}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onScroll={follow}
          className={`absolute inset-0 h-full w-full resize-none overflow-auto bg-transparent ${type}`}
        />
      </div>
      {changed ? (
        <Button tone="yours" className="self-start" onClick={() => onChange(typed)}>
          Read the text again
        </Button>
      ) : null}
      {stretches.length > 0 && !changed ? (
        <ul aria-label="In doubt" className="flex max-h-40 flex-col overflow-y-auto">
          {stretches.map((doubt, i) => (
            <li key={i}>
              <button
                type="button"
                className="min-h-7 text-left text-[15px] text-question underline decoration-line underline-offset-4"
                onClick={() => show(doubt.from, doubt.to)}
              >
                Line {typed.slice(0, doubt.from).split('\n').length}: {doubt.words}
              </button>
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

/** The text with its doubtful stretches under a mark. Stretches that overlap are one. */
function marked(text: string, stretches: readonly { readonly from: number; readonly to: number }[]) {
  const out = [];
  let at = 0;
  for (const { from, to } of [...stretches].sort((a, b) => a.from - b.from)) {
    if (to <= at) continue;
    const start = Math.max(at, from);
    out.push(text.slice(at, start));
    out.push(
      <mark key={start} className="bg-chosen text-transparent">
        {text.slice(start, to)}
      </mark>,
    );
    at = to;
  }
  out.push(text.slice(at));
  return out;
}

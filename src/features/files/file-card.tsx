'use client';

import { counted } from '@/core/base';
import { X } from 'lucide-react';
import { spellTuning } from '@/core/instrument';
import { noteName } from '@/core/pitch';
import { GRIDS, type Grid } from '@/core/rhythm';
import { Button } from '@/ui/button';
import { cn } from '@/ui/cn';
import { SelectField } from '@/ui/field';
import type { FileSummary, PartSummary } from '@/workers/import.worker';
import { QuestionList } from './question-list';
import { TextPreview } from './text-preview';
import type { ImportedFile, PartPlan } from './use-import';

const GRID_WORDS: Record<Grid, string> = {
  auto: 'as written, or best fit beat by beat',
  eighths: 'eighths',
  sixteenths: 'sixteenths',
  'thirty-seconds': 'thirty-seconds',
  'triplet-eighths': 'triplet eighths',
  'triplet-sixteenths': 'triplet sixteenths',
};

interface Props {
  readonly file: ImportedFile;
  /** The part whose settings are shown, where it is one of this file. */
  readonly shown: number | null;
  readonly onShow: (part: number) => void;
  readonly onPlan: (part: number, plan: PartPlan) => void;
  /** Reads the file again with other settings. */
  readonly onRead: (change: Partial<Pick<ImportedFile, 'grid' | 'answers' | 'bytes'>>) => void;
  readonly onRemove: () => void;
  readonly onStop: () => void;
}

/** One file on the import desk: what it is, what it holds, what it asks, what of it is left out. */
export function FileCard({ file, shown, onShow, onPlan, onRead, onRemove, onStop }: Props) {
  const { reading } = file;
  return (
    <section aria-label={file.name} className="border-t border-line pt-3">
      <div className="flex items-baseline gap-3">
        <div className="flex min-w-0 flex-wrap items-baseline gap-x-3">
          <h2 className="text-xl break-words">
            {reading.state === 'read' && reading.summary.title ? reading.summary.title : file.name}
          </h2>
          {reading.state === 'read' ? (
            <p className="text-sm text-soft">{aboutWords(file.name, reading.summary)}</p>
          ) : null}
        </div>
        <Button tone="quiet" size="icon" className="ml-auto" aria-label={`Remove ${file.name}`} onClick={onRemove}>
          <X size={18} aria-hidden />
        </Button>
      </div>
      {reading.state === 'reading' ? (
        <div role="status" className="flex items-center gap-3 py-2">
          <progress value={reading.share} max={1} className="w-60" aria-label={`Reading ${file.name}`} />
          <span>Reading…</span>
          <Button size="small" onClick={onStop}>
            Stop
          </Button>
        </div>
      ) : null}
      {reading.state === 'fault' ? (
        <p role="alert" className="mt-1 border-l-4 border-trouble bg-trouble-wash px-4 py-3">
          “{file.name}”: {reading.words}
        </p>
      ) : null}
      {reading.state === 'read' ? (
        <div className="flex flex-col gap-3">
          {reading.summary.piece ? (
            <p className="text-[15px]">
              A whole piece: it is put on the shelf as a piece of its own, with everything in it.
            </p>
          ) : (
            <Parts file={file} parts={reading.summary.parts} {...{ shown, onShow, onPlan }} />
          )}
          <QuestionList
            questions={reading.summary.questions}
            answers={file.answers}
            name={file.id}
            onAnswer={(question, answer) => onRead({ answers: { ...file.answers, [question]: answer } })}
          />
          {reading.summary.kind === 'midi' ? (
            <SelectField
              label="Draw times to"
              value={file.grid}
              onChange={(event) => onRead({ grid: event.target.value as Grid })}
              className="max-w-80"
            >
              {GRIDS.map((grid) => (
                <option key={grid} value={grid}>
                  {GRID_WORDS[grid]}
                </option>
              ))}
            </SelectField>
          ) : null}
          <Remarks summary={reading.summary} />
          {reading.summary.text === null ? null : (
            <TextPreview
              key={reading.summary.text}
              text={reading.summary.text}
              doubts={reading.summary.doubts}
              onChange={(text) => onRead({ bytes: new TextEncoder().encode(text) })}
            />
          )}
        </div>
      ) : null}
    </section>
  );
}

function aboutWords(name: string, { kindName, bars, repeats, marks, title }: FileSummary): string {
  return [
    ...(title ? [name] : []),
    kindName,
    counted(bars, 'bar'),
    ...(repeats > 0 ? [counted(repeats, 'repeat')] : []),
    ...(marks.length > 0 ? [counted(marks.length, 'mark')] : []),
  ].join(' · ');
}

function Remarks({ summary }: { readonly summary: FileSummary }) {
  const { remarks, leftOut } = summary;
  return (
    <>
      {remarks.length > 0 ? (
        <ul className="text-[15px] text-question">
          {remarks.map((finding) => (
            <li key={finding.rule + finding.words}>{finding.words}</li>
          ))}
        </ul>
      ) : null}
      {leftOut.length > 0 ? (
        <details className="text-[15px]">
          <summary className="min-h-7 cursor-pointer font-semibold text-soft">
            Not kept: {leftOut.length} {leftOut.length === 1 ? 'thing' : 'things'} the file says
          </summary>
          <ul className="mt-1 max-h-44 overflow-y-auto pl-4 text-soft">
            {leftOut.map((one) => (
              <li key={one.what}>
                {one.what}
                {one.count > 1 ? `, ${one.count} times` : ''} (first: {one.where})
              </li>
            ))}
          </ul>
        </details>
      ) : null}
    </>
  );
}

interface PartsProps extends Pick<Props, 'file' | 'shown' | 'onShow' | 'onPlan'> {
  readonly parts: readonly PartSummary[];
}

/** The parts of a file: which are taken, and what each is played on. */
function Parts({ file, parts, shown, onShow, onPlan }: PartsProps) {
  return (
    <ul aria-label={`Parts of ${file.name}`} className="mt-1">
      {parts.map((part, i) => {
        const plan = file.parts[i];
        if (!plan) return null;
        const none = part.kind === 'drums' || part.notes === 0;
        return (
          <li
            key={i}
            className={cn('flex items-center gap-2 border-t border-rule pl-1', shown === i && 'bg-chosen/40')}
          >
            <input
              type="checkbox"
              className="size-5"
              aria-label={`Bring in ${part.name}`}
              checked={plan.take}
              disabled={none}
              onChange={(event) => {
                onPlan(i, { ...plan, take: event.target.checked });
                if (event.target.checked) onShow(i);
              }}
            />
            <button
              type="button"
              disabled={none}
              aria-pressed={shown === i}
              onClick={() => onShow(i)}
              className="flex min-h-10 flex-1 flex-wrap items-baseline gap-x-4 py-1.5 text-left text-[15px]"
            >
              <span className="min-w-32 font-semibold">{plan.name || part.name}</span>
              <span className="text-soft">
                {part.kind === 'drums' ? 'drums' : part.notes === 0 ? 'no notes' : counted(part.notes, 'note')}
              </span>
              {part.low !== null && part.high !== null ? (
                <span className="font-figures">
                  {noteName(part.low, { octave: true })} – {noteName(part.high, { octave: true })}
                </span>
              ) : null}
              {none ? null : (
                <span className="text-soft">
                  {spellTuning(plan.setup.open, plan.setup.absent, plan.setup.signs)}
                  {plan.setup.capos.length > 0 ? `, capo ${plan.setup.capos[0]?.fret}` : ''}
                  {part.placed ? ', with places' : ''}
                </span>
              )}
            </button>
          </li>
        );
      })}
    </ul>
  );
}

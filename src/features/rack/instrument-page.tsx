'use client';

import { pathWords } from '@/core/base';
import { Link } from '@/ui/link';
import { useState, useTransition } from 'react';
import type { InstrumentKind } from '@/core/instrument';
import type { RackChange, RackEntry } from '@/server/repositories/rack';
import { Button, buttonClass } from '@/ui/button';
import { SelectField, TextField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import { saveInstrumentAction } from './actions';
import { RackFrame } from './frame';
import { draftOfInstrument, mended, readInstrumentDraft, sameDraft } from './instrument-draft';
import { StringTable } from './string-table';
import { TensionTable } from './tension-table';
import { ToneNotes } from './tone-notes';

const KINDS: readonly (readonly [InstrumentKind, string])[] = [
  ['electric', 'electric guitar'],
  ['acoustic', 'acoustic guitar'],
  ['classical', 'nylon-string guitar'],
  ['bass', 'bass'],
  ['baritone', 'baritone'],
  ['tenor', 'tenor guitar'],
];

interface Props {
  readonly entry: RackEntry;
  readonly changes: readonly RackChange[];
}

/** One instrument: everything that decides what it sounds like, what it bears, and what was done to it. */
export function InstrumentPage({ entry, changes }: Props) {
  const toast = useToast();
  const [kept, setKept] = useState({ rack: entry, revision: entry.revision, changes });
  const [draft, setDraft] = useState(() => draftOfInstrument(entry));
  const [refused, setRefused] = useState<{ at: string; message: string } | null>(null);
  const [meant, setMeant] = useState<readonly string[]>([]);
  const [busy, begin] = useTransition();
  const read = readInstrumentDraft(draft);
  const fault = read.ok ? refused : { at: pathWords(read.error.locus), message: read.error.words };
  const questions = read.ok ? read.value.questions.filter((question) => !meant.includes(question.message)) : [];
  const changed = !sameDraft(draft, kept.rack);
  const errorAt = (field: string): string | null => (fault?.at === field ? fault.message : null);
  const stringFault = fault?.at.startsWith('strings.') ? Number(fault.at.split('.')[1]) : null;
  const save = (): void => {
    if (!read.ok) return;
    begin(async () => {
      const saved = await saveInstrumentAction(read.value.rack, kept.revision);
      if (saved.status === 'saved') {
        setKept({ rack: { ...entry, ...read.value.rack }, revision: saved.revision, changes: saved.changes });
        setDraft(draftOfInstrument(read.value.rack));
        setRefused(null);
        toast('Kept. What was done is in the history below.');
      } else setRefused(saved);
    });
  };
  const text = (field: 'scaleMm' | 'frets' | 'easyFrets' | 'nutSpacingMm' | 'bridgeSpacingMm', label: string) => (
    <TextField
      label={label}
      inputMode="decimal"
      value={draft[field]}
      error={errorAt(field)}
      onChange={(event) => setDraft({ ...draft, [field]: event.target.value })}
    />
  );
  return (
    <RackFrame
      at="/rack"
      title={kept.rack.instrument.name}
      aside={
        <div className="flex items-center gap-3">
          <Link href={`/rack/tune?instrument=${draft.id}`} className={buttonClass()}>
            Tune up and log
          </Link>
          <Link href={`/rack/tunings?instrument=${draft.id}`} className={buttonClass()}>
            Its tunings
          </Link>
          <Button tone="yours" disabled={!changed || !read.ok || busy} onClick={save}>
            Keep the changes
          </Button>
        </div>
      }
    >
      {fault && (fault.at === '' || fault.at === 'strings' || stringFault !== null) ? (
        <p role="alert" className="mb-3 border-l-4 border-trouble pl-3 font-semibold text-trouble">
          {fault.message}
        </p>
      ) : null}
      {questions.map((question) => (
        <div
          key={question.message}
          role="group"
          aria-label="Question"
          className="mb-3 flex items-center gap-3 border-l-4 border-question bg-question-wash/50 py-1.5 pl-3"
        >
          <span>{question.message}</span>
          {question.instead === null ? null : (
            <Button size="small" onClick={() => setDraft(mended(draft, question))}>
              Take {question.instead} mm
            </Button>
          )}
          {question.at === 'scaleMm' && question.instead !== null ? null : (
            <Button size="small" tone="quiet" onClick={() => setMeant([...meant, question.message])}>
              It is meant
            </Button>
          )}
        </div>
      ))}
      <div className="flex flex-col gap-7">
        <section aria-label="Body" className="grid grid-cols-4 gap-x-4 gap-y-3 max-[600px]:grid-cols-2">
          <TextField
            label="Name"
            value={draft.name}
            maxLength={120}
            error={errorAt('name')}
            onChange={(event) => setDraft({ ...draft, name: event.target.value })}
          />
          <SelectField
            label="Kind"
            value={draft.kind}
            onChange={(event) =>
              setDraft({ ...draft, kind: KINDS.find(([one]) => one === event.target.value)?.[0] ?? 'electric' })
            }
          >
            {KINDS.map(([one, name]) => (
              <option key={one} value={one}>
                {name}
              </option>
            ))}
          </SelectField>
          {text('scaleMm', 'Scale length, mm')}
          <SelectField
            label="Played"
            value={draft.handed}
            onChange={(event) => setDraft({ ...draft, handed: event.target.value === 'left' ? 'left' : 'right' })}
          >
            <option value="right">right-handed</option>
            <option value="left">left-handed (neck drawn mirrored)</option>
          </SelectField>
          {text('frets', 'Frets')}
          {text('easyFrets', 'Last comfortable fret (body joint)')}
          {text('nutSpacingMm', 'Outer strings apart at the nut, mm')}
          {text('bridgeSpacingMm', 'Outer strings apart at the bridge, mm')}
          <div className="col-span-4 max-[600px]:col-span-2">
            <TextField
              label="Description, in words"
              value={draft.description}
              maxLength={1000}
              onChange={(event) => setDraft({ ...draft, description: event.target.value })}
            />
          </div>
        </section>
        <StringTable draft={draft} onChange={setDraft} fault={stringFault} />
        {read.ok && read.value.questions.every((question) => question.at !== 'scaleMm' || question.instead === null) ? (
          <section aria-label="Tension">
            <h2 className="text-xl">Tension in its own tuning</h2>
            <TensionTable
              instrument={read.value.rack.instrument}
              open={read.value.rack.instrument.strings.map((string) => string.pitch)}
              absent={[]}
            />
          </section>
        ) : null}
        <ToneNotes tones={draft.tones} onChange={(tones) => setDraft({ ...draft, tones })} />
        <section aria-label="History">
          <h2 className="text-xl">History</h2>
          <ol className="mt-1 flex flex-col gap-1 text-[15px]">
            {kept.changes.map((one) => (
              <li key={one.revision} className="flex gap-4">
                <time dateTime={one.madeAt} className="w-28 shrink-0 font-figures text-soft">
                  {one.madeAt.slice(0, 10)}
                </time>
                <span>{one.what}</span>
              </li>
            ))}
          </ol>
        </section>
      </div>
    </RackFrame>
  );
}

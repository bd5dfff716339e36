'use client';

import { Link } from '@/ui/link';
import { useRouter } from 'next/navigation';
import { useRefresh } from '@/features/studio/studio';
import { Download, Plus, Trash2, Upload } from 'lucide-react';
import { useRef, useState, useTransition } from 'react';
import { spellTuning } from '@/core/instrument';
import { Button, buttonClass } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { SelectField, TextField } from '@/ui/field';
import { useToast } from '@/ui/toast';
import { copyInstrumentAction, deleteInstrumentAction } from './actions';
import { RackFrame } from './frame';
import { InstrumentOptions } from './instrument-options';
import { useRack } from './rack-context';
import { useRackFile } from './use-rack-file';

/** The studio's instruments, and the ways to have another. */
export function InstrumentsPage() {
  const rack = useRack();
  const refresh = useRefresh();
  const toast = useToast();
  const bringRack = useRackFile();
  const [adding, setAdding] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const [busy, begin] = useTransition();

  const bringIn = (chosen: File | undefined): void => {
    if (!chosen) return;
    begin(async () => setFault(await bringRack(chosen)));
  };
  const remove = (id: string, name: string): void => {
    begin(async () => {
      await deleteInstrumentAction(id, true);
      refresh();
      toast(`“${name}” is off the rack. Pieces keep the set-up they have.`, {
        label: 'Put it back',
        run: () =>
          begin(async () => {
            await deleteInstrumentAction(id, false);
            refresh();
          }),
      });
    });
  };

  return (
    <RackFrame
      at="/rack"
      title="Instruments"
      lead="What is played here: strings, lengths and spacings, which all figures rest on, and how each should sound."
      aside={
        <div className="flex gap-2">
          <Button disabled={busy} onClick={() => file.current?.click()}>
            <Upload size={18} aria-hidden /> Bring in
          </Button>
          <a href="/api/rack" download className={buttonClass()}>
            <Download size={18} aria-hidden /> Hand out
          </a>
          <Button tone="yours" onClick={() => setAdding(true)}>
            <Plus size={18} aria-hidden /> Instrument
          </Button>
        </div>
      }
    >
      <input
        ref={file}
        type="file"
        accept="application/json,.json"
        className="sr-only"
        aria-label="Rack file"
        tabIndex={-1}
        onChange={(event) => {
          bringIn(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {fault ? (
        <p role="alert" className="mb-3 font-semibold text-trouble">
          {fault}
        </p>
      ) : null}
      {rack.instruments.length === 0 ? (
        <p className="py-16 text-center text-lg text-soft">
          No instrument of your own yet. Begin with a copy of one from the catalogue, and change what differs.
        </p>
      ) : (
        <ul className="divide-y divide-rule border-y border-rule bg-sheet">
          {rack.instruments.map(({ instrument, description, changedAt, tones }) => (
            <li
              key={instrument.id}
              className="flex items-baseline gap-6 px-5 py-3.5 hover:bg-chosen/25 max-[899px]:flex-wrap max-[899px]:gap-x-4 max-[899px]:gap-y-1 max-[899px]:px-3"
            >
              <Link
                href={`/rack/instruments/${instrument.id}`}
                className="w-72 shrink-0 font-display text-xl leading-tight font-semibold underline-offset-4 hover:underline"
              >
                {instrument.name}
              </Link>
              <span className="w-44 shrink-0 font-figures">
                {spellTuning(instrument.strings.map((string) => string.pitch))}
              </span>
              <span className="w-32 shrink-0 font-figures">{instrument.scaleMm} mm</span>
              <span className="min-w-0 flex-1 truncate text-soft">
                {description || (tones.length > 0 ? `${tones.length} tone note${tones.length > 1 ? 's' : ''}` : '')}
              </span>
              <span className="text-sm text-soft">{changedAt.slice(0, 10)}</span>
              <Button
                tone="quiet"
                size="icon"
                className="self-center"
                aria-label={`Take ${instrument.name} off the rack`}
                onClick={() => remove(instrument.id, instrument.name)}
              >
                <Trash2 size={18} aria-hidden />
              </Button>
            </li>
          ))}
        </ul>
      )}
      <AddInstrument open={adding} onOpenChange={setAdding} />
    </RackFrame>
  );
}

function AddInstrument({
  open,
  onOpenChange,
}: {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
}) {
  const router = useRouter();
  const [source, setSource] = useState('guitar-6');
  const [name, setName] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [busy, begin] = useTransition();
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="An instrument"
      description="A copy to begin with; everything about it can be changed."
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          begin(async () => {
            const made = await copyInstrumentAction(source, name);
            if (made.ok) router.push(`/rack/instruments/${made.value}`);
            else setFault(made.error.words);
          });
        }}
      >
        <SelectField label="Copy of" value={source} onChange={(event) => setSource(event.target.value)} error={fault}>
          <InstrumentOptions />
        </SelectField>
        <TextField
          label="Name"
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
          hint="As you call it, such as “Loft guitar”."
        />
        <Button tone="yours" type="submit" disabled={busy}>
          Put it on the rack
        </Button>
      </form>
    </Dialog>
  );
}

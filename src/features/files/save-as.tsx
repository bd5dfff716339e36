'use client';

import { useMemo, useState } from 'react';
import { modelOf, type Piece } from '@/core/score';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { SelectField } from '@/ui/field';
import { fileNameOf, saveFile } from '@/ui/save-file';
import { useToast } from '@/ui/toast';
import { useWorker } from '@/ui/use-worker';
import type { ExportDoor } from '@/workers/export.worker';
import { useExport } from './use-export';

const STAVES = { tab: 'tab alone', both: 'staff and tab', staff: 'staff alone' } as const;
const CHANNELS = { one: 'one a part', strings: 'one a string, with bends' } as const;
const WIDTHS = [60, 80, 100, 120] as const;

type Staves = keyof typeof STAVES;
type Channels = keyof typeof CHANNELS;

/** The piece, or some parts of it, in a format others read. */
export function SaveAs() {
  const piece = usePiece((state) => state.document);
  const toast = useToast();
  const { run, busy } = useExport();
  const [chosen, setChosen] = useState<readonly string[]>(() =>
    piece.parts.filter((part) => !modelOf(piece, part)).map((part) => part.id),
  );
  const [staves, setStaves] = useState<Staves>('both');
  const [channels, setChannels] = useState<Channels>('strings');
  const [width, setWidth] = useState<number>(80);
  const [speed, setSpeed] = useState(100);
  const [click, setClick] = useState(false);
  const parts = piece.parts.filter((part) => chosen.includes(part.id)).map((part) => part.id);
  const none = parts.length === 0;

  const save = (what: string, extension: string, type: string, make: Parameters<typeof run>[1]): void =>
    void run(what, make).then((bytes) => {
      if (bytes === null) return;
      if (typeof bytes === 'string') toast(bytes);
      else saveFile(`${fileNameOf(piece.title)}.${extension}`, new Blob([bytes], { type }));
    });
  const music = (format: 'musicxml' | 'midi' | 'texttab' | 'json', extension: string, type: string): void =>
    save(extension, extension, type, (door) =>
      door.write(piece, format, { parts: format === 'json' ? undefined : parts, staves, channels, width }, extension),
    );
  return (
    <section aria-label="Save as" className="flex flex-col gap-5">
      <h2 className="text-xl">Save as</h2>
      <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
        <legend className="mb-1 text-sm font-semibold text-soft">Parts</legend>
        {piece.parts.map((part) => (
          <label key={part.id} className="flex min-h-7 items-center gap-1.5">
            <input
              type="checkbox"
              checked={chosen.includes(part.id)}
              onChange={() =>
                setChosen(chosen.includes(part.id) ? chosen.filter((id) => id !== part.id) : [...chosen, part.id])
              }
            />
            {part.name}
          </label>
        ))}
      </fieldset>
      <Row name="MusicXML" what="Notes, places and techniques, for notation programs.">
        <SelectField label="Staves" value={staves} onChange={(event) => setStaves(event.target.value as Staves)}>
          {(Object.keys(STAVES) as Staves[]).map((one) => (
            <option key={one} value={one}>
              {STAVES[one]}
            </option>
          ))}
        </SelectField>
        <SaveButton
          name="MusicXML"
          {...{ none, busy }}
          on="musicxml"
          onClick={() => music('musicxml', 'musicxml', 'application/vnd.recordare.musicxml+xml')}
        />
        <SaveButton
          name="compressed MusicXML"
          label="Compressed"
          {...{ none, busy }}
          on="mxl"
          onClick={() => music('musicxml', 'mxl', 'application/vnd.recordare.musicxml')}
        />
      </Row>
      <Row name="MIDI" what="Pitches and times as the form plays them.">
        <SelectField
          label="Channels"
          value={channels}
          onChange={(event) => setChannels(event.target.value as Channels)}
        >
          {(Object.keys(CHANNELS) as Channels[]).map((one) => (
            <option key={one} value={one}>
              {CHANNELS[one]}
            </option>
          ))}
        </SelectField>
        <SaveButton name="MIDI" {...{ none, busy }} on="mid" onClick={() => music('midi', 'mid', 'audio/midi')} />
      </Row>
      <Row name="Text tab" what="For letters and messages, in a face of even width.">
        <SelectField label="Width" value={width} onChange={(event) => setWidth(Number(event.target.value))}>
          {WIDTHS.map((one) => (
            <option key={one} value={one}>
              {one} characters
            </option>
          ))}
        </SelectField>
        <SaveButton
          name="text tab"
          {...{ none, busy }}
          on="txt"
          onClick={() => music('texttab', 'txt', 'text/plain')}
        />
      </Row>
      <TextShown piece={piece} parts={parts} width={width} />
      <Row name="Sound" what="The parts mixed, as a WAV.">
        <SelectField label="Speed" value={speed} onChange={(event) => setSpeed(Number(event.target.value))}>
          {[50, 60, 70, 80, 90, 100, 110].map((one) => (
            <option key={one} value={one}>
              {one} %
            </option>
          ))}
        </SelectField>
        <label className="flex min-h-9 items-center gap-1.5 self-end">
          <input type="checkbox" checked={click} onChange={() => setClick(!click)} /> with click
        </label>
        <SaveButton
          name="WAV"
          {...{ none, busy }}
          on="wav"
          onClick={() => save('wav', 'wav', 'audio/wav', (door) => door.sound(piece, parts, speed / 100, click))}
        />
      </Row>
      <Row name="Piece (JSON)" what="Everything in it, to be opened here again. All parts.">
        <SaveButton
          name="JSON"
          none={false}
          busy={busy}
          on="json"
          onClick={() => music('json', 'json', 'application/json')}
        />
      </Row>
    </section>
  );
}

function Row({
  name,
  what,
  children,
}: {
  readonly name: string;
  readonly what: string;
  readonly children: React.ReactNode;
}) {
  return (
    <div role="group" aria-label={name} className="flex flex-wrap items-end gap-x-4 gap-y-2 border-t border-rule pt-3">
      <div className="min-w-52 flex-1">
        <h3 className="text-lg">{name}</h3>
        <p className="text-sm text-soft">{what}</p>
      </div>
      {children}
    </div>
  );
}

interface SaveButtonProps {
  readonly name: string;
  readonly label?: string;
  readonly none: boolean;
  readonly busy: string | null;
  readonly on: string;
  readonly onClick: () => void;
}

function SaveButton({ name, label = 'Save', none, busy, on, onClick }: SaveButtonProps) {
  return (
    <Button disabled={none || busy !== null} aria-label={`Save as ${name}`} onClick={onClick}>
      {busy === on ? 'Making…' : label}
    </Button>
  );
}

/** The beginning of the text as it will be. */
function TextShown({
  piece,
  parts,
  width,
}: {
  readonly piece: Piece;
  readonly parts: readonly string[];
  readonly width: number;
}) {
  const question = useMemo(() => (parts.length > 0 ? { piece, parts, width } : null), [piece, parts, width]);
  const { answer } = useWorker<ExportDoor, NonNullable<typeof question>, string>({
    make: () => new Worker(new URL('../../workers/export.worker.ts', import.meta.url), { type: 'module' }),
    question,
    ask: async (door, asked) =>
      new TextDecoder().decode(
        await door.write(asked.piece, 'texttab', { parts: asked.parts, width: asked.width }, 'txt'),
      ),
    still: 250,
  });
  if (answer === null) return null;
  return (
    <pre
      aria-label="The text as it will be"
      role="region"
      tabIndex={0}
      className="max-h-56 overflow-auto border border-rule bg-sheet p-3 font-figures text-[13px] leading-[1.35]"
    >
      {answer.split('\n').slice(0, 60).join('\n')}
    </pre>
  );
}

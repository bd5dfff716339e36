'use client';

import { insertPart, setTempo, together } from '@/core/command';
import { FileUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useEffectEvent, useState, type DragEvent } from 'react';
import { type Setup } from '@/core/instrument';
import { noteName } from '@/core/pitch';
import { GRIDS, type Grid } from '@/core/rhythm';
import { Frame } from '@/features/piece/frame';
import { takeDropped } from '@/features/piece/dropped';
import { usePiece } from '@/features/piece/provider';
import { useRack } from '@/features/rack/rack-context';
import { FIRST_DRAFT, madeOf, type SetupDraft } from '@/features/setup/draft';
import { SetupFields } from '@/features/setup/setup-fields';
import { Button } from '@/ui/button';
import { cn } from '@/ui/cn';
import { SelectField } from '@/ui/field';
import type { MidiSummary } from '@/workers/midi.worker';
import { useMidi } from './use-midi';

const GRID_WORDS: Record<Grid, string> = {
  auto: 'best fit, beat by beat',
  eighths: 'eighths',
  sixteenths: 'sixteenths',
  'thirty-seconds': 'thirty-seconds',
  'triplet-eighths': 'triplet eighths',
  'triplet-sixteenths': 'triplet sixteenths',
};

/** A Standard MIDI file in: choose the part, the set-up, the octave and the grid. */
export function BringIn() {
  const router = useRouter();
  const piece = usePiece((state) => state.document);
  const dispatch = usePiece((state) => state.dispatch);
  const { reading, read, door } = useMidi();
  const [over, setOver] = useState(false);
  const [index, setIndex] = useState(0);
  const [draft, setDraft] = useState<SetupDraft>(FIRST_DRAFT);
  const [grid, setGrid] = useState<Grid>('auto');
  const [shifts, setShifts] = useState<{ best: number; inRange: Record<number, number> } | null>(null);
  const [shift, setShift] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const rack = useRack();
  const made = madeOf(draft, rack);
  const setup: Setup | null = made.ok ? made.value.setup : null;
  const song = reading.state === 'read' ? reading.song : null;
  const setupText = JSON.stringify(setup);
  useEffect(() => {
    if (!song || setupText === 'null') return;
    let wanted = true;
    void door()
      .shifts(index, JSON.parse(setupText) as Setup)
      .then((one) => {
        if (wanted) setShifts(one);
      });
    return () => {
      wanted = false;
    };
  }, [song, index, setupText, door]);

  const take = (files: FileList | null): void => {
    const file = files?.[0];
    if (!file) return;
    setFault(null);
    setIndex(0);
    setShift(null);
    void read(file);
  };
  // A file that was dropped on another page of the piece.
  const takeWaiting = useEffectEvent(() => {
    const file = takeDropped('midi');
    if (file) void read(file);
  });
  useEffect(() => takeWaiting(), []);
  const choose = (i: number): void => {
    setIndex(i);
    setShift(null);
    const low = song?.parts[i]?.low ?? 40;
    const program = song?.parts[i]?.program ?? 25;
    // Programs 33 to 40 are basses: then a bass is the likelier instrument.
    if (program >= 32 && program <= 39)
      setDraft({
        instrument: low < 28 ? 'bass-5' : 'bass-4',
        tuning: low < 28 ? 'bass-5-standard' : 'bass-standard',
        capos: [],
      });
  };

  const bring = async (): Promise<void> => {
    if (!setup || !song) return;
    setBusy(true);
    const answer = await door().toPart(index, setup, { grid, shift: shift ?? shifts?.best ?? 0 }, 'p0');
    setBusy(false);
    if (!answer.ok) {
      setFault(answer.error.words);
      return;
    }
    const { edit, part } = insertPart(piece, answer.value.part);
    const edits = [edit, ...(piece.parts.length === 0 ? [setTempo(answer.value.tempo)] : [])];
    const done = dispatch(together(`brought in “${part.name}” from a MIDI file`, edits));
    if (!done.ok) setFault(done.error.words);
    else router.push(`/pieces/${piece.id}/riffs/${part.riffs[0]?.id}`);
  };

  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files);
  };
  return (
    <Frame>
      <main
        className="min-h-0 flex-1 overflow-auto py-6"
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <div
          className={cn(
            'flex items-center gap-4 max-[899px]:flex-wrap border border-dashed border-line bg-sheet px-6 py-5',
            over && 'border-proposed bg-proposed-wash',
          )}
        >
          <FileUp size={26} aria-hidden className="text-soft" />
          <label className="flex-1">
            <span className="text-lg font-semibold">Drop a Standard MIDI file here, or choose one</span>
            <input
              type="file"
              accept=".mid,.midi,audio/midi"
              className="mt-1 block text-[15px]"
              onChange={(event) => take(event.target.files)}
            />
          </label>
          <p className="max-w-64 text-sm text-soft">
            Format 0 or 1, up to 4 MB. Its pitches become notes to place; nothing is decided for you.
          </p>
        </div>
        {reading.state === 'reading' ? (
          <p className="py-6 text-lg" role="status">
            Reading the file…
          </p>
        ) : null}
        {reading.state === 'fault' ? (
          <p role="alert" className="mt-4 border-l-4 border-trouble bg-trouble-wash px-4 py-3">
            {reading.message}
          </p>
        ) : null}
        {song ? (
          <div className="mt-6 grid grid-cols-[minmax(0,6fr)_minmax(0,5fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
            <PartsOfFile
              title={song.title || (reading.state === 'read' ? reading.file : '')}
              song={song}
              chosen={index}
              onChoose={choose}
            />
            <section aria-label="How to bring it in" className="flex flex-col gap-4">
              <h2 className="text-xl">To be played on</h2>
              <SetupFields draft={draft} onChange={setDraft} />
              <OctaveAndGrid
                count={song.parts[index]?.count ?? 0}
                {...{ shifts, shift, grid }}
                onShift={setShift}
                onGrid={setGrid}
              />
              {fault ? (
                <p role="alert" className="font-semibold text-trouble">
                  {fault}
                </p>
              ) : null}
              <Button
                tone="yours"
                className="self-start"
                disabled={!setup || busy || song.parts[index]?.drums}
                onClick={() => void bring()}
              >
                {busy ? 'Bringing in…' : 'Bring in and place'}
              </Button>
            </section>
          </div>
        ) : null}
      </main>
    </Frame>
  );
}

interface PartsOfFileProps {
  readonly title: string;
  readonly song: MidiSummary;
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
}

/** What the file holds, part by part, one of them to be chosen. */
function PartsOfFile({ title, song, chosen, onChoose }: PartsOfFileProps) {
  return (
    <section aria-label="Parts of the file">
      <h2 className="text-xl">{title}</h2>
      {song.remarks.map((finding) => (
        <p key={finding.rule} className="text-question">
          {finding.words}
        </p>
      ))}
      <table className="mt-2 w-full text-[15px]">
        <thead className="text-left text-sm text-soft">
          <tr>
            <th className="font-semibold">Part</th>
            <th className="font-semibold">Channel</th>
            <th className="text-right font-semibold">Notes</th>
            <th className="pl-4 font-semibold">Range</th>
            <th className="font-semibold">At once</th>
          </tr>
        </thead>
        <tbody>
          {song.parts.map((one, i) => (
            <tr
              key={`${one.track}.${one.channel}`}
              className={cn('border-t border-rule', i === chosen && 'bg-chosen/40')}
            >
              <td className="py-1.5">
                <label className="flex items-center gap-2">
                  <input
                    type="radio"
                    name="part"
                    checked={i === chosen}
                    onChange={() => onChoose(i)}
                    disabled={one.drums}
                  />
                  <span className="font-semibold">{one.name}</span>
                  {one.drums ? <span className="text-soft">drums</span> : null}
                </label>
              </td>
              <td className="font-figures">{one.channel}</td>
              <td className="text-right font-figures">{one.count}</td>
              <td className="pl-4 font-figures">
                {noteName(one.low, { octave: true })} – {noteName(one.high, { octave: true })}
              </td>
              <td className="text-soft">
                {one.chord === 1 && one.polyphony === 1 ? 'single line' : `up to ${one.polyphony}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

interface OctaveAndGridProps {
  readonly count: number;
  readonly shifts: { readonly best: number; readonly inRange: Record<number, number> } | null;
  readonly shift: number | null;
  readonly grid: Grid;
  readonly onShift: (shift: number) => void;
  readonly onGrid: (grid: Grid) => void;
}

function OctaveAndGrid({ count, shifts, shift, grid, onShift, onGrid }: OctaveAndGridProps) {
  return (
    <div className="grid grid-cols-2 gap-4">
      <SelectField
        label="Octave"
        value={String(shift ?? shifts?.best ?? 0)}
        onChange={(event) => onShift(Number(event.target.value))}
        hint={rangeWords(shifts, shift, count)}
      >
        {[24, 12, 0, -12, -24].map((s) => (
          <option key={s} value={s}>
            {s === 0
              ? 'as in the file'
              : `${Math.abs(s) / 12} octave${Math.abs(s) > 12 ? 's' : ''} ${s > 0 ? 'up' : 'down'}`}
          </option>
        ))}
      </SelectField>
      <SelectField label="Draw times to" value={grid} onChange={(event) => onGrid(event.target.value as Grid)}>
        {GRIDS.map((one) => (
          <option key={one} value={one}>
            {GRID_WORDS[one]}
          </option>
        ))}
      </SelectField>
    </div>
  );
}

function rangeWords(
  shifts: { inRange: Record<number, number>; best: number } | null,
  shift: number | null,
  count: number,
): string {
  if (!shifts) return '';
  const inside = shifts.inRange[shift ?? shifts.best] ?? 0;
  return inside === count ? `All ${count} notes lie on the neck.` : `${inside} of ${count} notes lie on the neck.`;
}

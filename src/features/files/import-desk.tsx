'use client';

import { FileUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useEffectEvent, useState, type DragEvent } from 'react';
import { insertTaken, type PartChoice } from '@/core/formats/music';
import { Frame } from '@/features/piece/frame';
import { takeDropped } from '@/features/piece/dropped';
import { usePiece, usePieceStore } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { cn } from '@/ui/cn';
import { useToast } from '@/ui/toast';
import { FileCard } from './file-card';
import { keepOriginal, shelvePiece } from './keep';
import { PartSettings } from './part-settings';
import { useImport, type ImportedFile, type PartPlan } from './use-import';

/** Files in: what each holds, what it asks, which parts are taken and on what they are played. */
export function ImportDesk() {
  const router = useRouter();
  const toast = useToast();
  const store = usePieceStore();
  const root = usePiece((state) => `/pieces/${state.document.id}`);
  const formed = usePiece((state) => state.document.sections.length > 0);
  const { files, add, read, change, remove, stop, door } = useImport();
  const [over, setOver] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [shown, setShown] = useState<{ readonly file: string; readonly part: number } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  // Files that were dropped on another page.
  const takeWaiting = useEffectEvent(() => {
    const waiting = takeDropped('music');
    if (waiting.length > 0) void add(waiting);
  });
  useEffect(() => takeWaiting(), []);

  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void add([...event.dataTransfer.files]);
  };
  const plan = (file: string, part: number, to: PartPlan): void =>
    change(file, (one) => ({ ...one, parts: one.parts.map((each, i) => (i === part ? to : each)) }));
  const ready = files.filter((file) => file.reading.state === 'read');
  const count = ready.reduce(
    (sum, file) =>
      sum +
      (file.reading.state === 'read' && file.reading.summary.piece ? 1 : file.parts.filter((one) => one.take).length),
    0,
  );

  /** A file's chosen parts, what nobody decided as it usually is. */
  const choicesOf = async (file: ImportedFile): Promise<PartChoice[]> =>
    Promise.all(
      file.parts.flatMap((part, index) =>
        part.take
          ? [
              door()
                .onSetup(file.id, index, part.setup)
                .then(({ best, questions }): PartChoice => ({
                  ...{ index, name: part.name.trim() || 'Part', setup: part.setup, shift: part.shift ?? best },
                  trust: part.trust ?? (questions[0]?.usual === 'pitches' ? 'pitches' : 'places'),
                })),
            ]
          : [],
      ),
    );

  const halt = (file: ImportedFile, words: string): void => {
    setBusy(false);
    setFault(`“${file.name}”: ${words}`);
  };
  const bring = async (): Promise<void> => {
    setBusy(true);
    setFault(null);
    let first: string | null = null;
    let shelved: string | null = null;
    for (const file of ready) {
      if (file.reading.state !== 'read') continue;
      const { summary } = file.reading;
      if (summary.piece) {
        const made = await shelvePiece(file.bytes);
        if (!made.ok) return halt(file, made.words);
        shelved = made.path;
        continue;
      }
      const choices = await choicesOf(file);
      if (choices.length === 0) continue;
      const before = store.getState().document;
      const taken = await door().take(file.id, choices, file.name.replace(/\.[^.]+$/, ''), before.lastId);
      if (!taken.ok) return halt(file, taken.error.words);
      const done = store.getState().dispatch(insertTaken(before, taken.value, `“${file.name}”`));
      if (!done.ok) return halt(file, done.error.words);
      const { piece } = taken.value;
      const riff = piece.parts[0]?.riffs[0]?.id;
      first ??= piece.sections.length > 0 && !formed ? `${root}/form` : riff ? `${root}/riffs/${riff}` : root;
      const lost = taken.value.lost.reduce((sum, one) => sum + one.placesLost + one.techniquesLost + one.notesLost, 0);
      if (lost > 0) toast(`“${file.name}”: ${lost} places or techniques don’t fit this set-up and were left open.`);
      if (!(await keepOriginal(before.id, file.name, file.bytes)))
        toast(`“${file.name}” was brought in; the file itself could not be kept with the piece.`);
    }
    setBusy(false);
    const path = first ?? shelved;
    if (path) router.push(path);
  };

  const current = shown ? files.find((file) => file.id === shown.file) : ready[0];
  const index = shown ? shown.part : Math.max(0, current?.parts.findIndex((one) => one.take) ?? 0);
  const summary = current?.reading.state === 'read' && !current.reading.summary.piece ? current.reading.summary : null;
  const part = summary?.parts[index];
  const own = current?.parts[index];
  return (
    <Frame>
      <main
        className="flex min-h-0 flex-1 flex-col"
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <div className="min-h-0 flex-1 overflow-auto py-4">
          <div
            className={cn(
              'flex items-center gap-4 border border-dashed border-line bg-sheet px-5 py-4 max-[899px]:flex-wrap',
              over && 'border-proposed bg-proposed-wash',
            )}
          >
            <FileUp size={26} aria-hidden className="text-soft" />
            <label className="flex-1">
              <span className="text-lg font-semibold">Drop files here, or choose them</span>
              <input
                type="file"
                multiple
                className="mt-1 block text-[15px]"
                onChange={(event) => {
                  void add([...(event.target.files ?? [])]);
                  event.target.value = '';
                }}
              />
            </label>
            <p className="max-w-72 text-sm text-soft">
              MusicXML, MIDI, text tab, or a piece of Intonazione. Nothing is kept before you bring it in.
            </p>
            <Button onClick={() => setPasting((now) => !now)} aria-expanded={pasting}>
              Paste text tab
            </Button>
          </div>
          {pasting ? (
            <PasteTab
              onText={(text) => {
                setPasting(false);
                void add([new File([text], 'pasted.txt', { type: 'text/plain' })]);
              }}
            />
          ) : null}
          <div className="mt-5 grid grid-cols-[minmax(0,7fr)_minmax(0,5fr)] gap-10 max-[899px]:grid-cols-1 max-[899px]:gap-5">
            <div className="flex flex-col gap-6">
              {files.map((file) => (
                <FileCard
                  key={file.id}
                  file={file}
                  shown={current?.id === file.id && part ? index : null}
                  onShow={(to) => setShown({ file: file.id, part: to })}
                  onPlan={(to, next) => plan(file.id, to, next)}
                  onRead={(next) => void read({ ...file, ...next }, true)}
                  onRemove={() => remove(file.id)}
                  onStop={() => stop(file.id)}
                />
              ))}
            </div>
            {current && part && own ? (
              <section aria-label={`How ${part.name} is brought in`} className="flex flex-col gap-4">
                <h2 className="text-xl">To be played on</h2>
                <PartSettings
                  key={`${current.id}.${index}`}
                  {...{ file: current.id, index, part, plan: own, door }}
                  onChange={(next) => plan(current.id, index, next)}
                />
              </section>
            ) : null}
          </div>
        </div>
        {ready.length > 0 ? (
          <div className="flex flex-wrap items-center gap-4 border-t border-rule py-3">
            <Button tone="yours" disabled={busy || count === 0} onClick={() => void bring()}>
              {busy ? 'Bringing in…' : `Bring in ${count} ${count === 1 ? 'part' : 'parts'}`}
            </Button>
            <p className="text-sm text-soft">
              {formed
                ? 'The piece has a form already: parts come in with their riffs, the form stays as it is.'
                : 'The file is kept with the piece as it came.'}
            </p>
            {fault ? (
              <p role="alert" className="font-semibold text-trouble">
                {fault}
              </p>
            ) : null}
          </div>
        ) : null}
      </main>
    </Frame>
  );
}

function PasteTab({ onText }: { readonly onText: (text: string) => void }) {
  const [text, setText] = useState('');
  return (
    <div className="mt-3 flex flex-col gap-2">
      <textarea
        aria-label="Text tab to be read"
        spellCheck={false}
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder={'E|-----------------|\nB|-----------------|\nG|-----------------|'}
        className="h-44 w-full whitespace-pre border border-line bg-sheet p-3 font-figures text-[14px]"
      />
      <Button className="self-start" disabled={text.trim() === ''} onClick={() => onText(text)}>
        Read this text
      </Button>
    </div>
  );
}

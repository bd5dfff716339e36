'use client';

import { Link } from '@/ui/link';
import { useState } from 'react';
import type { Result } from '@/core/base';
import type { MovedPhrase, PhraseMove, PhraseMoveRequest } from '@/core/carry';
import { parseChord, readKey } from '@/core/harmony';
import { keyName, type Key } from '@/core/pitch';
import { optionsFor } from '@/core/place';
import { keyOf, tempoOf } from '@/core/score';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { SelectField, TextField } from '@/ui/field';
import { useWorker } from '@/ui/use-worker';
import type { SetupDoor } from '@/workers/setup.worker';
import type { BenchContext } from './commands';

const make = (): Worker => new Worker(new URL('../../workers/setup.worker.ts', import.meta.url), { type: 'module' });

const KINDS: Readonly<Record<PhraseMove['by'], string>> = {
  frets: 'frets, in shape',
  strings: 'strings, in shape',
  chord: 'to a chord',
  key: 'to a key',
  octaves: 'octaves, in sound',
  semitones: 'semitones, in sound',
  hand: 'the hand elsewhere, same sound',
};

interface Draft {
  readonly by: PhraseMove['by'];
  readonly steps: string;
  readonly from: string;
  readonly to: string;
  readonly opens: 'close' | 'keep';
}

/** The move a draft says, or what is missing. */
function moveOf(draft: Draft): PhraseMove | string {
  const { by, opens } = draft;
  if (by === 'chord') {
    const [from, to] = [parseChord(draft.from), parseChord(draft.to)];
    if (!from.ok) return `From: ${from.error.words}`;
    if (!to.ok) return `To: ${to.error.words}`;
    return { by, from: draft.from, to: draft.to, opens };
  }
  if (by === 'key') {
    const [from, to] = [readKey(draft.from), readKey(draft.to)];
    if (!from.ok) return `From: ${from.error.words}`;
    if (!to.ok) return `To: ${to.error.words}`;
    return { by, from: from.value, to: to.value };
  }
  const n = Number(draft.steps);
  if (!Number.isInteger(n) || Math.abs(n) > 36) return 'A whole number, up to 36 either way.';
  if (by === 'hand') return n >= 1 && n <= 24 ? { by, fret: n } : 'A fret from 1 to 24.';
  return by === 'frets' ? { by, steps: n, opens } : { by, steps: n };
}

/** Moves what is chosen, and shows before what becomes of open strings, places and reach. */
export function MovePhrase({
  desk,
  open,
  onClose,
}: {
  readonly desk: BenchContext;
  readonly open: boolean;
  readonly onClose: () => void;
}) {
  const { piece, part, riff, chosen } = desk;
  const key: Key | null = riff.key ?? keyOf(piece, null);
  const [draft, setDraft] = useState<Draft>({ by: 'frets', steps: '5', from: '', to: '', opens: 'close' });
  const events = chosen.events.length > 0 ? chosen.events : riff.events;
  const move = moveOf(draft);
  const request: PhraseMoveRequest | null =
    open && typeof move !== 'string' && events.length > 0
      ? {
          ...{ setup: part.setup, events, move, meters: riff.meters, tempo: tempoOf(piece, riff) },
          ...{ root: key?.tonic ?? null, options: optionsFor(piece, part) },
        }
      : null;
  const { answer, fresh } = useWorker<SetupDoor, PhraseMoveRequest, Result<MovedPhrase>>({
    make,
    question: request,
    ask: (door, asked) => door.move(asked),
    still: 150,
  });
  const made = fresh && request ? answer : null;
  const set = (change: Partial<Draft>): void => setDraft({ ...draft, ...change });
  const kind = (by: PhraseMove['by']): void => {
    const from = by === 'key' ? (key ? keyName(key) : '') : (key?.tonic ?? '');
    set({ by, ...(by === 'key' || by === 'chord' ? { from, to: '' } : {}) });
  };
  const apply = (): void => {
    if (!made?.ok) return;
    const put = made.value.events as never;
    if (desk.edit({ ok: true, value: { type: 'putEvents', part: part.id, riff: riff.id, put, remove: [] } })) onClose();
  };
  const worded = draft.by === 'chord' || draft.by === 'key';
  return (
    <Dialog
      open={open}
      onOpenChange={(now) => {
        if (!now) onClose();
      }}
      title="Move the phrase"
      description={
        chosen.events.length > 0
          ? `${chosen.events.length} chosen strokes`
          : `all of ${riff.name}, since nothing is chosen`
      }
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          apply();
        }}
      >
        <div className="grid grid-cols-2 gap-4">
          <SelectField label="By" value={draft.by} onChange={(event) => kind(event.target.value as PhraseMove['by'])}>
            {Object.entries(KINDS).map(([by, words]) => (
              <option key={by} value={by}>
                {words}
              </option>
            ))}
          </SelectField>
          {worded ? (
            <div className="grid grid-cols-2 gap-2">
              <TextField label="From" value={draft.from} onChange={(event) => set({ from: event.target.value })} />
              <TextField label="To" value={draft.to} onChange={(event) => set({ to: event.target.value })} />
            </div>
          ) : (
            <TextField
              label={draft.by === 'hand' ? 'Index finger at fret' : 'How far'}
              inputMode="numeric"
              value={draft.steps}
              onChange={(event) => set({ steps: event.target.value })}
              hint={draft.by === 'hand' ? '' : 'below 0: down, or to thinner strings'}
            />
          )}
        </div>
        {draft.by === 'frets' || draft.by === 'chord' ? (
          <fieldset className="flex gap-5 text-[15px]">
            <legend className="text-sm font-semibold text-soft">Open strings</legend>
            <label className="flex min-h-6 items-center gap-1.5">
              <input type="radio" checked={draft.opens === 'close'} onChange={() => set({ opens: 'close' })} /> are
              stopped with the rest
            </label>
            <label className="flex min-h-6 items-center gap-1.5">
              <input type="radio" checked={draft.opens === 'keep'} onChange={() => set({ opens: 'keep' })} /> go on
              under it
            </label>
          </fieldset>
        ) : null}
        <div role="status" className="min-h-20 text-[15px]">
          {typeof move === 'string' ? (
            <p className="text-soft">{move}</p>
          ) : !made ? (
            <p className="text-soft">Trying it with the hand…</p>
          ) : !made.ok ? (
            <p className="text-trouble">{made.error.words}</p>
          ) : (
            <Outcome moved={made.value} />
          )}
        </div>
        <div className="flex flex-wrap items-center gap-4">
          <Button tone="yours" type="submit" disabled={!made?.ok}>
            Move it
          </Button>
          <span className="text-sm text-soft">
            To keep a moved copy linked to this riff, use the riff moved{' '}
            <Link href={`/pieces/${piece.id}/form`} className="underline underline-offset-4">
              in the form
            </Link>
            .
          </span>
        </div>
      </form>
    </Dialog>
  );
}

const MOST = 8;

function Outcome({ moved }: { readonly moved: MovedPhrase }) {
  const lines = [...new Set(moved.opens.map((one) => one.words))];
  return (
    <>
      <p>
        {moved.shape ? 'The shape stays.' : 'Places are found anew.'}
        {moved.by === null ? ' Notes move unlike each other.' : ''}
        {moved.wider > 0 ? ` The widest reach grows by ${moved.wider} mm.` : ''}
        {moved.lostLocks > 0 ? ` ${moved.lostLocks} places of yours are given up.` : ''}
      </p>
      {moved.blocked.length > 0 ? (
        <ul className="text-trouble">
          {moved.blocked.slice(0, MOST).map((one, i) => (
            <li key={i}>{one.words}</li>
          ))}
        </ul>
      ) : null}
      {lines.length > 0 ? (
        <ul aria-label="Open strings">
          {lines.slice(0, MOST).map((words) => (
            <li key={words}>{words}</li>
          ))}
          {lines.length > MOST ? <li className="text-soft">and {lines.length - MOST} more</li> : null}
        </ul>
      ) : null}
    </>
  );
}

'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { TextField } from '@/ui/field';
import { capoRequest, FIRST_DRAFT } from '@/features/setup/draft';
import { SetupFields } from '@/features/setup/setup-fields';
import { emptyPieceAction, newPieceAction, type Made } from './actions';

/** The two ways to begin: with a set-up and an empty riff, or with a file. */
export function NewPiece({
  open,
  onOpenChange,
}: {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
}) {
  const router = useRouter();
  const [title, setTitle] = useState('');
  const [setup, setSetup] = useState(FIRST_DRAFT);
  const [tempo, setTempo] = useState('96');
  const [tempoSaid, setTempoSaid] = useState(false);
  const [meter, setMeter] = useState('4/4');
  const [fault, setFault] = useState<{ at: string; message: string } | null>(null);
  const [busy, begin] = useTransition();
  const done = (made: Made): void => {
    if (made.ok) router.push(made.path);
    else setFault(made);
  };
  const at = (name: string): string | null => (fault?.at === name ? fault.message : null);
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="A new piece"
      description="The set-up can be changed at any time."
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          begin(async () =>
            done(
              await newPieceAction({
                title,
                instrument: setup.instrument,
                tuning: setup.tuning,
                capo: capoRequest(setup.capos),
                tempo,
                meter,
                stated: { tempo: tempoSaid, tuning: setup.tuning !== FIRST_DRAFT.tuning },
              }),
            ),
          );
        }}
      >
        <TextField
          label="Name"
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          error={at('title')}
          maxLength={160}
        />
        <SetupFields
          draft={setup}
          onChange={setSetup}
          errors={{ instrument: at('instrument'), tuning: at('tuning'), capo: at('capo') }}
        />
        <div className="grid grid-cols-2 gap-4">
          <TextField
            label="Tempo, quarters a minute"
            inputMode="decimal"
            value={tempo}
            onChange={(event) => {
              setTempo(event.target.value);
              setTempoSaid(true);
            }}
            error={at('tempo')}
          />
          <TextField
            label="Meter"
            value={meter}
            onChange={(event) => setMeter(event.target.value)}
            error={at('meter')}
          />
        </div>
        <div className="flex flex-wrap gap-3">
          <Button tone="yours" type="submit" disabled={busy}>
            Begin with an empty riff
          </Button>
          <Button
            disabled={busy}
            onClick={() => begin(async () => done(await emptyPieceAction(title.trim() || 'From a file')))}
          >
            Begin with a file
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

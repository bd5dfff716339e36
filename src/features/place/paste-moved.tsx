'use client';

import { useState } from 'react';
import type { Move } from '@/core/command';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { SelectField, TextField } from '@/ui/field';

/** Pastes what was copied moved along the neck, across the strings or in sound. */
export function PasteMoved({
  open,
  onClose,
  onPaste,
}: {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly onPaste: (move: Move) => void;
}) {
  const [by, setBy] = useState<Move['by']>('frets');
  const [steps, setSteps] = useState('5');
  const n = Number(steps);
  const wrong = Number.isInteger(n) && Math.abs(n) <= 36 ? null : 'A whole number, up to 36 either way.';
  return (
    <Dialog
      open={open}
      onOpenChange={(now) => {
        if (!now) onClose();
      }}
      title="Paste moved"
      description="What was copied goes in where the caret or the chosen note stands."
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (wrong === null) onPaste({ by, steps: n });
        }}
      >
        <div className="grid grid-cols-2 gap-4">
          <TextField
            label="By"
            inputMode="numeric"
            value={steps}
            onChange={(event) => setSteps(event.target.value)}
            error={wrong}
            hint="below 0: down, or to thinner strings"
          />
          <SelectField label="Of" value={by} onChange={(event) => setBy(event.target.value as Move['by'])}>
            <option value="frets">frets, in shape</option>
            <option value="strings">strings, in shape</option>
            <option value="semitones">semitones, in sound</option>
          </SelectField>
        </div>
        <Button tone="yours" type="submit" className="self-start">
          Paste
        </Button>
      </form>
    </Dialog>
  );
}

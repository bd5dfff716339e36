import { useState } from 'react';
import { clipTime, type ClipDocument } from '@/core/hearing';
import { Button } from '@/ui/button';
import { TextField } from '@/ui/field';
import { Popover } from '@/ui/popover';
import type { View } from './picture-frame';

/** A recording's name, whose it is, and what of it is used. */
export function AboutClip({
  document,
  seconds,
  loop,
  onChange,
}: {
  readonly document: ClipDocument;
  readonly seconds: number;
  readonly loop: View | null;
  readonly onChange: (document: ClipDocument) => void;
}) {
  const [name, setName] = useState(document.name);
  const { trim } = document;
  const named = name.trim();
  return (
    <Popover
      title="About this recording"
      trigger={
        <Button tone="word" size="small">
          About it
        </Button>
      }
    >
      <div className="flex w-80 flex-col gap-3 text-[15px]">
        <TextField
          label="Name"
          value={name}
          maxLength={120}
          error={named ? null : 'It needs a name.'}
          onChange={(event) => setName(event.target.value)}
          onBlur={() => {
            if (named && named !== document.name) onChange({ ...document, name: named });
          }}
        />
        <TextField
          label="Whose it is, and what you may do with it"
          defaultValue={document.rights}
          maxLength={400}
          hint="For you and your studio; it goes nowhere with what you hand out."
          onBlur={(event) => {
            if (event.target.value !== document.rights) onChange({ ...document, rights: event.target.value });
          }}
        />
        <div className="flex flex-col gap-1.5 border-t border-rule pt-3">
          <p>
            {trim ? (
              <>
                Used from <b className="font-figures">{clipTime(trim.from)}</b> to{' '}
                <b className="font-figures">{clipTime(Math.min(seconds, trim.to))}</b>; the rest stays but is left
                alone.
              </>
            ) : (
              'All of it is used.'
            )}
          </p>
          <div className="flex gap-1.5">
            <Button
              size="small"
              disabled={!loop}
              onClick={() => {
                if (loop) onChange({ ...document, trim: { from: loop.from, to: loop.to } });
              }}
            >
              Use only the loop
            </Button>
            {trim ? (
              <Button size="small" onClick={() => onChange({ ...document, trim: null })}>
                Use all of it
              </Button>
            ) : null}
          </div>
        </div>
      </div>
    </Popover>
  );
}

import { useState } from 'react';
import { readForm } from '@/core/command';
import type { Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import { formWords } from '@/core/callout';
import { printForm } from '@/core/form';
import type { Piece } from '@/core/score';
import { Button } from '@/ui/button';
import { Dialog } from '@/ui/dialog';
import { useSchools } from '@/ui/schools';
import { useToast } from '@/ui/toast';

/** The form as text, to be read, copied, changed or pasted; and as it is spoken. */
export function TextDialog({
  piece,
  edit,
  onClose,
}: {
  readonly piece: Piece;
  readonly edit: (made: Result<Edit>) => Result<unknown>;
  readonly onClose: () => void;
}) {
  const schools = useSchools();
  const toast = useToast();
  const [text, setText] = useState(() => printForm(piece));
  const [fault, setFault] = useState<string | null>(null);
  const take = (): void => {
    const read = readForm(piece, text);
    if (!read.ok && read.error.rule !== 'no-change') {
      const from = read.error.locus.text?.from ?? 0;
      setFault(`Line ${text.slice(0, from).split('\n').length}: ${read.error.words}`);
      return;
    }
    if (!read.ok || edit(read).ok) onClose();
  };
  return (
    <Dialog
      open
      wide
      onOpenChange={(open) => (open ? undefined : onClose())}
      title="The form as text"
      description="Sections that are named are changed, new names are added, what is not named stays."
    >
      <label className="sr-only" htmlFor="form-text">
        The form as text
      </label>
      <textarea
        id="form-text"
        rows={14}
        spellCheck={false}
        value={text}
        onChange={(event) => setText(event.target.value)}
        aria-invalid={fault ? true : undefined}
        aria-describedby="form-text-fault"
        className="w-full rounded-sm border border-line/70 bg-sheet px-3 py-2 font-figures text-[14px] leading-6"
      />
      <p id="form-text-fault" role={fault ? 'alert' : undefined} className="min-h-5 text-sm font-semibold text-trouble">
        {fault}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button tone="yours" onClick={take}>
          Take it over
        </Button>
        <Button
          onClick={() =>
            void navigator.clipboard
              .writeText(text)
              .then(() => toast('Copied.'))
              .catch(() => toast('The browser may not copy here.'))
          }
        >
          Copy
        </Button>
      </div>
      <details className="mt-4">
        <summary className="cursor-pointer font-semibold">As it is spoken</summary>
        <div className="mt-2 text-[15px] leading-6">
          {formWords(piece, schools).map((words, i) => (
            <p key={i}>{words}</p>
          ))}
        </div>
      </details>
    </Dialog>
  );
}

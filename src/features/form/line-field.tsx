import { useId, useState, type InputHTMLAttributes, type ReactNode, type TextareaHTMLAttributes } from 'react';
import type { Result } from '@/core/base';

const box =
  'w-full min-h-9 rounded-sm border border-line/70 bg-sheet px-2 text-[15px] text-ink aria-[invalid=true]:border-trouble';

type BoxProps = Omit<TextareaHTMLAttributes<HTMLTextAreaElement>, 'rows'> & { readonly rows: number };

/** A line, or a box where it is long. */
function Box({ rows, className, ...rest }: BoxProps) {
  if (rows > 1) return <textarea rows={rows} className={`${className ?? ''} resize-y py-1 leading-6`} {...rest} />;
  return <input className={className} {...(rest as InputHTMLAttributes<HTMLInputElement>)} />;
}

/**
 * One typed line that is taken when Enter is pressed or it is left. What can't be taken stays as it was typed, with the
 * reason under it; Escape brings back what holds.
 */
export function LineField({
  label,
  value,
  onTake,
  hint,
  told,
  figures = false,
  hideLabel = false,
  rows = 1,
}: {
  readonly label: string;
  readonly value: string;
  /** Takes the line, or says why it can't. */
  readonly onTake: (line: string) => Result<unknown>;
  readonly hint?: string;
  /** How the line is understood while it is typed. */
  readonly told?: (line: string) => ReactNode;
  readonly figures?: boolean;
  readonly hideLabel?: boolean;
  /** How many lines are seen at once; what is typed is one line all the same. */
  readonly rows?: number;
}) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const take = (): void => {
    if (draft === null || draft.trim() === value.trim()) {
      setDraft(null);
      setFault(null);
      return;
    }
    const taken = onTake(draft.trim());
    if (taken.ok) setDraft(null);
    setFault(taken.ok ? null : taken.error.words);
  };
  const understood = draft !== null && told ? told(draft) : null;
  return (
    <div className="flex flex-col gap-0.5">
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'text-sm font-semibold text-soft'}>
        {label}
      </label>
      <Box
        id={id}
        rows={rows}
        value={draft ?? value}
        spellCheck={false}
        autoComplete="off"
        aria-invalid={fault ? true : undefined}
        aria-describedby={`${id}-about`}
        className={figures ? `${box} font-figures` : box}
        onChange={(event) => setDraft(event.target.value.replaceAll('\n', ' '))}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            event.preventDefault();
            take();
          }
          if (event.key === 'Escape' && draft !== null) {
            event.stopPropagation();
            setDraft(null);
            setFault(null);
          }
        }}
      />
      <div id={`${id}-about`}>
        {fault ? (
          <p role="alert" className="text-sm font-semibold text-trouble">
            {fault}
          </p>
        ) : understood ? (
          <div className="text-sm text-proposed">{understood}</div>
        ) : hint ? (
          <p className="text-sm text-soft">{hint}</p>
        ) : null}
      </div>
    </div>
  );
}

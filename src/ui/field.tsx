import { useId, type InputHTMLAttributes, type ReactNode, type SelectHTMLAttributes } from 'react';
import { cn } from './cn';

const box =
  'w-full min-h-9 rounded-sm border border-line/70 bg-sheet px-2.5 text-[15px] text-ink aria-[invalid=true]:border-trouble';

interface Frame {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly error?: string | null;
}

function Around({ id, label, hint, error, children }: Frame & { readonly id: string; readonly children: ReactNode }) {
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-sm font-semibold text-soft">
        {label}
      </label>
      {children}
      {hint && !error ? (
        <p id={`${id}-hint`} className="text-sm text-soft">
          {hint}
        </p>
      ) : null}
      {error ? (
        <p id={`${id}-error`} role="alert" className="text-sm font-semibold text-trouble">
          {error}
        </p>
      ) : null}
    </div>
  );
}

/** A labelled line of text with its hint, and its error next to it. */
export function TextField({ label, hint, error, className, ...rest }: Frame & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  return (
    <Around id={id} label={label} hint={hint} error={error ?? null}>
      <input
        id={id}
        className={cn(box, className)}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-error` : hint ? `${id}-hint` : undefined}
        {...rest}
      />
    </Around>
  );
}

export function SelectField({
  label,
  hint,
  error,
  className,
  children,
  ...rest
}: Frame & SelectHTMLAttributes<HTMLSelectElement>) {
  const id = useId();
  return (
    <Around id={id} label={label} hint={hint} error={error ?? null}>
      <select
        id={id}
        className={cn(box, className)}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-error` : hint ? `${id}-hint` : undefined}
        {...rest}
      >
        {children}
      </select>
    </Around>
  );
}

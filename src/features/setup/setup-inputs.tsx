import { useState } from 'react';
import type { Edit } from '@/core/edit';
import { usePiece } from '@/features/piece/provider';
import { TextField } from '@/ui/field';
import { useToast } from '@/ui/toast';

export function useEdit(): (edit: Edit) => boolean {
  const dispatch = usePiece((state) => state.dispatch);
  const toast = useToast();
  return (edit) => {
    const done = dispatch(edit);
    if (!done.ok) toast(done.error.words);
    return done.ok;
  };
}

/** A line that is saved when it is left or Enter is pressed, and says what is wrong with it. */
export function NameField({
  label,
  value,
  onSave,
  check,
}: {
  readonly label: string;
  readonly value: string;
  readonly onSave: (text: string) => boolean;
  readonly check?: (text: string) => string | null;
}) {
  const [text, setText] = useState(value);
  const [last, setLast] = useState(value);
  if (last !== value) {
    setLast(value);
    setText(value);
  }
  const fault = check?.(text.trim()) ?? (text.trim() === '' ? 'This can’t be empty.' : null);
  return (
    <TextField
      label={label}
      value={text}
      error={fault}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => {
        if (!fault && text.trim() !== value && !onSave(text.trim())) setText(value);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
    />
  );
}

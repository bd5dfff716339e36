import { Toggle } from 'radix-ui';
import type { ReactNode } from 'react';
import { cn } from './cn';

/** A button that stays pressed. */
export function Switch({
  on,
  onSwitch,
  small = false,
  label,
  children,
}: {
  readonly on: boolean;
  readonly onSwitch: (on: boolean) => void;
  readonly small?: boolean;
  readonly label?: string;
  readonly children: ReactNode;
}) {
  return (
    <Toggle.Root
      pressed={on}
      onPressedChange={onSwitch}
      aria-label={label}
      className={cn(
        'inline-flex items-center gap-1.5 rounded-sm border border-rule font-semibold data-[state=on]:border-proposed data-[state=on]:bg-proposed-wash',
        small ? 'min-h-8 px-2 text-sm' : 'min-h-9 px-2.5 text-[15px]',
      )}
    >
      {children}
    </Toggle.Root>
  );
}

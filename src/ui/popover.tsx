'use client';

import { Popover as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

/** A slip of paper beside a button, closed by Escape or a click elsewhere. */
export function Popover({
  trigger,
  title,
  children,
}: {
  readonly trigger: ReactNode;
  readonly title: string;
  readonly children: ReactNode;
}) {
  return (
    <Radix.Root>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={title}
          side="top"
          align="start"
          sideOffset={8}
          collisionPadding={12}
          className="z-40 max-h-[var(--radix-popover-content-available-height)] overflow-y-auto rounded-sm border border-line bg-paper p-4 shadow-xl"
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

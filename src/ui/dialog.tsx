'use client';

import { Dialog as Radix } from 'radix-ui';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { cn } from './cn';

interface Props {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly title: string;
  readonly description?: string;
  readonly wide?: boolean;
  readonly children: ReactNode;
}

/** A sheet of paper over the work, closed by Escape or the cross. */
export function Dialog({ open, onOpenChange, title, description, wide = false, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Radix.Content
          className={cn(
            'fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[92vw] -translate-x-1/2 overflow-auto rounded-sm border border-line bg-paper p-6 shadow-xl',
            wide ? 'max-w-3xl' : 'max-w-lg',
          )}
          {...(description ? {} : { 'aria-describedby': undefined })}
        >
          <Radix.Title className="font-display text-2xl font-semibold">{title}</Radix.Title>
          {description ? <Radix.Description className="mt-1 text-soft">{description}</Radix.Description> : null}
          <div className="mt-4">{children}</div>
          <Radix.Close className="absolute top-4 right-4 rounded-sm p-1.5 hover:bg-rule/50" aria-label="Close">
            <X size={20} aria-hidden />
          </Radix.Close>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

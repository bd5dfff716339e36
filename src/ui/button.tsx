import { cva, type VariantProps } from 'class-variance-authority';
import type { ButtonHTMLAttributes } from 'react';
import { cn } from './cn';

const styles = cva(
  'inline-flex items-center justify-center gap-1.5 rounded-sm font-semibold transition-colors disabled:opacity-45 disabled:cursor-default',
  {
    variants: {
      tone: {
        plain: 'border border-rule bg-sheet text-ink hover:border-line',
        yours: 'border border-yours bg-yours text-sheet hover:opacity-90',
        quiet: 'text-ink hover:bg-rule/50',
        word: 'text-ink underline decoration-line underline-offset-4 hover:decoration-ink',
      },
      size: { normal: 'min-h-9 px-3 text-[15px]', small: 'min-h-8 px-2 text-sm', icon: 'size-9' },
    },
    compoundVariants: [{ tone: 'word', className: 'px-0.5 min-h-6' }],
    defaultVariants: { tone: 'plain', size: 'normal' },
  },
);

export const buttonClass = styles;

export function Button({
  tone,
  size,
  className,
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & VariantProps<typeof styles>) {
  return <button type={type} className={cn(styles({ tone, size }), className)} {...rest} />;
}

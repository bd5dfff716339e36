import { clsx, type ClassValue } from 'clsx';
import { twMerge } from 'tailwind-merge';

/** Class names joined, later Tailwind classes winning over earlier ones of the same kind. */
export const cn = (...values: ClassValue[]): string => twMerge(clsx(values));

'use client';

import { Moon, Sun } from 'lucide-react';
import { useSyncExternalStore } from 'react';
import { Button } from './button';

const listeners = new Set<() => void>();
const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Paper by day, stage by night; remembered on this device. */
export function ThemeSwitch() {
  const dark = useSyncExternalStore(
    subscribe,
    () => document.documentElement.dataset.theme === 'dark',
    () => false,
  );
  const flip = (): void => {
    if (dark) delete document.documentElement.dataset.theme;
    else document.documentElement.dataset.theme = 'dark';
    localStorage.setItem('theme', dark ? 'light' : 'dark');
    listeners.forEach((l) => l());
  };
  return (
    <Button tone="quiet" size="icon" aria-label={dark ? 'Paper theme' : 'Stage theme'} onClick={flip}>
      {dark ? <Sun size={18} aria-hidden /> : <Moon size={18} aria-hidden />}
    </Button>
  );
}

import type { KeyboardEvent } from 'react';

/** Something the hearing bench can do, with its keys: the one list behind the key handler and the sheet of keys. */
export interface HearCommand {
  readonly keys: readonly string[];
  /** As the sheet names the keys; absent where it stands with the command before. */
  readonly shown?: readonly [keys: string, what: string];
  readonly run: (event: KeyboardEvent) => void;
}

/** Runs the command of a key; keys that are typed into a field are left to it. */
export function runKey(commands: readonly HearCommand[], event: KeyboardEvent): void {
  const target = event.target as Element;
  if (event.ctrlKey || event.metaKey || event.altKey || target.closest('input, select, textarea, [role=slider]'))
    return;
  const command = commands.find((one) => one.keys.includes(event.key));
  if (!command || (event.key === ' ' && target.closest('button'))) return;
  event.preventDefault();
  command.run(event);
}

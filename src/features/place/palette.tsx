'use client';

import { Command as Menu } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { typedCommands, type Command, type BenchContext } from './commands';
import { keyLabel } from './key-sheet';

interface Props {
  readonly desk: BenchContext;
  /** Everything that can be done at the bench. */
  readonly commands: readonly Command[];
  /** What is typed when it opens; null is closed. */
  readonly open: string | null;
  readonly onClose: () => void;
}

/** Every command by its name; numbers and questions may be typed with it. */
export function Palette({ desk, commands, open, onClose }: Props) {
  return (
    <Dialog.Root
      open={open !== null}
      onOpenChange={(now) => {
        if (!now) onClose();
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12%] left-1/2 w-[min(40rem,94vw)] -translate-x-1/2 border border-line bg-sheet shadow-xl"
        >
          <Dialog.Title className="sr-only">Commands</Dialog.Title>
          {open !== null ? <List key={open} desk={desk} commands={commands} start={open} onClose={onClose} /> : null}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function List({
  desk,
  commands: all,
  start,
  onClose,
}: {
  readonly desk: BenchContext;
  readonly commands: readonly Command[];
  readonly start: string;
  readonly onClose: () => void;
}) {
  const [typed, setTyped] = useState(start);
  const asTyped = typedCommands(desk, typed);
  const groups = [...new Set(all.map((command) => command.group))];
  const run = (command: Command): void => {
    onClose();
    command.run();
  };
  const item = (command: Command, value: string, keywords: string[]) => (
    <Menu.Item
      key={value}
      value={value}
      keywords={keywords}
      onSelect={() => run(command)}
      className="flex min-h-9 cursor-pointer items-center justify-between gap-4 px-4 py-1 data-[selected=true]:bg-chosen data-[selected=true]:text-ink"
    >
      <span>{command.name}</span>
      {command.key ? <kbd className="font-figures text-sm text-soft">{keyLabel(command.key)}</kbd> : null}
    </Menu.Item>
  );
  return (
    <Menu label="Commands" loop className="flex max-h-[70vh] flex-col">
      <Menu.Input
        value={typed}
        onValueChange={setTyped}
        placeholder="What should happen? Also: find every bend · tempo 96 · move 3 frets · meter 7/8"
        className="min-h-12 border-b border-rule bg-transparent px-4 text-lg outline-none placeholder:text-[15px] placeholder:text-soft"
      />
      <Menu.List className="min-h-0 flex-1 overflow-y-auto py-2">
        <Menu.Empty className="px-4 py-3 text-soft">Nothing goes by that name.</Menu.Empty>
        {asTyped.length > 0 ? (
          <Menu.Group heading="As typed" className="group-head">
            {asTyped.map((command) => item(command, `typed ${command.name}`, [typed]))}
          </Menu.Group>
        ) : null}
        {groups.map((group) => (
          <Menu.Group key={group} heading={group} className="group-head">
            {all
              .filter((command) => command.group === group)
              .map((command) => item(command, `${group}: ${command.name}`, [command.words ?? '']))}
          </Menu.Group>
        ))}
      </Menu.List>
    </Menu>
  );
}

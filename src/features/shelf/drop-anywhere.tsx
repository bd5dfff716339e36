'use client';

import { useRouter } from 'next/navigation';
import { useTransition, type DragEvent, type ReactNode } from 'react';
import { otherWords, putDropped, sortFiles } from '@/features/piece/dropped';
import { useRackFile } from '@/features/rack/use-rack-file';
import { useToast } from '@/ui/toast';
import { emptyPieceAction } from './actions';

/**
 * The page around the places of work that are no piece. Files let go of here begin one: music goes to its import
 * desk, recordings to its hearing bench; a rack goes to the rack. Everything a drop does is a button elsewhere too.
 */
export function DropAnywhere({
  className,
  children,
}: {
  readonly className?: string | undefined;
  readonly children: ReactNode;
}) {
  const router = useRouter();
  const toast = useToast();
  const bringRack = useRackFile();
  const [, begin] = useTransition();

  const drop = (event: DragEvent): void => {
    const files = [...event.dataTransfer.files];
    if (event.defaultPrevented || files.length === 0) return;
    event.preventDefault();
    begin(async () => {
      const { music, sound, other } = await sortFiles(files);
      for (const { file, kind } of other) {
        const words = kind === 'rack' ? await bringRack(file) : otherWords(file, kind);
        if (words !== null) toast(words);
      }
      const dropped = music.length > 0 ? music : sound;
      const [first] = dropped;
      if (!first) return;
      const made = await emptyPieceAction(first.name.replace(/\.[^.]+$/, '').slice(0, 160) || 'From a file');
      if (!made.ok) return toast(made.message);
      putDropped(music.length > 0 ? 'music' : 'sound', dropped);
      router.push(music.length > 0 ? made.path : made.path.replace(/bring-in$/, 'hear'));
    });
  };
  return (
    <div
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes('Files')) event.preventDefault();
      }}
      onDrop={drop}
      className={className}
    >
      {children}
    </div>
  );
}

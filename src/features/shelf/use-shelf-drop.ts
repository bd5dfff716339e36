import { useRouter } from 'next/navigation';
import type { DragEventHandler, TransitionStartFunction } from 'react';
import { otherWords, putDropped, sortFiles } from '@/features/piece/dropped';
import { useToast } from '@/ui/toast';
import { emptyPieceAction } from './actions';

/** Files dropped on the shelf begin a piece: music goes to its import desk, recordings to its hearing bench. */
export function useShelfDrop(begin: TransitionStartFunction): {
  readonly onDragOver: DragEventHandler;
  readonly onDrop: DragEventHandler;
} {
  const router = useRouter();
  const toast = useToast();
  const onDragOver: DragEventHandler = (event) => {
    if (event.dataTransfer.types.includes('Files')) event.preventDefault();
  };
  const onDrop: DragEventHandler = (event) => {
    const files = [...event.dataTransfer.files];
    if (files.length === 0) return;
    event.preventDefault();
    begin(async () => {
      const { music, sound, other } = await sortFiles(files);
      for (const { file, kind } of other) toast(otherWords(file, kind));
      const dropped = music.length > 0 ? music : sound;
      const [first] = dropped;
      if (!first) return;
      const made = await emptyPieceAction(first.name.replace(/\.[^.]+$/, '').slice(0, 160) || 'From a file');
      if (!made.ok) return toast(made.message);
      putDropped(music.length > 0 ? 'music' : 'sound', dropped);
      router.push(music.length > 0 ? made.path : made.path.replace(/bring-in$/, 'hear'));
    });
  };
  return { onDragOver, onDrop };
}

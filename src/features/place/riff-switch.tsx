'use client';

import { useRouter } from 'next/navigation';
import { Plus } from 'lucide-react';
import { insertRiff } from '@/core/command';
import { makeRiff } from '@/core/score';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { Later } from '@/ui/later';

/** Adds a riff to the part a riff is of, in its first meter, and goes to it. */
export function useNewRiff(riffId: string): () => void {
  const router = useRouter();
  const piece = usePiece((state) => state.document);
  const dispatch = usePiece((state) => state.dispatch);
  return () => {
    const part = piece.parts.find((one) => one.riffs.some((riff) => riff.id === riffId));
    if (!part) return;
    const now = part.riffs.find((riff) => riff.id === riffId);
    const riff = makeRiff('r', `Riff ${part.riffs.length + 1}`, {
      bars: 2,
      meters: [{ ...(now?.meters[0] ?? { bar: 0, beats: 4, unit: 4 }), bar: 0 }],
    });
    const made = insertRiff(piece, part.id, riff);
    if (made.ok && dispatch(made.value.edit).ok) router.push(`/pieces/${piece.id}/riffs/${made.value.riff.id}`);
  };
}

/** Which part and riff is on the bench; a new riff for the part in hand. */
export function RiffSwitch({ riffId }: { readonly riffId: string }) {
  const router = useRouter();
  const piece = usePiece((state) => state.document);
  const add = useNewRiff(riffId);
  const go = (id: string): void => router.push(`/pieces/${piece.id}/riffs/${id}`);
  return (
    <Later>
      <div className="flex items-center gap-1">
        <label className="sr-only" htmlFor="riff-switch">
          Part and riff
        </label>
        <select
          id="riff-switch"
          value={riffId}
          onChange={(event) => go(event.target.value)}
          className="max-w-44 min-h-8 truncate max-[899px]:max-w-40 rounded-sm border border-rule bg-sheet px-2 text-[15px] text-ink"
        >
          {piece.parts.map((part) => (
            <optgroup key={part.id} label={part.name}>
              {part.riffs.map((riff) => (
                <option key={riff.id} value={riff.id}>
                  {part.name} · {riff.name}
                </option>
              ))}
            </optgroup>
          ))}
        </select>
        <Button tone="quiet" size="icon" aria-label="New riff in this part" title="New riff in this part" onClick={add}>
          <Plus size={18} aria-hidden />
        </Button>
      </div>
    </Later>
  );
}

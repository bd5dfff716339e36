'use client';

import { Link } from '@/ui/link';
import { useCallback, useMemo, useState } from 'react';
import type { Result } from '@/core/base';
import { withSomeForm } from '@/core/command';
import type { Edit } from '@/core/edit';
import { resolveAll } from '@/core/form';
import { Frame } from '@/features/piece/frame';
import { usePiece } from '@/features/piece/provider';
import { Button } from '@/ui/button';
import { useToast } from '@/ui/toast';
import { FewerPlayers } from './fewer-players';
import { Levels } from './levels';
import { SecondVoice } from './second-voice';
import { SideBySide } from './side-by-side';

const VIEWS = {
  together: 'Side by side',
  voice: 'Second voice',
  fewer: 'Fewer players',
  levels: 'Levels',
} as const;
type View = keyof typeof VIEWS;

/** The parts of a piece together: what sounds at once, second voices, fewer players, levels. */
export function TogetherPage() {
  const piece = usePiece((state) => state.document);
  const dispatch = usePiece((state) => state.dispatch);
  const toast = useToast();
  const [view, setView] = useState<View>('together');
  const whole = useMemo(() => withSomeForm(piece), [piece]);
  const lines = useMemo(() => resolveAll(whole).filter((line) => line.riff.events.length > 0), [whole]);
  const edit = useCallback(
    (made: Result<Edit>): boolean => {
      const done = made.ok ? dispatch(made.value) : made;
      if (!done.ok) toast(done.error.words);
      return done.ok;
    },
    [dispatch, toast],
  );
  return (
    <Frame>
      <section aria-label="View" className="flex flex-wrap items-center gap-2 border-b border-rule py-2">
        <h2 className="mr-3 text-xl">Parts together</h2>
        {(Object.keys(VIEWS) as View[]).map((one) => (
          <Button
            key={one}
            tone={view === one ? 'plain' : 'quiet'}
            aria-pressed={view === one}
            onClick={() => setView(one)}
          >
            {VIEWS[one]}
          </Button>
        ))}
        <span className="ml-auto flex gap-5">
          {piece.sections.length > 0 ? (
            <Link href={`/pieces/${piece.id}/sheet`} prefetch={false} className="underline underline-offset-4">
              As a score
            </Link>
          ) : null}
          <Link href={`/pieces/${piece.id}/form`} className="underline underline-offset-4">
            Back to the form
          </Link>
        </span>
      </section>
      <main className="min-h-0 flex-1 overflow-y-auto py-3">
        {lines.length === 0 ? (
          <p className="py-10 text-center text-lg text-soft">
            No part plays a note yet. Call the notes of a riff first, then its part stands here beside the others.
          </p>
        ) : view === 'together' ? (
          <SideBySide lines={lines} />
        ) : view === 'voice' ? (
          <SecondVoice {...{ piece, lines, edit }} />
        ) : view === 'fewer' ? (
          <FewerPlayers {...{ piece: whole, lines, edit }} />
        ) : (
          <Levels {...{ piece, edit }} />
        )}
      </main>
    </Frame>
  );
}

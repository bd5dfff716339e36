'use client';

import { useCallback, useState, type ReactNode } from 'react';
import { usePageAddress } from '@/features/studio/address';
import { Opening } from '@/features/studio/opening';
import { useStudio } from '@/features/studio/studio';
import { askJson, useAsked } from '@/features/studio/use-asked';
import { useTitle } from '@/features/studio/use-title';
import type { OpenPiece } from '@/server/pieces';
import type { ViewAnswer } from '@/server/views';
import { useOnPage } from '@/ui/on-page';
import { openSession, PieceProvider, usePiece, type Session } from './provider';

const GONE = 'This piece is not on the shelf any more, or the address is wrong.';

/**
 * A piece and its pages. Pages are built without it; the piece comes packed and by itself, and stays open while one
 * goes from page to page of it.
 */
export function OpenedPiece({ children }: { readonly children: ReactNode }) {
  const onPage = useOnPage();
  const { piece } = usePageAddress();
  if (!onPage) return <Opening fault={null} onAgain={() => undefined} />;
  return (
    <AskedPiece key={piece} id={piece}>
      {children}
    </AskedPiece>
  );
}

function AskedPiece({ id, children }: { readonly id: string; readonly children: ReactNode }) {
  const { studio, setStudio, round } = useStudio();
  const [session, setSession] = useState<Session | null>(null);
  const [at, setAt] = useState(-1);
  const askPiece = useCallback(
    (signal: AbortSignal) => askJson<OpenPiece>(`/api/pieces/${id}/open`, GONE, signal),
    [id],
  );
  const takePiece = useCallback((open: OpenPiece) => setSession(openSession(open)), []);
  const askStudio = useCallback(
    (signal: AbortSignal) => askJson<ViewAnswer<'studio'>>('/api/views/studio?studio=', GONE, signal),
    [],
  );
  const takeStudio = useCallback(
    (answer: ViewAnswer<'studio'>) => {
      if (answer.studio) setStudio(answer.studio);
      setAt(round);
    },
    [setStudio, round],
  );
  const piece = useAsked(session === null ? askPiece : null, takePiece);
  const around = useAsked(at !== round ? askStudio : null, takeStudio);
  if (session && studio)
    return (
      <PieceProvider session={session}>
        <Title />
        {children}
      </PieceProvider>
    );
  return (
    <Opening
      fault={piece.fault ?? around.fault}
      onAgain={() => {
        if (session === null) piece.again();
        if (studio === null) around.again();
      }}
    />
  );
}

function Title() {
  useTitle(usePiece((state) => state.document.title));
  return null;
}

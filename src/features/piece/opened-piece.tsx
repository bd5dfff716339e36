'use client';

import { useEffect, useState, type ReactNode } from 'react';
import { preload } from 'react-dom';
import type { OpenPiece } from '@/server/pieces';
import { Button } from '@/ui/button';
import { Link } from '@/ui/link';
import { useOnPage } from '@/ui/on-page';
import { openSession, PieceProvider, sessionAt, type Session } from './provider';

interface Props {
  readonly id: string;
  readonly title: string;
  readonly revision: number;
  readonly children: ReactNode;
}

/** How long after no answer the piece is asked for again. */
const AGAIN_MS = 4000;

/** Asks the server for a piece: the open piece, or why there is none. */
async function ask(address: string, signal: AbortSignal): Promise<Session | string> {
  try {
    const answer = await fetch(address, { signal });
    if (answer.ok && answer.body) {
      const unpacked = new Response(answer.body.pipeThrough(new DecompressionStream('gzip')));
      return openSession((await unpacked.json()) as OpenPiece);
    }
    if (answer.status === 404) return 'This piece is not on the shelf any more.';
    return `The server could not open it (${answer.status}).`;
  } catch {
    // Broken off on the way, or never come.
    return 'No answer from the server: it is asked again.';
  }
}

/**
 * A piece and its pages. The server sends the page without the piece, and the piece packed and by itself, asked for
 * while the page's own program is still on its way: a piece that is open here already is not asked for again.
 */
export function OpenedPiece({ id, title, revision, children }: Props) {
  const onPage = useOnPage();
  const address = `/api/pieces/${id}/open`;
  if (!onPage) preload(address, { as: 'fetch', crossOrigin: 'anonymous' });
  const [session, setSession] = useState<Session | null>(() =>
    typeof window === 'undefined' ? null : sessionAt(id, revision),
  );
  const [fault, setFault] = useState<string | null>(null);

  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (session) return;
    const leaving = new AbortController();
    const again = (): void => setTries((before) => before + 1);
    let timer: ReturnType<typeof setTimeout>;
    void ask(address, leaving.signal).then((answer) => {
      if (leaving.signal.aborted) return;
      if (typeof answer === 'string') {
        setFault(answer);
        timer = setTimeout(again, AGAIN_MS);
      } else setSession(answer);
    });
    return () => {
      clearTimeout(timer);
      leaving.abort();
    };
  }, [session, address, tries]);

  if (onPage && session) return <PieceProvider session={session}>{children}</PieceProvider>;
  return (
    <div className="flex h-dvh flex-col px-6 max-[899px]:px-2.5">
      <header className="flex min-h-14 items-center gap-4 border-b border-rule">
        <Link href="/" className="font-display text-xl font-semibold max-[899px]:text-[15px]">
          Intonazione
        </Link>
        <h1 className="text-xl leading-tight max-[899px]:text-lg">{title}</h1>
      </header>
      <main className="py-20 text-center text-lg text-soft" role="status">
        {fault ? (
          <>
            <p>{fault}</p>
            <Button className="mt-4" onClick={() => setTries((before) => before + 1)}>
              Try again
            </Button>
          </>
        ) : (
          <p>Opening…</p>
        )}
      </main>
    </div>
  );
}

'use client';

import { Button } from '@/ui/button';

/** When a page can't be shown: what happened, what is safe, and the way on. A digest means that it was the server. */
export default function ErrorPage({
  error,
  reset,
}: {
  readonly error: Error & { readonly digest?: string };
  readonly reset: () => void;
}) {
  const server = error.digest !== undefined;
  return (
    <main className="mx-auto flex min-h-screen max-w-xl flex-col items-start justify-center gap-4 px-8">
      <h1 className="text-3xl">{server ? 'The server did not answer' : 'This page stumbled'}</h1>
      <p className="text-lg text-soft">
        {server ? 'The database may be stopped or starting.' : 'Drawing it failed. That is our fault, not yours.'}{' '}
        Nothing that was saved is lost, and what was not saved yet is kept on this device.
      </p>
      <Button tone="yours" onClick={reset}>
        Try again
      </Button>
    </main>
  );
}

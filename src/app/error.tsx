'use client';

import { Button } from '@/ui/button';

/** When the server can't answer: what happened, what is safe, and the way on. */
export default function ErrorPage({ reset }: { readonly error: Error; readonly reset: () => void }) {
  return (
    <main className="mx-auto flex min-h-screen max-w-xl flex-col items-start justify-center gap-4 px-8">
      <h1 className="text-3xl">The server did not answer</h1>
      <p className="text-lg text-soft">The database may be stopped or starting. Nothing that was saved is lost, and what was not saved yet is kept on this device.</p>
      <Button tone="yours" onClick={reset}>Try again</Button>
    </main>
  );
}

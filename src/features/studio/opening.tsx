import { Button } from '@/ui/button';
import { Link } from '@/ui/link';

/** A page whose content is on its way: that it is, or why it does not come. */
export function Opening({ fault, onAgain }: { readonly fault: string | null; readonly onAgain: () => void }) {
  return (
    <div className="flex h-dvh flex-col px-6 max-[899px]:px-2.5">
      <header className="flex min-h-14 items-center gap-4 border-b border-rule">
        <Link href="/" className="font-display text-xl font-semibold max-[899px]:text-[15px]">
          Intonazione
        </Link>
      </header>
      <main className="py-20 text-center text-lg text-soft" role="status">
        {fault ? (
          <>
            <p>{fault}</p>
            <p className="mt-4 flex items-baseline justify-center gap-5">
              <Button onClick={onAgain}>Try again</Button>
              <Link href="/" className="text-base underline decoration-line underline-offset-4">
                Back to the shelf
              </Link>
            </p>
          </>
        ) : (
          <p className="late">Opening…</p>
        )}
      </main>
    </div>
  );
}

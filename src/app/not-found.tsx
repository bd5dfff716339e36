import { Link } from '@/ui/link';

export default function NotFound() {
  return (
    <main className="mx-auto flex min-h-screen max-w-xl flex-col items-start justify-center gap-4 px-8">
      <h1 className="text-3xl">Not on the shelf</h1>
      <p className="text-lg text-soft">
        This piece was removed, or the address is wrong. What was removed can be put back from the shelf for as long as
        its notice shows.
      </p>
      <Link href="/" className="font-semibold underline underline-offset-4">
        Back to the shelf
      </Link>
    </main>
  );
}

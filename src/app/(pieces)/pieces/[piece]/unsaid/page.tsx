import { redirect } from 'next/navigation';

/** What was the list of the unsaid is part of the check: links that were kept lead there. */
export default async function UnsaidPage({ params }: { readonly params: Promise<{ piece: string }> }) {
  redirect(`/pieces/${(await params).piece}/check`);
}

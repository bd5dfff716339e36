import type { Metadata } from 'next';
import { SearchPage } from '@/features/desk/search-page';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Search' };

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function Search({ searchParams }: Props) {
  const { q, calls } = await searchParams;
  return (
    <SearchPage
      start={
        typeof calls === 'string'
          ? { by: 'music', sought: calls.slice(0, 2000) }
          : { by: 'words', sought: typeof q === 'string' ? q.slice(0, 200) : '' }
      }
    />
  );
}

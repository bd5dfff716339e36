'use client';

import { useSearchParams } from 'next/navigation';
import { usePageAddress } from '@/features/studio/address';
import { FromServer } from '@/features/studio/from-server';
import { AboutPage } from './about-page';
import { DeskPage } from './desk-page';
import { SearchPage } from './search-page';

/** The desk as its address asks: with a request opened. */
export const RoutedDesk = () => (
  <FromServer view="desk">{({ desk, today }) => <Desk initial={desk} today={today} />}</FromServer>
);

function Desk(given: Omit<Parameters<typeof DeskPage>[0], 'open'>) {
  return <DeskPage {...given} open={useSearchParams().get('request')} />;
}

/** The search as its address asks: for words, or for calls as they are typed. */
export function RoutedSearch() {
  const search = useSearchParams();
  const calls = search.get('calls');
  return (
    <SearchPage
      start={
        calls === null
          ? { by: 'words', sought: search.get('q')?.slice(0, 200) ?? '' }
          : { by: 'music', sought: calls.slice(0, 2000) }
      }
    />
  );
}

/** All that stands behind the piece of the address. */
export function RoutedAbout() {
  const { piece } = usePageAddress();
  return (
    <FromServer view="about" of={{ piece }}>
      {(about) => <AboutPage {...about} />}
    </FromServer>
  );
}

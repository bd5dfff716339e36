'use client';

import { useSearchParams } from 'next/navigation';
import { usePageAddress } from '@/features/studio/address';
import { CarryPage } from './carry-page';
import { FindSetupPage } from './find-page';
import { PlacesPage } from './places-page';
import { RetunePage } from './retune-page';
import { SetupPage } from './setup-page';

/** A word of the search part of an address; null where there is none, or more than any of ours. */
function useWord(): (name: string) => string | null {
  const search = useSearchParams();
  return (name) => {
    const word = search.get(name);
    return word !== null && word.length <= 120 ? word : null;
  };
}

/** The set-up of the part of the address, with another tuning or instrument tried where it says so. */
export function RoutedSetup() {
  const { part } = usePageAddress();
  const word = useWord();
  return <SetupPage key={part} partId={part} asked={{ tuning: word('tuning'), instrument: word('instrument') }} />;
}

/** What the part of the address, or some bars of a riff of it, was played in. */
export function RoutedFind() {
  const { part } = usePageAddress();
  const word = useWord();
  const [from, to] = [word('from'), word('to')].map(Number) as [number, number];
  const bars = [from, to].every((bar) => Number.isInteger(bar) && bar >= 0 && bar < 10_000);
  return (
    <FindSetupPage
      key={part}
      partId={part}
      start={{ riff: word('riff'), bars: bars && word('from') !== null ? { from, to } : null }}
    />
  );
}

export function RoutedCarry() {
  const { part } = usePageAddress();
  return <CarryPage key={part} partId={part} />;
}

export function RoutedPlaces() {
  const { part } = usePageAddress();
  return <PlacesPage key={part} partId={part} />;
}

export function RoutedRetune() {
  const { part } = usePageAddress();
  return <RetunePage key={part} partId={part} />;
}

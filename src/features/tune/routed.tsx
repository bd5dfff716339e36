'use client';

import { useSearchParams } from 'next/navigation';
import { FromServer } from '@/features/studio/from-server';
import { WithStudio } from '@/features/studio/with-studio';
import { useOnPage } from '@/ui/on-page';
import { TunePage } from './tune-page';

/** The tuner as its address asks: for a set-up of a piece's part, or an instrument and a tuning. */
export const RoutedTune = () => (useOnPage() ? <Asked /> : <WithStudio>{null}</WithStudio>);

function Asked() {
  const search = useSearchParams();
  const word = (name: string): string | null => search.get(name)?.slice(0, 120) ?? null;
  const [piece, part, instrument, tuning] = ['piece', 'part', 'instrument', 'tuning'].map(word);
  const start = instrument ? { instrument, tuning: tuning ?? '' } : null;
  if (!piece)
    return (
      <WithStudio>
        <TunePage startSetup={null} start={start} />
      </WithStudio>
    );
  return (
    <FromServer view="tune" of={{ piece, ...(part ? { part } : {}) }}>
      {({ setup }) => <TunePage startSetup={setup} start={start} />}
    </FromServer>
  );
}

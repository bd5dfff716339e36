'use client';

import { useSearchParams } from 'next/navigation';
import { usePageAddress } from '@/features/studio/address';
import { FromServer } from '@/features/studio/from-server';
import { WithStudio } from '@/features/studio/with-studio';
import { useTitle } from '@/features/studio/use-title';
import { DayPage } from './day-page';
import { InstrumentPage } from './instrument-page';
import { TuningsPage } from './tunings-page';

export const RoutedDay = () => <FromServer view="setups">{({ parts }) => <DayPage parts={parts} />}</FromServer>;

/** Tunings as the address asks: of an instrument, one of them chosen. */
export const RoutedTunings = () => (
  <WithStudio>
    <Tunings />
  </WithStudio>
);

function Tunings() {
  const search = useSearchParams();
  return <TuningsPage instrument={search.get('instrument')} tuning={search.get('tuning')?.slice(0, 120) ?? null} />;
}

/** The instrument of the address. */
export function RoutedInstrument() {
  const { instrument } = usePageAddress();
  return (
    <FromServer key={instrument} view="instrument" of={{ instrument }}>
      {(shown) => <Instrument {...shown} />}
    </FromServer>
  );
}

function Instrument(shown: Parameters<typeof InstrumentPage>[0]) {
  useTitle(shown.entry.instrument.name);
  return <InstrumentPage {...shown} />;
}

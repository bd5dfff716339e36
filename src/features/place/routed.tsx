'use client';

import { useSearchParams } from 'next/navigation';
import { usePageAddress } from '@/features/studio/address';
import { Bench } from './bench';

/** The bench as its address asks: a riff, at a bar or a note, as it stands in the form, or one of its variants. */
export function RoutedBench() {
  const { riff } = usePageAddress();
  const search = useSearchParams();
  const bar = Number(search.get('bar'));
  return (
    <Bench
      riffId={riff}
      startBar={Number.isInteger(bar) && bar > 0 ? bar : null}
      startNote={search.get('note')}
      use={search.get('use')}
      variant={search.get('variant')}
      startTab={search.get('show') === 'riff' ? 'riff' : 'note'}
    />
  );
}

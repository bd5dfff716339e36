'use client';

import { usePageAddress } from '@/features/studio/address';
import { SheetPage } from './sheet-page';

/** The sheet of the riff of the address. */
export function RoutedSheet() {
  const { riff } = usePageAddress();
  return <SheetPage key={riff} riffId={riff} />;
}

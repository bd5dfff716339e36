'use client';

import { useSearchParams } from 'next/navigation';
import { z } from 'zod';
import { usePageAddress } from '@/features/studio/address';
import { FromServer } from '@/features/studio/from-server';
import { HearPage } from './hear-page';

const asked = z.object({
  clip: z.string().max(64).optional().catch(undefined),
  at: z.coerce.number().min(0).max(36_000).optional().catch(undefined),
});

/** Recordings of the piece of the address, one of them opened at a time in seconds where it says so. */
export function RoutedHear() {
  const { piece } = usePageAddress();
  const { clip, at } = asked.parse(Object.fromEntries(useSearchParams()));
  return (
    <FromServer view="clips" of={{ piece }}>
      {({ clips }) => <HearPage first={clips} open={clip ?? null} at={at ?? null} />}
    </FromServer>
  );
}

'use client';

import { FromServer } from '@/features/studio/from-server';
import { Shelf } from './shelf';

/** The shelf as it is opened. */
export const RoutedShelf = () => (
  <FromServer view="shelf">{({ page, ...beside }) => <Shelf initial={page} {...beside} />}</FromServer>
);

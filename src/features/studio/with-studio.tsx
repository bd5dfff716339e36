'use client';

import type { ReactNode } from 'react';
import { FromServer } from './from-server';

/** A page that shows nothing but what is the studio's: it waits until that is there. */
export const WithStudio = ({ children }: { readonly children: ReactNode }) => (
  <FromServer view="studio">{() => children}</FromServer>
);

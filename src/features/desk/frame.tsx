import type { ReactNode } from 'react';
import { PlaceFrame } from '@/features/shelf/place-frame';

const PLACES = [
  ['/', 'Shelf'],
  ['/desk', 'Desk'],
  ['/search', 'Search'],
] as const;

interface Props {
  readonly at: (typeof PLACES)[number][0] | null;
  readonly title: string;
  readonly lead?: string;
  readonly aside?: ReactNode;
  readonly children: ReactNode;
}

/** The desk's places of work share a head: where one is, and the way to the others. */
export const DeskFrame = (props: Props) => (
  <PlaceFrame label="Desk" places={PLACES} links={[['/rack', 'The rack']]} {...props} />
);

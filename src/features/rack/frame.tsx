import type { ReactNode } from 'react';
import { PlaceFrame } from '@/features/shelf/place-frame';

const PLACES = [
  ['/rack', 'Instruments'],
  ['/rack/tunings', 'Tunings'],
  ['/rack/strings', 'Strings'],
  ['/rack/capo', 'Capo'],
  ['/rack/day', 'The day'],
  ['/rack/tune', 'Tune up'],
] as const;
const LINKS = [
  ['/', 'Shelf'],
  ['/settings', 'Settings'],
] as const;

interface Props {
  readonly at: (typeof PLACES)[number][0] | '/settings';
  readonly title: string;
  readonly lead?: string;
  readonly aside?: ReactNode;
  readonly children: ReactNode;
}

/** The rack's places of work share a head: where one is, and the way to the others. */
export const RackFrame = (props: Props) => <PlaceFrame label="Rack" places={PLACES} links={LINKS} {...props} />;

import type { ReactNode } from 'react';
import { RackFrame } from '@/features/rack/frame';
import { PlaceLinks } from '@/features/shelf/place-frame';

const PAGES = [
  ['/settings', 'Schools'],
  ['/settings/hands', 'Hands'],
  ['/settings/weights', 'Weights'],
  ['/settings/archive', 'Archive'],
] as const;

interface Props {
  readonly at: (typeof PAGES)[number][0];
  readonly title: string;
  readonly lead: string;
  readonly children: ReactNode;
}

/** The settings' pages share a head with the way to each other. */
export const SettingsFrame = ({ at, ...props }: Props) => (
  <RackFrame at="/settings" aside={<PlaceLinks label="Settings" places={PAGES} at={at} />} {...props} />
);

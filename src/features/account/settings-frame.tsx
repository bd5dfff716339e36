import { Link } from '@/ui/link';
import type { ReactNode } from 'react';
import { RackFrame } from '@/features/rack/frame';

const PAGES = [
  ['/settings', 'Schools'],
  ['/settings/hands', 'Hands'],
  ['/settings/weights', 'Weights'],
  ['/settings/archive', 'Archive'],
] as const;

/** The settings' pages share a head with the way to each other. */
export function SettingsFrame({
  at,
  title,
  lead,
  children,
}: {
  readonly at: (typeof PAGES)[number][0];
  readonly title: string;
  readonly lead: string;
  readonly children: ReactNode;
}) {
  return (
    <RackFrame
      at="/settings"
      title={title}
      lead={lead}
      aside={
        <nav aria-label="Settings" className="flex gap-5 text-[15px]">
          {PAGES.map(([href, name]) => (
            <Link
              key={href}
              href={href}
              aria-current={href === at ? 'page' : undefined}
              className="py-1 text-soft underline-offset-8 hover:text-ink aria-[current=page]:font-bold aria-[current=page]:text-ink aria-[current=page]:underline aria-[current=page]:decoration-yours aria-[current=page]:decoration-2"
            >
              {name}
            </Link>
          ))}
        </nav>
      }
    >
      {children}
    </RackFrame>
  );
}

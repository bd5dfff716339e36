'use client';

import NextLink, { useLinkStatus } from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link within the program. It asks the server when it is followed and not before: the framework's own would ask for
 * every link in sight, twice, and a page with twenty links would cost the server twenty pages. While the page it leads
 * to is on its way, a line along the top of the window says so.
 */
export const Link = ({ children, ...props }: ComponentProps<typeof NextLink>) => (
  <NextLink prefetch={false} {...props}>
    {children}
    <OnItsWay />
  </NextLink>
);

function OnItsWay() {
  const { pending } = useLinkStatus();
  return pending ? (
    <span aria-hidden data-on-its-way className="on-its-way fixed inset-x-0 top-0 z-50 h-1 bg-proposed" />
  ) : null;
}

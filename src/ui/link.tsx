import NextLink from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link within the program. It asks the server when it is followed and not before: the framework's own would ask for
 * every link in sight, twice, and a page with twenty links would cost the server twenty pages.
 */
export const Link = (props: ComponentProps<typeof NextLink>) => <NextLink prefetch={false} {...props} />;

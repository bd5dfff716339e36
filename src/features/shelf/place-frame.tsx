import type { ReactNode } from 'react';
import { Link } from '@/ui/link';
import { ThemeSwitch } from '@/ui/theme-switch';
import { DropAnywhere } from './drop-anywhere';

/** Places of work that stand together: addresses with their names. */
export type Places = readonly (readonly [href: string, name: string])[];

/** The way from one to the others; where one is stands out. */
export function PlaceLinks({
  label,
  places,
  at,
}: {
  readonly label: string;
  readonly places: Places;
  readonly at: string | null;
}) {
  return (
    <nav
      aria-label={label}
      className="flex gap-5 text-[15px] max-[899px]:order-last max-[899px]:flex-wrap max-[899px]:gap-x-4 max-[899px]:gap-y-0"
    >
      {places.map(([href, name]) => (
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
  );
}

/** The head and the width of every page that is no piece: its name, what it is for, and the way to its neighbours. */
export function PlaceFrame({
  label,
  places,
  at,
  title,
  lead,
  links,
  aside,
  children,
}: {
  readonly label: string;
  readonly places: Places;
  readonly at: string | null;
  readonly title: string;
  readonly lead?: string | undefined;
  /** Ways elsewhere, at the right. */
  readonly links: Places;
  readonly aside?: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <DropAnywhere className="mx-auto flex min-h-screen max-w-[1220px] flex-col px-8 pt-5 pb-10 max-[899px]:px-4 max-[899px]:pt-3">
      <header className="flex items-center gap-7 border-b border-rule pb-3 max-[899px]:flex-wrap max-[899px]:gap-x-4 max-[899px]:gap-y-1">
        <Link href="/" className="font-display text-2xl font-semibold underline-offset-4 hover:underline">
          Intonazione
        </Link>
        <PlaceLinks {...{ label, places, at }} />
        <div className="ml-auto flex items-center gap-4">
          {links.map(([href, name]) => (
            <Link
              key={href}
              href={href}
              aria-current={href === at ? 'page' : undefined}
              className="underline decoration-line underline-offset-4"
            >
              {name}
            </Link>
          ))}
          <ThemeSwitch />
        </div>
      </header>
      <main className="flex-1">
        <div className="flex items-end gap-6 pt-5 pb-4 max-[899px]:flex-wrap max-[899px]:gap-3">
          <div>
            <h1 className="text-3xl">{title}</h1>
            {lead ? <p className="mt-1 max-w-4xl text-soft">{lead}</p> : null}
          </div>
          {aside ? <div className="ml-auto flex flex-wrap items-center gap-3 max-[899px]:ml-0">{aside}</div> : null}
        </div>
        {children}
      </main>
    </DropAnywhere>
  );
}

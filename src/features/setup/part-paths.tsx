import { Link } from '@/ui/link';
import { usePathname } from 'next/navigation';
import { cn } from '@/ui/cn';

/** What can be done about the set-up of a part, each a page of its own. */
export function PartPaths({ piece, part }: { readonly piece: string; readonly part: string }) {
  const path = usePathname();
  const root = `/pieces/${piece}/parts/${part}`;
  const pages = [
    [root, 'This set-up'],
    [`${root}/find`, 'Find the set-up'],
    [`${root}/carry`, 'Carry over'],
    [`${root}/places`, 'One pitch everywhere'],
    [`${root}/retune`, 'Retune the piece'],
  ] as const;
  return (
    <nav aria-label="Set-up" className="flex flex-wrap gap-x-5 gap-y-1 border-b border-rule py-2 text-[15px]">
      {pages.map(([href, words]) => (
        <Link
          key={href}
          href={href}
          prefetch={false}
          aria-current={path === href ? 'page' : undefined}
          className={cn(
            'min-h-6 border-b-2',
            path === href ? 'border-yours font-semibold' : 'border-transparent text-soft hover:text-ink',
          )}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}

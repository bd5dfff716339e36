import { usePathname } from 'next/navigation';

/** What of the address of a page says what it is about. */
export interface PageAddress {
  readonly piece: string;
  readonly riff: string;
  readonly part: string;
  readonly instrument: string;
}

/** The ids in a path, each empty where the path has none. */
export function readAddress(path: string): PageAddress {
  const steps = path.split('/');
  const after = (name: string): string => {
    const at = steps.indexOf(name);
    return (at > 0 && steps[at + 1]) || '';
  };
  return { piece: after('pieces'), riff: after('riffs'), part: after('parts'), instrument: after('instruments') };
}

/**
 * The ids in the address of this page. Built pages don't know them: a page asks for them when it is in the browser,
 * never while it is built.
 */
export const usePageAddress = (): PageAddress => readAddress(usePathname());

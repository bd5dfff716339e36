import { usePathname } from 'next/navigation';
import { useLayoutEffect } from 'react';

const PROGRAM = 'Intonazione';

/**
 * Names the window after what is open in it. Pages are built without knowing it, and the framework writes the name of
 * the built page whenever one goes to another: it is kept, and given back on leaving.
 */
export function useTitle(title: string): void {
  const path = usePathname();
  useLayoutEffect(() => {
    const wanted = `${title} · ${PROGRAM}`;
    const put = (): void => {
      if (document.title !== wanted) document.title = wanted;
    };
    put();
    const watch = new MutationObserver(put);
    watch.observe(document.head, { childList: true, subtree: true, characterData: true });
    return () => {
      watch.disconnect();
      // A page with a name of its own may have written it already.
      if (document.title === wanted) document.title = PROGRAM;
    };
  }, [title, path]);
}

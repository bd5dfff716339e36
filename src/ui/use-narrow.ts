import { useSyncExternalStore } from 'react';

/** Below this a page has room for one thing beside another at most: phones, and tablets held upright. */
const NARROW = '(max-width: 899px)';

const watch = (changed: () => void): (() => void) => {
  const query = matchMedia(NARROW);
  query.addEventListener('change', changed);
  return () => query.removeEventListener('change', changed);
};

/** Whether the page is narrow; never on the server. Where classes are enough, `max-[899px]` of Tailwind does it. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    watch,
    () => matchMedia(NARROW).matches,
    () => false,
  );

import { useSyncExternalStore } from 'react';

const never = (): (() => void) => () => undefined;

/**
 * False on the server and until the page has taken over, then true. For what is drawn by measures only a browser has:
 * the server need not work through a long piece for a drawing nobody sees.
 */
export const useOnPage = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );

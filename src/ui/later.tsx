import { useDeferredValue, type ReactNode } from 'react';

/**
 * What may follow a moment after the rest: the children as they last were stand until what is
 * urgent has been painted. While the old element stands, React does not look into it at all.
 */
export function Later({ children }: { readonly children: ReactNode }) {
  return useDeferredValue(children);
}

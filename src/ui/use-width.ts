import { useCallback, useState } from 'react';

/**
 * The width an element has been given, for drawings that fill it: put the first on the element as its ref; 0 until it
 * is known.
 */
export function useWidth(): readonly [(el: HTMLDivElement | null) => (() => void) | undefined, number] {
  const [width, setWidth] = useState(0);
  const measure = useCallback((el: HTMLDivElement | null) => {
    if (!el) return undefined;
    const observer = new ResizeObserver(() => setWidth(el.clientWidth));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  return [measure, width];
}

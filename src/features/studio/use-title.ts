import { usePathname } from 'next/navigation';
import { useEffect } from 'react';

/** Names the window after what is open in it. Pages are built without knowing it. */
export function useTitle(title: string): void {
  const path = usePathname();
  useEffect(() => {
    document.title = `${title} · Intonazione`;
  }, [title, path]);
}

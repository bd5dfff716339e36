import { useEffect, useState } from 'react';
import { overviewAction } from './actions';

/** The overview of a recording's waveform, as it was kept with it; null until it is here. */
export function useOverview(clipId: string): Uint8Array | null {
  const [overview, setOverview] = useState<Uint8Array | null>(null);
  useEffect(() => {
    let wanted = true;
    void overviewAction(clipId).then((text) => {
      if (wanted && text) setOverview(Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0)));
    });
    return () => {
      wanted = false;
    };
  }, [clipId]);

  return overview;
}

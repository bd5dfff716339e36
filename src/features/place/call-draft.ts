/**
 * A half-typed call, kept for as long as the browser's tab is: a reload, another page or another panel of a phone
 * finds it again.
 */
type Store = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;

/** The tab's own store; null where the browser keeps none for this page. */
function tabStore(): Store | null {
  try {
    return globalThis.sessionStorage ?? null;
  } catch {
    return null;
  }
}

const place = (riff: string): string => `half-typed:${riff}`;
/** More than this is no line half typed. */
const MOST = 20_000;

export function readDraft(riff: string, store: Store | null = tabStore()): string {
  try {
    return store?.getItem(place(riff)) ?? '';
  } catch {
    return '';
  }
}

/** Keeps what stands in the line; nothing where it is empty. A full store only costs the convenience. */
export function keepDraft(riff: string, text: string, store: Store | null = tabStore()): void {
  try {
    if (text.trim() === '' || text.length > MOST) store?.removeItem(place(riff));
    else store?.setItem(place(riff), text);
  } catch {
    // The line itself still has it.
  }
}

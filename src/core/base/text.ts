/** What no store of text takes: NUL, and half of a pair of surrogates, as `JSON.stringify` writes them. */
const UNSTORABLE = /\\u(?:0000|d[89ab][0-9a-f]{2}|d[c-f][0-9a-f]{2})/i;

/** A text without NUL; half of a surrogate pair (a name cut inside an emoji) becomes the replacement character. */
export const wellFormedText = (text: string): string => text.toWellFormed().replace(/\u0000/g, '');

/**
 * A value (plain data, as it goes into JSON) whose texts can be stored: the same object where they can be already.
 * Done once at every edge, on the page and on the server, so that both hold the same.
 */
export function wellFormed<T>(value: T): T {
  return UNSTORABLE.test(JSON.stringify(value) ?? '') ? (cleaned(value) as T) : value;
}

function cleaned(value: unknown): unknown {
  if (typeof value === 'string') return wellFormedText(value);
  if (Array.isArray(value)) return value.map(cleaned);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, held]) => [wellFormedText(key), cleaned(held)]));
}

/** A short mark of a text, the same for the same text: FNV-1a, 32 bits, in base 36. No secret. */
export function textMark(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return (hash >>> 0).toString(36);
}

/** A number with what is counted: "1 note", "3 notes"; `many` where it is not the word with an s. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

/** Builds XML as text, indented; attributes of no value are left out. */

export type Attributes = Readonly<Record<string, string | number | null | undefined>>;

// What no XML holds, not even escaped.
const FORBIDDEN = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;

export const escapeXml = (text: string): string =>
  text
    .toWellFormed()
    .replace(FORBIDDEN, '')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');

/** An element with its contents: a text, or elements made before; none where there are no contents. */
export function el(name: string, attrs: Attributes = {}, contents: string | number | readonly string[] = []): string {
  const said = Object.entries(attrs)
    .filter(([, value]) => value !== null && value !== undefined)
    .map(([key, value]) => ` ${key}="${escapeXml(String(value))}"`)
    .join('');
  if (typeof contents === 'number' || typeof contents === 'string')
    return `<${name}${said}>${escapeXml(String(contents))}</${name}>`;
  const inner = contents.filter((one) => one !== '');
  return inner.length === 0 ? `<${name}${said}/>` : `<${name}${said}>${inner.join('')}</${name}>`;
}

/** The same where there is something to say; nothing for null. */
export const maybe = (name: string, value: string | number | null | undefined): string =>
  value === null || value === undefined ? '' : el(name, {}, value);

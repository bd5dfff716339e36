/** What is read on a page that was drawn to HTML: its words, with one space between them. */
export const textOf = (html: string): string =>
  html
    .replaceAll(/<[^>]+>/g, ' ')
    .replaceAll('&#x27;', "'")
    .replaceAll('&quot;', '"')
    .replaceAll(/\s+/g, ' ')
    .trim();

import { dayWords, LINK_WORDS, VERSION_WORDS, type Day, type DueItem, type Request } from '@/core/desk';

/** How the desk says things. */

/** "rhythm guitar and bass; without the solo; the second half later". */
export function coverWords({ items }: Pick<Request, 'items'>): string {
  const of = (kind: Request['items'][number]['kind']): string =>
    items
      .filter((item) => item.kind === kind && (kind !== 'later' || item.done === null))
      .map((item) => item.what)
      .join(', ');
  const [covered, left, later] = [of('covered'), of('leftOut'), of('later')];
  return [covered, left ? `without ${left}` : '', later ? `${later} later` : ''].filter(Boolean).join('; ');
}

/** "for Odile; the record". */
export const askedWords = ({ asker, version }: Pick<Request, 'asker' | 'version'>): string =>
  [asker ? `for ${asker}` : '', version ? VERSION_WORDS[version] : ''].filter(Boolean).join('; ');

/** What of it is due. */
export const dueWords = ({ item, kind }: Pick<DueItem, 'item' | 'kind'>): string =>
  item ? item.what : kind === 'release' ? 'comes out' : '';

/** The day as one says it, or that there is none. */
export const dayOr = (day: Day | null, today: Day): string => (day === null ? 'no day' : dayWords(day, today));

export const linkWords = (kind: keyof typeof LINK_WORDS, back: boolean): string =>
  back ? LINK_WORDS[kind].back : LINK_WORDS[kind].there;

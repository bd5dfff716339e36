/** Stands for any id in the address of a built page. */
export const ANY = '_';

const ID = '[A-Za-z0-9_-]{1,64}';
/** Addresses that hold ids: the word before an id, and what may follow. The way into a piece is drawn, not built. */
const KINDS: readonly (readonly [string, string])[] = [
  [`/pieces/:piece(${ID})/riffs/:riff(${ID})`, `/pieces/${ANY}/riffs/${ANY}`],
  [`/pieces/:piece(${ID})/riffs/:riff(${ID})/sheet`, `/pieces/${ANY}/riffs/${ANY}/sheet`],
  [`/pieces/:piece(${ID})/parts/:part(${ID})`, `/pieces/${ANY}/parts/${ANY}`],
  [`/pieces/:piece(${ID})/parts/:part(${ID})/:place([a-z-]+)`, `/pieces/${ANY}/parts/${ANY}/:place`],
  [`/pieces/:piece(${ID})/:place([a-z-]+)`, `/pieces/${ANY}/:place`],
  [`/rack/instruments/:instrument(${ID})`, `/rack/instruments/${ANY}`],
];

/**
 * Pages that are about something are built once, for any id, and find out in the browser what they are about. These
 * lead their addresses to them, in the words of the framework's configuration; what can be no id leads nowhere.
 */
export const SHELLS = KINDS.map(([source, destination]) => ({ source, destination }));

const READ = KINDS.map(([source, page]) => [new RegExp(`^${source.replace(/:(\w+)\(/g, '(?<$1>')}$`), page] as const);

/** The built page that serves an address, as the configuration leads it; an address that holds no ids is its own. */
export function shellOf(path: string): string {
  for (const [pattern, page] of READ) {
    const found = pattern.exec(path);
    if (found) return page.replace(':place', found.groups?.place ?? '');
  }
  return path;
}

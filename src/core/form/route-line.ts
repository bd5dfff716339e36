import { fail, ok, type Result } from '../base';
import type { FormEntry, Section, Stop } from '../score';
import { eatNumber, eatPlays, itemsOf, labelled, same, Scan, typedName } from './scan';

/** The order of playing as one types it: `intro, verse 2 times, refrain, (bridge, refrain) twice, end slowing`. */

export interface RouteItem {
  /** The section meant; null where no section has the name. */
  readonly section: string | null;
  readonly name: string;
  /** How often in all. */
  readonly plays: number;
  readonly stop: Stop | null;
  /** Where in the line it stands. */
  readonly from: number;
  readonly to: number;
}

const MOST = 400;

/** Reads a route. Names of no section are kept, for sections to be made of them; the fault tells where and why. */
export function parseRoute(text: string, sections: readonly Pick<Section, 'id' | 'name'>[]): Result<RouteItem[]> {
  return read(text, 0, labelled(sections), 0);
}

function read(
  text: string,
  offset: number,
  sections: readonly Pick<Section, 'id' | 'name'>[],
  depth: number,
): Result<RouteItem[]> {
  const out: RouteItem[] = [];
  for (const item of itemsOf(text)) {
    const locus = { text: { from: offset + item.from, to: offset + item.to } };
    const lead = item.text.length - item.text.trimStart().length;
    if (item.text.trim().startsWith('(')) {
      const close = item.text.lastIndexOf(')');
      if (close < 0) return fail('route', 'A bracket is opened and not closed.', locus);
      if (depth > 3) return fail('route', 'Brackets lie too deep in each other.', locus);
      const inner = read(item.text.slice(lead + 1, close), offset + item.from + lead + 1, sections, depth + 1);
      if (!inner.ok) return inner;
      const scan = new Scan(item.text.slice(close + 1));
      const plays = eatPlays(scan) ?? 1;
      if (!scan.done)
        return fail('route', `"${scan.rest}" is not understood after the bracket: say how often, "2 times".`, locus);
      if (out.length + inner.value.length * plays > MOST)
        return fail('route', `That is more than ${MOST} places.`, locus);
      for (let n = 0; n < plays; n++) out.push(...inner.value);
      continue;
    }
    const scan = new Scan(item.text);
    const known = scan.name(sections);
    const name = known?.name ?? unknownName(scan);
    if (name === '') return fail('route', 'Say which section.', locus);
    const plays = eatPlays(scan) ?? 1;
    if (plays < 1 || plays > 999) return fail('route', 'A section is played 1 to 999 times in all.', locus);
    const stop = eatStop(scan);
    const late = plays === 1 && stop ? eatPlays(scan) : null;
    if (!scan.done)
      return fail(
        'route',
        `"${scan.rest}" is not understood after "${name}". Say how often ("2 times") or how it ends ("slowing", "held", "fading", "stops 1 bar early").`,
        locus,
      );
    out.push({
      section: known?.id ?? null,
      name,
      plays: late ?? plays,
      stop,
      ...{ from: locus.text.from + lead, to: locus.text.to },
    });
    if (out.length > MOST) return fail('route', `That is more than ${MOST} places.`, locus);
  }
  return ok(out);
}

/** A name that no section has yet: up to what says how often or how it ends. */
function unknownName(scan: Scan): string {
  const quoted = scan.eat(/"([^"]+)"/);
  if (quoted) return (quoted[1] ?? '').trim();
  const found = scan.eat(
    /.+?(?=\s+(?:\d{1,3}\s*(?:times|x|×)|(?:two|three|four|five|six|seven|eight|nine|ten) times|once|twice|[x×]\s*\d|slowing|held|fading|stops)|\s*$)/,
  );
  return (found?.[0] ?? '').trim();
}

function eatStop(scan: Scan): Stop | null {
  const over = (): number => {
    if (!scan.eat(/over\b/)) return 2;
    const bars = eatNumber(scan) ?? 2;
    scan.eat(/bars?\b/);
    return Math.min(64, bars);
  };
  if (scan.eat(/slowing\b/)) {
    const bars = over();
    const to = scan.eat(/to\s+(\d{2})\s*%/);
    return { kind: 'slowing', bars, ...(to ? { to: Math.max(20, Math.min(99, Number(to[1]))) } : {}) };
  }
  if (scan.eat(/held\b/)) return { kind: 'held', bars: 0 };
  if (scan.eat(/fad(?:ing|es|e)\b/)) return { kind: 'fade', bars: over() };
  if (scan.eat(/stops\b/)) {
    const bars = eatNumber(scan) ?? 1;
    scan.eat(/bars?\b/);
    scan.eat(/early\b/);
    return { kind: 'early', bars: Math.min(64, bars) };
  }
  return null;
}

/** How a place ends, as it is typed and said. */
export function stopWords(stop: Stop): string {
  const bars = `${stop.bars} ${stop.bars === 1 ? 'bar' : 'bars'}`;
  if (stop.kind === 'held') return 'held';
  if (stop.kind === 'early') return `stops ${bars} early`;
  if (stop.kind === 'fade') return `fading over ${bars}`;
  return `slowing over ${bars}${stop.to === undefined ? '' : ` to ${stop.to} %`}`;
}

/** The order of playing as it would be typed. */
export function printRoute(form: readonly FormEntry[], given: readonly Pick<Section, 'id' | 'name'>[]): string {
  const sections = labelled(given);
  return form
    .map((entry) => {
      const name = sections.find((one) => one.id === entry.section)?.name ?? '?';
      const plays = entry.plays === 1 ? '' : ` ${entry.plays} times`;
      return `${typedName(name, sections)}${plays}${entry.stop ? ` ${stopWords(entry.stop)}` : ''}`;
    })
    .join(', ');
}

/** Sections of one name: a label used twice is a question. */
export const sameLabel = (
  sections: readonly Pick<Section, 'id' | 'name'>[],
  name: string,
  but: string | null,
): boolean => sections.some((one) => one.id !== but && same(one.name, name));

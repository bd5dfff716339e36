import { fail, ok, type Result } from '../base';
import { parseChord } from '../harmony';
import type { Part, PassName, Riff, Spot, Use, UseMove } from '../score';
import { moveWords } from './move-use';
import { passWords } from './passes';
import { eatNumber, eatPlays, itemsOf, labelled, Scan, typedName } from './scan';

/**
 * What a part plays in a section, as one types it: `A 4 times (4th: ending), B up 5 frets, rest 2 bars, bars 1 to 2 of
 * A, C to D "softly"`. Uses of riffs by name, laid end to end.
 */

/** A use without an id: whoever puts it into a piece gives one. */
export type UseDraft = Omit<Use, 'id'>;

const SPOTS: Readonly<Record<string, Spot['kind']>> = {
  rest: 'rest',
  rests: 'rest',
  free: 'free',
  unwritten: 'unwritten',
};

/** Reads the row of a part; the fault tells which item and how it would be understood. */
export function parseRow(text: string, part: Pick<Part, 'riffs'>): Result<UseDraft[]> {
  const out: UseDraft[] = [];
  const riffs = labelled(part.riffs);
  for (const item of itemsOf(text)) {
    const read = parseUse(item.text, riffs);
    if (!read.ok) return fail(read.error.rule, read.error.words, { text: { from: item.from, to: item.to } });
    out.push(read.value);
  }
  return ok(out);
}

function parseUse(text: string, riffs: readonly Riff[]): Result<UseDraft> {
  const scan = new Scan(text);
  const spot = scan.eat(/(rests?|free|unwritten)(?![\p{L}\p{N}'’])/u);
  if (spot) {
    scan.eat(/for\b/);
    const bars = eatNumber(scan) ?? 1;
    scan.eat(/bars?\b/);
    const remark = eatRemark(scan);
    if (!scan.done) return notUnderstood(scan, 'A rest is followed by its bars: "rest 2 bars".');
    const kind = SPOTS[(spot[1] ?? '').toLowerCase()] ?? 'rest';
    return ok({ spot: { kind, bars: Math.max(1, bars) }, plays: 1, ...(remark ? { remark } : {}) });
  }
  const range = scan.eat(/bars?\s+(\d{1,4})(?:\s*(?:to|-|–)\s*(\d{1,4}))?\s+of\b/);
  const riff = scan.name(riffs);
  if (!riff) {
    const known = riffs
      .map((one) => one.name)
      .slice(0, 8)
      .join(', ');
    return fail('no-riff', `There is no riff "${scan.rest}" in this part. It has ${known || 'none yet'}.`, {});
  }
  const use: { -readonly [Key in keyof UseDraft]: UseDraft[Key] } = { riff: riff.id, plays: 1 };
  if (range) {
    const from = Number(range[1]);
    const to = Number(range[2] ?? range[1]);
    if (from < 1 || to < from)
      return fail('bars', `Bars ${range[1]} to ${range[2]} are no bars of "${riff.name}".`, {});
    use.bars = { from: from - 1, count: to - from + 1 };
  }
  const endings: { passes: PassName[]; variant: string }[] = [];
  for (let before = -1; !scan.done && before !== scan.at;) {
    before = scan.at;
    const plays = eatPlays(scan);
    if (plays !== null) use.plays = Math.max(1, plays);
    if (scan.eat(/silent\b/)) use.leaveOut = true;
    if (scan.eat(/as\b/)) {
      const variant = scan.name(labelled(riff.variants ?? []));
      if (!variant) return noVariant(riff, scan.rest);
      use.variant = variant.id;
    }
    const move = eatMove(scan);
    if (move && !move.ok) return move;
    if (move?.value) use.move = move.value;
    const bracket = scan.eat(/\(([^)]*)\)/);
    if (bracket) {
      const read = parseEndings(bracket[1] ?? '', riff);
      if (!read.ok) return read;
      endings.push(...read.value);
    }
    const remark = eatRemark(scan);
    if (remark) use.remark = remark;
  }
  if (!scan.done)
    return notUnderstood(
      scan,
      `After "${riff.name}" say how often ("2 times"), how it is moved ("up 5 frets", "to D"), or its endings ("(2nd: last time)").`,
    );
  if (endings.length > 0) use.endings = endings;
  return ok(use);
}

const notUnderstood = (scan: Scan, mend: string): Result<never> =>
  fail('row', `"${scan.rest}" is not understood. ${mend}`, {});

const noVariant = (riff: Riff, wanted: string): Result<never> =>
  fail(
    'no-variant',
    `"${riff.name}" has no variant "${wanted}". ${(riff.variants ?? []).length > 0 ? `It has ${riff.variants?.map((one) => one.name).join(', ')}.` : 'Make one on the bench first.'}`,
    {},
  );

const eatRemark = (scan: Scan): string | null => scan.eat(/"([^"]{1,300})"/)?.[1]?.trim() ?? null;

function eatMove(scan: Scan): Result<UseMove> | null {
  const octave = scan.eat(/(up|down)\s+(?:an?\s+)?octave\b/);
  if (octave) return ok({ by: 'semitones', steps: /up/i.test(octave[1] ?? '') ? 12 : -12 });
  const steps = scan.eat(/(up|down|\+|-|−)\s*(\d{1,2})\s*(frets?|semitones?|octaves?)?(?![a-z0-9])/);
  if (steps) {
    const by = /oct/i.test(steps[3] ?? '') ? 12 : 1;
    const many = Number(steps[2]) * by * (/^(?:up|\+)$/i.test(steps[1] ?? '') ? 1 : -1);
    if (Math.abs(many) > 48) return fail('move', 'A riff is moved by 48 at most.', {});
    return ok({ by: /^(?:semi|oct)/i.test(steps[3] ?? '') ? 'semitones' : 'frets', steps: many });
  }
  const strings = scan.eat(/(\d)\s*strings?\s*(thicker|thinner)\b/);
  if (strings) return ok({ by: 'strings', steps: Number(strings[1]) * (/thicker/i.test(strings[2] ?? '') ? 1 : -1) });
  const chord = scan.eat(/to\s+([A-G][^\s,()"]*)/);
  if (chord) {
    const read = parseChord(chord[1] ?? '');
    return read.ok ? ok({ by: 'chord', chord: chord[1] ?? '' }) : read;
  }
  return null;
}

/** "2nd: last time; odd: with pull" */
function parseEndings(text: string, riff: Riff): Result<{ passes: PassName[]; variant: string }[]> {
  const out: { passes: PassName[]; variant: string }[] = [];
  for (const item of itemsOf(text, ';')) {
    const scan = new Scan(item.text);
    const passes: PassName[] = [];
    for (;;) {
      const found = scan.eat(/(\d{1,3})(?:st|nd|rd|th)?(?![a-z0-9])|(last|odd|even|first|second|third|fourth)\b/);
      if (!found) break;
      const word = (found[2] ?? '').toLowerCase();
      const number = { first: 1, second: 2, third: 3, fourth: 4 }[word];
      passes.push(found[1] ? Number(found[1]) : (number ?? (word as PassName)));
      scan.eat(/times?\b/);
      scan.eat(/,|and\b/);
    }
    scan.eat(/:/);
    if (passes.length === 0 || passes.includes(0))
      return fail(
        'endings',
        `"${item.text.trim()}" says no time. Write "(2nd: ${riff.variants?.[0]?.name ?? 'ending'})"; also last, odd, even.`,
        {},
      );
    const variant = scan.name(labelled(riff.variants ?? []));
    if (!variant) return noVariant(riff, scan.rest);
    if (!scan.done) return notUnderstood(scan, 'Endings are parted by semicolons.');
    out.push({ passes, variant: variant.id });
  }
  return ok(out);
}

/** One use as it would be typed. */
export function printUse(use: UseDraft, part: Pick<Part, 'riffs'>): string {
  const remark = use.remark ? ` "${use.remark.replaceAll('"', "'")}"` : '';
  if (use.spot) return `${use.spot.kind} ${use.spot.bars} ${use.spot.bars === 1 ? 'bar' : 'bars'}${remark}`;
  const riffs = labelled(part.riffs);
  const riff = riffs.find((one) => one.id === use.riff);
  const variants = labelled(riff?.variants ?? []);
  const nameOf = (id: string): string => typedName(variants.find((one) => one.id === id)?.name ?? '?', variants);
  const range = use.bars
    ? `${use.bars.count > 1 ? `bars ${use.bars.from + 1} to ${use.bars.from + use.bars.count}` : `bar ${use.bars.from + 1}`} of `
    : '';
  return (
    [
      `${range}${typedName(riff?.name ?? '?', riffs)}`,
      ...(use.variant ? [`as ${nameOf(use.variant)}`] : []),
      ...(use.move ? [moveWords(use.move)] : []),
      ...(use.plays > 1 ? [`${use.plays} times`] : []),
      ...(use.endings?.length
        ? [`(${use.endings.map((one) => `${passWords(one.passes)}: ${nameOf(one.variant)}`).join('; ')})`]
        : []),
      ...(use.leaveOut ? ['silent'] : []),
    ].join(' ') + remark
  );
}

export const printRow = (uses: readonly UseDraft[], part: Pick<Part, 'riffs'>): string =>
  uses.map((use) => printUse(use, part)).join(', ');

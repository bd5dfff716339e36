import type { Midi } from '../../base';
import { INSTRUMENTS, resolveTuning, TUNINGS, tuningPitches } from '../../instrument';
import { parseMeter } from '../../time';
import type { Mark } from '../music';
import type { Block, System } from './systems';

/** What the words of a text and the names of its lines say of the whole: title, tuning, capo, tempo, meter. */

export interface Heading {
  readonly title: string;
  /** What is said of the tuning, as it is said. */
  readonly tuning: string | null;
  /** Semitones all strings are said to be moved, down below 0. */
  readonly moved: number;
  readonly capo: number;
  readonly bpm: number | null;
  readonly meter: { beats: number; unit: number } | null;
  readonly marks: Mark[];
  readonly words: string;
  readonly leftOut: number;
}

const SAYS = {
  tuning: /\btun(?:ing|ed)(?: to)?\s*[:=]?\s*(.{2,60})$/i,
  capo: /\bcapo\b[^\d]{0,12}(\d{1,2})|\b(\d{1,2})(?:st|nd|rd|th)? fret capo/i,
  bpm: /(?:tempo\s*[:=]?\s*|=\s*)(\d{2,3})|\b(\d{2,3})\s*bpm\b/i,
  meter: /\b(\d{1,2}\/(?:1|2|4|8|16|32))\b/,
} as const;

/** What the words before and between say of the whole. */
export function headingOf(blocks: readonly Block[]): Heading {
  let title = '';
  let [tuning, capo, bpm, meter] = [null, 0, null, null] as [string | null, number, number | null, Heading['meter']];
  let moved = 0;
  let leftOut = 0;
  let seen = false;
  const words: string[] = [];
  for (const block of blocks) {
    if (block.kind === 'system') {
      seen = true;
      continue;
    }
    const line = block.line.text.trim();
    words.push(line);
    const shift = seen ? 0 : movedBy(line);
    const tuned = isTuningName(line) ? line : SAYS.tuning.exec(line)?.[1]?.trim();
    const capoed = SAYS.capo.exec(line);
    const beats = SAYS.bpm.exec(line);
    const time = SAYS.meter.exec(line)?.[1];
    if (tuned && tuning === null) tuning = tuned;
    if (shift !== 0 && moved === 0) moved = shift;
    if (capoed && capo === 0) capo = Math.min(12, Number(capoed[1] ?? capoed[2]));
    if (beats && bpm === null) bpm = Math.min(400, Math.max(20, Number(beats[1] ?? beats[2])));
    if (time && meter === null && !seen) meter = parseMeter(time);
    const used = shift !== 0 || tuned !== undefined || capoed !== null || beats !== null || time !== undefined;
    if (!used && !seen && title === '') title = line.replace(/^title\s*:\s*/i, '').slice(0, 160);
    else if (!used && sectionName(line) === null) leftOut++;
  }
  return { title, tuning, moved, capo, bpm, meter, marks: [], words: words.join(' '), leftOut };
}

const KINDS = /^(intro|verse|pre-?chorus|chorus|refrain|bridge|solo|interlude|outro|ending|coda|theme|riff|break)\b/i;

/** "[Verse 2]", "Chorus:", "Bridge (x2)", "here comes the owl:": the name of a section; null for other words. */
export function sectionName(line: string): string | null {
  const bracket = /^\[([^\]]{1,60})\]/.exec(line)?.[1];
  if (bracket) return bracket.trim();
  const plain = line.replace(/[:.\s]+$/, '');
  return plain.length <= 40 && (KINDS.test(plain) || /\w{3}.*:$/.test(line.trim())) ? plain : null;
}

export function mostCommon(counts: readonly number[]): number {
  const by = new Map<number, number>();
  for (const count of counts) by.set(count, (by.get(count) ?? 0) + 1);
  return [...by].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 6;
}

/** The labels of the first system that names all its strings; empty where none does. */
export function labelsOf(systems: readonly System[], count: number): string[] {
  const found = systems.find(
    (one) => one.strings.length === count && one.strings.every((line) => /[A-Ha-h]/.test(line.label)),
  );
  return found ? found.strings.map((line) => line.label) : [];
}

/** Whether the labels read as a tuning from the thick string down the page: E A D G B e. */
export function thickOnTop(labels: readonly string[]): boolean {
  if (labels.length < 4) return false;
  const [first, last] = [labels[0] ?? '', labels.at(-1) ?? ''];
  // A small letter is the thin string of two that are called alike.
  if (first.toLowerCase() === last.toLowerCase() && first !== last) return last === last.toLowerCase();
  const spelled = labels.map((label) => label.toUpperCase().slice(0, 1)).join('');
  return ['EADG', 'BEADG', 'DADG', 'BEADGC'].includes(spelled) || spelled.startsWith('EADGB');
}

const NUMBERS: Readonly<Record<string, number>> = { a: 1, one: 1, two: 2, three: 3, four: 4, five: 5 };
const SAID_MOVED =
  /(?:(\d(?:\.5)?|an?|one|two|three|four|five)\s+(and a half\s+|1\/2\s+)?)?(?:(half|1\/2|½|whole|full)[\s-]*)?(?:an?\s+)?(step|tone|semitone)s?\b( and a half)?/i;
const AWAY = /\b(?:(down|lower|flat|below)|up|higher|above)\b/i;

/** Semitones a line says all strings are tuned away: "tuned down half a step" is -1; 0 where it says nothing of it. */
export function movedBy(line: string): number {
  const [found, away] = [SAID_MOVED.exec(line), AWAY.exec(line)];
  if (!found || !away) return 0;
  // Words about a slide or a bend say steps too: those of a tuning name it, or say nothing else.
  const rest = line
    .replace(SAID_MOVED, '')
    .replace(AWAY, '')
    .replace(/\W|standard|from/gi, '');
  if (rest.length > 2 && !/\btun/i.test(line)) return 0;
  const number = (found[1] ?? 'one').toLowerCase();
  const count = (NUMBERS[number.replace(/^an$/, 'a')] ?? Number(number)) + (found[2] || found[5] ? 0.5 : 0);
  const half = /half|1\/2|½/i.test(found[3] ?? '') || found[4]?.toLowerCase() === 'semitone';
  const semitones = Math.round(count * (half ? 1 : 2));
  return semitones > 0 && semitones <= 12 ? semitones * (away[1] ? -1 : 1) : 0;
}

const NAMED = /\b(drop(?:ped)?|open)[\s-]+([A-G][b#♭♯]?)(\s+minor)?(?![a-z])/i;

/** "Drop D", "Open G tuning" alone on a line, or beside words of tuning. */
const isTuningName = (line: string): boolean =>
  (/\btun/i.test(line) && NAMED.test(line)) ||
  /^(?:drop(?:ped)?|open)[\s-]+[A-G][b#♭♯]?(?: minor)?(?: tuning)?$/.test(
    line.replace(/^[DO]/, (first) => first.toLowerCase()),
  );

/** The tuning of the catalogue a text names, for so many strings. */
function namedTuning(said: string, count: number, bass: boolean): readonly Midi[] | null {
  const found = NAMED.exec(said);
  // "A half step down" is counted, not looked up.
  if (!found && movedBy(`tuned ${said}`) !== 0) return null;
  const words = [/drop/i.test(found?.[1] ?? '') ? 'dropped' : 'open', `${found?.[2] ?? ''}${found?.[3] ?? ''}`];
  const wanted = found ? words.join(' ').replace('♯', '#').replace('♭', 'b') : said;
  const named = TUNINGS.map((one) => ({ open: tuningPitches(one), name: one.name.toLowerCase() })).find(
    ({ open, name }) =>
      open.length === count &&
      name.startsWith('bass') === (bass && count === 4) &&
      new RegExp(`(^|, )${escaped(wanted.toLowerCase())}($| \\()`).test(name),
  );
  return named?.open ?? null;
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** Open strings thick to thin, by what a heading says, or by the labels. */
export function tuningOf(
  { tuning: said, moved, words }: Pick<Heading, 'tuning' | 'moved' | 'words'>,
  labels: readonly string[],
  count: number,
): readonly Midi[] | null {
  const away = (open: readonly Midi[]): readonly Midi[] => open.map((pitch) => pitch + moved);
  const named = said === null ? null : namedTuning(said, count, kindOf(count, words) === 'bass');
  if (named) return away(named);
  const instrument = INSTRUMENTS.find((one) => one.strings.length === count && (count > 5 || one.kind === 'bass'));
  if (!instrument) return null;
  // Of what is said only what spells notes: "down to D A D G B E" does, "down a half step" does not.
  const spelled = (said ?? '').split(/[\s,;|()-]+/).filter((word) => /^(?:[A-G][#b♯♭]?\d?)+$/i.test(word));
  const usual = usualTuning(count, words);
  for (const [i, spelling] of [spelled.join(' '), labels.join(' ').replace(/h/gi, 'B')].entries()) {
    if (spelling.replace(/[^A-Ga-g]/g, '').length < count) continue;
    const resolved = resolveTuning(spelling, instrument);
    if (!resolved.ok) continue;
    const { open } = resolved.value;
    // Lines named by the strings as they usually are tell which is which; moved strings may be named as they sound.
    return i === 1 && usual?.every((pitch, k) => pitch === open[k]) ? away(open) : open;
  }
  return moved !== 0 && usual ? away(usual) : null;
}

export const usualTuning = (count: number, words: string): readonly Midi[] | null => {
  const kind = kindOf(count, words);
  return (
    INSTRUMENTS.find((one) => one.strings.length === count && (one.kind === 'bass') === (kind === 'bass'))?.strings.map(
      (string) => string.pitch,
    ) ?? null
  );
};

export const usualOpen = (count: number, string: number): Midi =>
  usualTuning(count, '')?.[count - string] ?? 40 + 5 * (count - string);

export const kindOf = (count: number, words: string): 'guitar' | 'bass' =>
  /\bbass\b/i.test(words) || (count <= 5 && !/guitar|tenor/i.test(words)) ? 'bass' : 'guitar';

import type { Midi } from '../../base';
import { INSTRUMENTS, resolveTuning, TUNINGS, tuningPitches } from '../../instrument';
import { parseMeter } from '../../time';
import type { Mark } from '../music';
import type { Block, System } from './systems';

/** What the words of a text and the names of its lines say of the whole: title, tuning, capo, tempo, meter. */

export interface Heading {
  readonly title: string;
  readonly tuning: string | null;
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
    const tuned = SAYS.tuning.exec(line)?.[1]?.trim();
    const capoed = SAYS.capo.exec(line);
    const beats = SAYS.bpm.exec(line);
    const time = SAYS.meter.exec(line)?.[1];
    if (tuned && tuning === null) tuning = tuned;
    if (capoed && capo === 0) capo = Math.min(12, Number(capoed[1] ?? capoed[2]));
    if (beats && bpm === null) bpm = Math.min(400, Math.max(20, Number(beats[1] ?? beats[2])));
    if (time && meter === null && !seen) meter = parseMeter(time);
    const used = tuned !== undefined || capoed !== null || beats !== null || time !== undefined;
    if (!used && !seen && title === '') title = line.replace(/^title\s*:\s*/i, '').slice(0, 160);
    else if (!used && sectionName(line) === null) leftOut++;
  }
  return { title, tuning, capo, bpm, meter, marks: [], words: words.join(' '), leftOut };
}

const KINDS = /^(intro|verse|pre-?chorus|chorus|refrain|bridge|solo|interlude|outro|ending|coda|theme|riff|break)\b/i;

/** "[Verse 2]", "Chorus:", "Bridge (x2)": the name of a section; null for other words. */
export function sectionName(line: string): string | null {
  const bracket = /^\[([^\]]{1,60})\]/.exec(line)?.[1];
  if (bracket) return bracket.trim();
  const plain = line.replace(/[:.\s]+$/, '');
  return KINDS.test(plain) && plain.length <= 40 ? plain : null;
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

/** Open strings thick to thin, by what a heading says, or by the labels. */
export function tuningOf(said: string | null, labels: readonly string[], count: number): readonly Midi[] | null {
  const named =
    said === null
      ? undefined
      : TUNINGS.find((one) => tuningPitches(one).length === count && one.name.toLowerCase() === said.toLowerCase());
  if (named) return tuningPitches(named);
  const instrument = INSTRUMENTS.find((one) => one.strings.length === count && (count > 5 || one.kind === 'bass'));
  if (!instrument) return null;
  for (const spelling of [
    said?.replace(/[^A-Ga-g#b♯♭0-9\s]/g, ' ').trim() ?? '',
    labels.join(' ').replace(/h/gi, 'B'),
  ]) {
    if (spelling.replace(/[^A-Ga-g]/g, '').length < count) continue;
    const resolved = resolveTuning(spelling, instrument);
    if (resolved.ok) return resolved.value.open;
  }
  return null;
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

import { noteName } from '../../pitch';
import { joinPairs, type Note, type RiffEvent, type Technique } from '../../score';
import { nutOf, setupWords, stringCount, tuningKey, type Setup } from '../../instrument';
import { barStart, cmp, meterAt, quarter, sub, toNumber, toRatio, ZERO, type Quarter } from '../../time';
import { guessSetup, type Music, type MusicPart } from '../music';

export interface TextTabChoice {
  /** Characters of a line at most; a bar that has more stands alone. */
  readonly width?: number;
}

const WIDTH = 80;
/** Into how many parts a bar is divided for spacing; the first on which all its onsets lie. */
const PARTS = [4, 8, 12, 16, 24, 32, 48] as const;

/**
 * Music as text tab: a system of lines a part, thinnest string first, bars spaced by time, counted below, with a legend
 * of the letters used. Notes without a place are left out. Lines are no longer than `width` where a bar allows it.
 */
export function writeTextTab(music: Music, { width = WIDTH }: TextTabChoice = {}): string {
  const parts = music.parts.filter((part) => part.events.length > 0);
  const used = new Set<string>();
  const bodies = parts.map((part) => partText(music, part, Math.max(24, width), used));
  const heads = parts.map((part) => {
    const { setup } = guessSetup(part);
    return [...(parts.length > 1 ? [part.name] : []), `Tuning: ${tuningText(setup)}`, ...capoText(setup)].join('\n');
  });
  const { beats, unit } = meterAt(music.meters, 0);
  const bpm = Math.round((music.tempo[0]?.bpm ?? 120) * 100) / 100;
  const lines = [
    music.title,
    ...(music.credit ? [music.credit] : []),
    `Tempo: ${bpm} bpm, ${beats}/${unit}`,
    '',
    ...parts.flatMap((_, i) => [heads[i] ?? '', '', bodies[i] ?? '', '']),
    ...legend(used),
  ];
  return `${lines.join('\n').trimEnd()}\n`;
}

const tuningText = (setup: Setup): string =>
  setup.open
    .map((midi) =>
      noteName(midi, { key: tuningKey(setup.signs) })
        .replace('♯', '#')
        .replace('♭', 'b'),
    )
    .join(' ');

const capoText = (setup: Setup): string[] => {
  const full = setup.capos.find((capo) => capo.strings === null);
  if (full) return [`Capo ${full.fret} (frets are counted from it)`];
  return setup.capos.length > 0 ? [setupWords(setup)] : [];
};

interface BarText {
  /** A line for each string, thinnest first, all of one length; then the counts. */
  readonly strings: readonly string[];
  readonly counts: string;
  readonly chords: string;
  readonly mute: string;
}

function partText(music: Music, part: MusicPart, width: number, used: Set<string>): string {
  const { setup } = guessSetup(part);
  const count = stringCount(setup);
  const labels = Array.from({ length: count }, (_, i) => {
    const midi = (setup.open[count - 1 - i] ?? 0) + nutOf(setup, i + 1);
    const name = noteName(midi - nutOf(setup, i + 1), { key: tuningKey(setup.signs) });
    return name.replace('♯', '#').replace('♭', 'b');
  });
  // The thin one of two that are called alike has a small letter.
  if (labels[0] === labels.at(-1)) labels[0] = (labels[0] ?? '').toLowerCase();
  const wide = Math.max(...labels.map((label) => label.length));
  const first = music.pickup === ZERO ? 0 : -1;
  const out: string[] = [];
  let row: { bar: number; text: BarText }[] = [];
  const flush = (): void => {
    if (row.length === 0) return;
    const mark = music.marks.find((one) => one.bar === row[0]?.bar);
    if (mark) out.push(`[${mark.name.replaceAll(']', ')')}]`);
    const meter = music.meters.find((one) => one.bar === row[0]?.bar && one.bar > 0);
    if (meter) out.push(`${meter.beats}/${meter.unit}`);
    out.push(systemText(music, labels, wide, row), '');
    row = [];
  };
  for (let bar = first; bar < music.bars; bar++) {
    const text = barText(music, part, bar, count, used);
    const length = row.reduce((sum, one) => sum + (one.text.strings[0]?.length ?? 0) + 1, wide + 1);
    const apart = music.marks.some((one) => one.bar === bar) || music.meters.some((one) => one.bar === bar);
    if (row.length > 0 && (length + (text.strings[0]?.length ?? 0) + 1 > width || apart)) flush();
    row.push({ bar, text });
  }
  flush();
  return out.join('\n').trimEnd();
}

function systemText(
  music: Music,
  labels: readonly string[],
  wide: number,
  row: readonly { readonly bar: number; readonly text: BarText }[],
): string {
  const lines = labels.map((label) => `${label.padEnd(wide)}|`);
  let counts = ' '.repeat(wide + 1);
  let chords = ' '.repeat(wide + 1);
  let mute = ' '.repeat(wide + 1);
  row.forEach(({ bar, text }, i) => {
    const opens = music.repeats.some((one) => one.from === bar);
    const closes = music.repeats.some((one) => one.endings.length === 0 && one.to === bar + 1);
    const times = music.repeats.find((one) => one.endings.length === 0 && one.to === bar + 1)?.times ?? 2;
    const [left, right] = [opens ? ':' : '', closes ? ':' : ''];
    text.strings.forEach((string, k) => {
      lines[k] +=
        `${left}${string}${right}|${closes && i === row.length - 1 && k === 0 && times > 2 ? ` x${times}` : ''}`;
    });
    const pad = (line: string): string =>
      ' '.repeat(left.length) + line.padEnd(text.strings[0]?.length ?? 0) + ' '.repeat(right.length + 1);
    counts += pad(text.counts);
    chords += pad(text.chords);
    mute += pad(text.mute);
  });
  return [
    ...(chords.trim() ? [chords.trimEnd()] : []),
    ...(mute.trim() ? [mute.trimEnd()] : []),
    ...lines,
    counts.trimEnd(),
  ].join('\n');
}

function barText(music: Music, part: MusicPart, bar: number, count: number, used: Set<string>): BarText {
  const meter = meterAt(music.meters, Math.max(0, bar));
  const from = bar < 0 ? sub(ZERO, music.pickup) : barStart(music.meters, bar);
  const to = bar < 0 ? ZERO : barStart(music.meters, bar + 1);
  const inside = part.events
    .map((event, i) => ({ event, before: part.events[i - 1], next: part.events[i + 1] }))
    .filter(({ event }) => cmp(event.at, from) >= 0 && cmp(event.at, to) < 0 && event.notes.some((note) => note.place));
  const texts = inside.map(({ event, before, next }) => {
    const cells = new Map(
      event.notes.flatMap((note) =>
        note.place ? [[note.place.string, cellText(note, event, before, next, used)]] : [],
      ),
    );
    // Numbers struck together stand under each other, whatever leads to them.
    const wide = Math.max(0, ...[...cells.values()].map((cell) => cell.before.length));
    const aligned = new Map([...cells].map(([string, cell]) => [string, cell.before.padStart(wide, '-') + cell.text]));
    return { event, cells: aligned, wide };
  });
  const length = sub(to, from);
  const grace = texts.filter(({ event }) => event.grace);
  const main = texts.filter(({ event }) => !event.grace);
  const parts = partsOf(
    main.map(({ event }) => sub(event.at, from)),
    length,
  );
  /** Where each step of the bar stands; a step is as wide as what stands on it. */
  const widths = new Array<number>(parts).fill(2);
  const steps = main.map(({ event }) => stepOf(sub(event.at, from), length, parts));
  const lead = new Map<number, string[]>();
  main.forEach(({ event, cells }, i) => {
    const own = grace.filter(
      (one) =>
        cmp(one.event.at, event.at) < 0 &&
        !main.some((m) => cmp(m.event.at, one.event.at) > 0 && cmp(m.event.at, event.at) < 0),
    );
    const step = steps[i] ?? 0;
    const before = Array.from({ length: count }, (_, k) => own.map((one) => one.cells.get(k + 1) ?? '').join(''));
    const wide = Math.max(0, ...before.map((text) => text.length));
    lead.set(
      step,
      before.map((text) => text.padEnd(wide, '-')),
    );
    const longest = Math.max(1, ...[...cells.values()].map((text) => text.length));
    widths[step] = Math.max(widths[step] ?? 2, wide + longest + 1);
  });
  // Steps are alike as long as that is no waste, so that the eye can count.
  const most = Math.max(...widths);
  const even = most <= 4 ? widths.map(() => most) : widths;
  const strings = Array.from(
    { length: count },
    (_, k) =>
      '-' +
      even
        .map((wide, step) => {
          const i = steps.indexOf(step);
          const text = (lead.get(step)?.[k] ?? '') + (i < 0 ? '' : (main[i]?.cells.get(k + 1) ?? ''));
          return text.padEnd(wide, '-');
        })
        .join(''),
  );
  const place = (step: number): number =>
    1 +
    even.slice(0, step).reduce((sum, wide) => sum + wide, 0) +
    (lead.get(step)?.[0]?.length ?? 0) +
    (main[steps.indexOf(step)]?.wide ?? 0);
  const beat = quarter(4, meter.unit);
  return {
    strings,
    counts: placed(
      Array.from({ length: parts }, (_, step) => step).flatMap((step) => {
        const at = timeOf(step, length, parts);
        const words = countOf(at, beat, parts, length, steps.includes(step));
        return words ? [[place(step), words] as const] : [];
      }),
    ),
    chords: placed(
      music.chords
        .filter((chord) => cmp(chord.at, from) >= 0 && cmp(chord.at, to) < 0)
        .map((chord) => [place(Math.min(parts - 1, stepOf(sub(chord.at, from), length, parts))), chord.chord] as const),
    ),
    mute: placed(
      main.flatMap(({ event }, i) =>
        event.mute === 'palm' && main[i - 1]?.event.mute !== 'palm'
          ? [[place(steps[i] ?? 0), muteText(main, steps, i, place)] as const]
          : [],
      ),
    ),
  };
}

function muteText(
  main: readonly { readonly event: RiffEvent }[],
  steps: readonly number[],
  from: number,
  place: (step: number) => number,
): string {
  let to = from;
  while (main[to + 1]?.event.mute === 'palm') to++;
  const length = place(steps[to] ?? 0) - place(steps[from] ?? 0) + 1;
  return length <= 4 ? 'P.M.' : `P.M.${'-'.repeat(length - 4)}`;
}

/** Words at columns of a line, the later one moved on where two would touch. */
function placed(words: readonly (readonly [column: number, text: string])[]): string {
  return words.reduce((line, [column, text]) => {
    const at = Math.max(column, line === '' ? 0 : line.length + 1);
    return line.padEnd(at) + text;
  }, '');
}

const timeOf = (step: number, length: Quarter, parts: number): Quarter => {
  const { n, d } = toRatio(length);
  return quarter(n * step, d * parts);
};

const stepOf = (at: Quarter, length: Quarter, parts: number): number =>
  Math.max(0, Math.min(parts - 1, Math.round((toNumber(at) / toNumber(length)) * parts)));

/** The coarsest division of a bar on which all its onsets lie, else the finest. */
function partsOf(onsets: readonly Quarter[], length: Quarter): number {
  const quarters = toNumber(length);
  const sizes = PARTS.map((four) => Math.max(1, Math.round((four * quarters) / 4)));
  const fits = (parts: number): boolean =>
    onsets.every((at) => {
      const share = (toNumber(at) / quarters) * parts;
      return Math.abs(share - Math.round(share)) < 1e-6;
    });
  const clear = (parts: number): boolean =>
    new Set(onsets.map((at) => stepOf(at, length, parts))).size === onsets.length;
  return sizes.find(fits) ?? sizes.find(clear) ?? Math.max(sizes.at(-1) ?? 48, onsets.length * 4);
}

/** The syllable of a time within its beat; nothing between, but where something is struck there. */
function countOf(at: Quarter, beat: Quarter, parts: number, length: Quarter, struck: boolean): string {
  const beats = toNumber(at) / toNumber(beat);
  const whole = Math.floor(beats + 1e-9);
  const share = Math.round((beats - whole) * 12) / 12;
  if (share === 0) return String(whole + 1);
  if (!struck) return '';
  const thirds =
    ((parts * toNumber(beat)) / toNumber(length)) % 3 === 0 &&
    (share === 1 / 3 || Math.abs(share - 1 / 3) < 0.01 || Math.abs(share - 2 / 3) < 0.01);
  if (thirds) return share < 0.5 ? 'la' : 'li';
  if (share === 0.5) return '&';
  return share === 0.25 ? 'e' : share === 0.75 ? 'a' : '.';
}

/** One note as it stands on its line: what leads to its number, and the number with what is done to it. */
function cellText(
  note: Note,
  event: RiffEvent,
  before: RiffEvent | undefined,
  next: RiffEvent | undefined,
  used: Set<string>,
): { readonly before: string; readonly text: string } {
  const technique: Technique = note.technique ?? {};
  const use = (letter: string): string => {
    used.add(letter);
    return letter;
  };
  const fret = note.place?.fret ?? 0;
  const head = technique.dead
    ? use('x')
    : technique.harmonic
      ? (use('<>'), `<${fret}>`)
      : technique.pinched !== undefined
        ? (use('[]'), `[${fret}]`)
        : event.accent === 'ghost'
          ? (use('()'), `(${fret})`)
          : String(fret);
  const into = joinPairs(before, event).find((pair) => event.notes[pair.to]?.id === note.id);
  const from = into ? before?.notes[into.from] : undefined;
  const slid = into && (into.how === 'slide' || into.how === 'shift');
  const slidIn = slid
    ? use((from?.pitch.midi ?? 0) <= note.pitch.midi ? '/' : '\\')
    : technique.slideIn
      ? use(technique.slideIn === 'lower' ? '/' : '\\')
      : '';
  const tapped = technique.tapped ? use('t') : '';
  const out = technique.slideOut === 'higher' ? use('/') : technique.slideOut === 'lower' ? use('\\') : '';
  const leads = next ? joinPairs(event, next).find((pair) => event.notes[pair.from]?.id === note.id) : undefined;
  const on = leads?.how === 'hammer' ? use('h') : leads?.how === 'pull' ? use('p') : '';
  const shaken = technique.vibrato === undefined ? '' : use('~');
  return {
    before: slidIn + tapped,
    text: `${head}${bendText(technique, fret, use)}${shaken}${trillText(technique, fret, use)}${out}${on}`,
  };
}

function bendText(technique: Technique, fret: number, use: (letter: string) => string): string {
  const { bend, bendCurve: curve } = technique;
  if (bend === undefined) return technique.unspecified?.includes('bend') ? use('b') : '';
  const before = (curve?.[0]?.cents ?? 0) > 0;
  const released = curve?.at(-1)?.cents === 0;
  const whole = Math.round(bend / 100);
  return `${before ? use('pb') : use('b')}${whole >= 1 ? fret + whole : ''}${released ? use('r') : ''}`;
}

const trillText = (technique: Technique, fret: number, use: (letter: string) => string): string =>
  technique.trill === undefined ? '' : `${use('tr')}${fret + technique.trill}`;

const LEGEND: Readonly<Record<string, string>> = {
  h: 'hammer-on',
  p: 'pull-off',
  '/': 'slide up, or slid into or off upwards',
  '\\': 'slide down, or slid into or off downwards',
  b: 'bend, to the fret whose pitch it reaches',
  pb: 'bent before it is struck',
  r: 'let down again',
  '~': 'vibrato',
  x: 'dead note',
  t: 'tapped',
  tr: 'trill with that fret',
  '<>': 'natural harmonic',
  '[]': 'pinched harmonic',
  '()': 'ghost note',
};

const legend = (used: ReadonlySet<string>): string[] =>
  Object.entries(LEGEND)
    .filter(([letter]) => used.has(letter))
    .map(([letter, words]) => `${letter.padEnd(3)} ${words}`);

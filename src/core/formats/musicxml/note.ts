import type { Finger } from '../../base';
import { BEND_LIMITS, bendShapes, type Articulation, type Join, type Technique } from '../../score';
import { quarter, type Quarter } from '../../time';
import { foundNote, type FoundNote } from '../music';
import { readWords, STROKE_SIGNS, TREMOLO_MARKS, type SaidBeside } from './words';
import { child, childrenOf, has, numberOf, textOf, type Element } from './xml';

const STEPS: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
/** A little wavy line, where nobody says how wide. */
const VIBRATO = 40;

/** A note of the file with what only a reader needs. */
export interface ReadNote extends FoundNote {
  readonly staff: number;
  readonly tieStart: boolean;
  readonly tieStop: boolean;
  /** A slur that begins here and may be a hammer-on or a pull-off. */
  readonly slurred: boolean;
  readonly rest: boolean;
  /** Written to be read with another part, not played. */
  readonly cue: boolean;
  readonly dynamic: Articulation['dynamic'] | null;
}

/** What a reader counts as left out. */
export type Note = (what: string) => void;

/** The written pitch of a note as a MIDI number and cents; null where it has none. */
function pitchOf(note: Element): { midi: number; cents: number } | null {
  const pitch = child(note, 'pitch');
  const step = STEPS[textOf(pitch, 'step') ?? ''];
  const octave = numberOf(pitch, 'octave');
  if (step === undefined || octave === null || !Number.isInteger(octave)) return null;
  const alter = numberOf(pitch, 'alter') ?? 0;
  const midi = (octave + 1) * 12 + step + Math.round(alter);
  return { midi, cents: Math.round((alter - Math.round(alter)) * 100) };
}

const TYPES: Readonly<Record<string, Quarter>> = {
  long: quarter(16),
  breve: quarter(8),
  whole: quarter(4),
  half: quarter(2),
  quarter: quarter(1),
  eighth: quarter(1, 2),
  '16th': quarter(1, 4),
  '32nd': quarter(1, 8),
  '64th': quarter(1, 16),
  '128th': quarter(1, 32),
  '256th': quarter(1, 64),
};

/** How long a note is written, by its sign, dots and tuplet; null where the file shows no sign. */
export function writtenLength(note: Element): { readonly n: number; readonly d: number } | null {
  const type = TYPES[textOf(note, 'type') ?? ''];
  if (type === undefined) return null;
  const [n = 0, d = 1] = type.split('/').map(Number);
  const dots = childrenOf(note, 'dot').length;
  const time = child(note, 'time-modification');
  const [actual, normal] = [numberOf(time, 'actual-notes') ?? 1, numberOf(time, 'normal-notes') ?? 1];
  if (!(actual >= 1 && normal >= 1 && actual <= 64 && normal <= 64 && dots <= 4)) return null;
  return { n: n * (2 ** (dots + 1) - 1) * Math.round(normal), d: d * 2 ** dots * Math.round(actual) };
}

const FINGERS: Readonly<Record<string, Finger>> = { '0': 0, '1': 1, '2': 2, '3': 3, '4': 4, '5': 5, t: 5, T: 5, p: 5 };

/** Everything a note element says but for when and how long. */
export function readNote(
  note: Element,
  frame: { readonly at: Quarter; readonly dur: Quarter; readonly transpose: number; readonly grace: number | null },
  leftOut: Note,
): ReadNote {
  const { notations, technicals, articulations, ornaments } = signsOf(note);
  const written = pitchOf(note);
  const head = child(note, 'notehead');
  const headed = head?.text.trim() ?? 'normal';
  const said = wordsBeside([...technicals, ...articulations, ...ornaments, ...notations], leftOut);
  const string = numberIn(technicals, 'string');
  const fret = numberIn(technicals, 'fret');
  const unpitched = written === null && has(note, 'unpitched');
  const fingerings = technicals.filter((one) => one.name === 'fingering');
  const fingers = fingerings.map((one) => FINGERS[one.text.trim()] ?? null);
  const alternate = fingerings.findIndex((one) => one.attrs.alternate === 'yes');
  const technique: Technique = {
    ...techniqueOf(technicals, articulations, ornaments, leftOut),
    ...Object.assign({}, ...said.map((one) => one.technique ?? {})),
    ...(headed === 'x' && !unpitched ? { dead: true as const } : {}),
  };
  const event: FoundNote['event'] = {
    ...eventOf(note, technicals, articulations, ornaments, notations),
    ...(head?.attrs.parentheses === 'yes' ? { accent: 'ghost' as const } : {}),
    ...Object.assign({}, ...said.map((one) => one.event ?? {})),
    ...(said.some((one) => one.ringing === 'event') ? { letRing: true as const } : {}),
    ...(unpitched && !said.some((one) => one.event?.kind)
      ? { kind: headed === 'slash' ? ('hole' as const) : ('hit' as const) }
      : {}),
  };
  const ties = [...childrenOf(note, 'tie'), ...notations.filter((one) => one.name === 'tied')];
  const rings =
    said.some((one) => one.ringing === 'note') ||
    ties.some((one) => one.attrs.type === 'let-ring') ||
    notations.some((one) => one.name === 'let-ring');
  const again = said.some((one) => one.struckAgain);
  const shaped = finishBend(technique);
  return {
    ...foundNote(frame.at, frame.dur, written === null ? null : written.midi + frame.transpose),
    voice: Number.parseInt(textOf(note, 'voice') ?? '1', 10) || 1,
    ...{ cents: written?.cents ?? 0, technique: shaped, event, grace: frame.grace },
    string: string !== null && Number.isInteger(string) && string >= 1 ? string : null,
    fret: fret !== null && Number.isInteger(fret) && fret >= 0 && fret <= 36 ? fret : null,
    finger: fingers[0] ?? null,
    otherFinger: alternate > 0 ? (fingers[alternate] ?? null) : null,
    join: joinOf(technicals, notations, again),
    ringing: rings,
    staff: Math.max(1, Math.round(numberOf(note, 'staff') ?? 1)),
    tieStart: ties.some((one) => one.attrs.type === 'start'),
    tieStop: ties.some((one) => one.attrs.type === 'stop'),
    slurred: notations.some((one) => one.name === 'slur' && one.attrs.type === 'start'),
    rest: has(note, 'rest'),
    cue: has(note, 'cue'),
    dynamic: dynamicIn(notations.filter((one) => one.name === 'dynamics')),
  };
}

interface Signs {
  readonly notations: readonly Element[];
  readonly technicals: readonly Element[];
  readonly articulations: readonly Element[];
  readonly ornaments: readonly Element[];
}

const NO_SIGNS: readonly Element[] = [];

/** The signs of a note by their kind. A note has one list of each, mostly; then that is it. */
function signsOf(note: Element): Signs {
  let [notations, technicals, articulations, ornaments] = [NO_SIGNS, NO_SIGNS, NO_SIGNS, NO_SIGNS];
  const and = (list: readonly Element[], more: readonly Element[]): readonly Element[] =>
    list.length === 0 ? more : [...list, ...more];
  for (const one of note.children) {
    if (one.name !== 'notations') continue;
    notations = and(notations, one.children);
    for (const sign of one.children) {
      if (sign.name === 'technical') technicals = and(technicals, sign.children);
      else if (sign.name === 'articulations') articulations = and(articulations, sign.children);
      else if (sign.name === 'ornaments') ornaments = and(ornaments, sign.children);
    }
  }
  return { notations, technicals, articulations, ornaments };
}

function numberIn(elements: readonly Element[], name: string): number | null {
  const found = elements.find((one) => one.name === name)?.text.trim() ?? '';
  return found !== '' && Number.isFinite(Number(found)) ? Number(found) : null;
}

function wordsBeside(elements: readonly Element[], leftOut: Note): SaidBeside[] {
  return elements.flatMap((one) => {
    if (!one.name.startsWith('other-')) return [];
    const said = readWords(one.text);
    if (!said) leftOut(`"${one.text.trim().slice(0, 40)}" beside a note`);
    return said ? [said] : [];
  });
}

/** Signs of the format that are a technique of the note here. */
function techniqueOf(
  technicals: readonly Element[],
  articulations: readonly Element[],
  ornaments: readonly Element[],
  leftOut: Note,
): Technique {
  const out: { -readonly [Name in keyof Technique]: Technique[Name] } = {};
  const bends = technicals.filter((one) => one.name === 'bend');
  if (bends.length > 0) Object.assign(out, bendOf(bends));
  for (const { name, children } of technicals) {
    if (name === 'harmonic') {
      if (children.some((one) => one.name === 'artificial')) out.pinched = 12;
      else out.harmonic = true;
    } else if (name === 'tap') out.tapped = true;
    else if (UNKNOWN.has(name)) leftOut(name.replaceAll('-', ' '));
  }
  for (const { name } of articulations) {
    if (name === 'scoop') out.slideIn = 'lower';
    if (name === 'plop') out.slideIn = 'higher';
    if (name === 'doit') out.slideOut = 'higher';
    if (name === 'falloff') out.slideOut = 'lower';
    if (UNKNOWN.has(name)) leftOut(name.replaceAll('-', ' '));
  }
  for (const one of ornaments) {
    if (one.name === 'trill-mark') out.trill = one.attrs['trill-step'] === 'half' ? 1 : 2;
    else if (one.name === 'wavy-line' && one.attrs.type === 'start' && out.trill === undefined) out.vibrato = VIBRATO;
    else if (UNKNOWN.has(one.name)) leftOut(one.name.replaceAll('-', ' '));
  }
  return out;
}

/** Signs that are seen and not kept. */
const UNKNOWN: ReadonlySet<string> = new Set([
  ...['turn', 'delayed-turn', 'inverted-turn', 'mordent', 'inverted-mordent', 'shake', 'schleifer', 'heel', 'toe'],
  ...['breath-mark', 'caesura', 'stress', 'unstress', 'double-tongue', 'triple-tongue', 'stopped', 'fingernails'],
]);

function bendOf(bends: readonly Element[]): Technique {
  const cents = bends.reduce((most, one) => Math.max(most, Math.abs(numberOf(one, 'bend-alter') ?? 0) * 100), 0);
  const bend = Math.min(BEND_LIMITS.most, Math.round(cents));
  if (bend < BEND_LIMITS.least) return { unspecified: ['bend'] };
  const shapes = bendShapes(bend);
  const [first] = bends;
  const releases = bends.filter((one) => has(one, 'release')).length;
  const ups = bends.length - releases;
  if (first && has(first, 'pre-bend'))
    return { bend, bendCurve: [...shapes[releases > 0 ? 'prebend-released' : 'prebend']] };
  if (releases > 0) return { bend, bendCurve: [...shapes[ups > 1 ? 'again' : 'released']] };
  return { bend };
}

/** A curve told in words goes with its bend, and its highest point is as far as that. */
function finishBend(technique: Technique): Technique {
  const { bendCurve: curve } = technique;
  if (!curve) return technique;
  const most = curve.reduce((cents, point) => Math.max(cents, point.cents), 0);
  if (most < BEND_LIMITS.least) {
    const { bendCurve: _, ...rest } = technique;
    return rest;
  }
  return { ...technique, bend: most };
}

/** Signs of the format that say how the whole event is played. */
function eventOf(
  note: Element,
  technicals: readonly Element[],
  articulations: readonly Element[],
  ornaments: readonly Element[],
  notations: readonly Element[],
): Articulation {
  const out: { -readonly [Name in keyof Articulation]: Articulation[Name] } = {};
  for (const one of technicals) {
    if (one.name === 'down-bow') out.stroke = 'down';
    if (one.name === 'up-bow') out.stroke = 'up';
    if (one.name === 'pluck' || one.name === 'thumb-position') {
      const sign = one.text.trim().toLowerCase();
      const stroke = Object.entries(STROKE_SIGNS).find(([, letter]) => letter === sign)?.[0];
      if (stroke) out.stroke = stroke as NonNullable<Articulation['stroke']>;
    }
  }
  for (const { name } of articulations) {
    if (name === 'accent') out.accent = 'accent';
    if (name === 'strong-accent') out.accent = 'heavy';
    if (name === 'staccato') out.gate ??= 50;
    if (name === 'staccatissimo') out.gate = 25;
  }
  const tremolo = ornaments.find((one) => one.name === 'tremolo' && (one.attrs.type ?? 'single') === 'single');
  if (tremolo) {
    const marks = Math.max(1, Math.min(4, Math.round(Number(tremolo.text) || 3)));
    const length = Object.entries(TREMOLO_MARKS).find(([, count]) => count === marks)?.[0];
    if (length) out.tremolo = length as Quarter;
  }
  const rolled = notations.find((one) => one.name === 'arpeggiate');
  if (rolled) out.roll = rolled.attrs.direction === 'down' ? 'thin-first' : 'thick-first';
  if (child(child(note, 'play'), 'mute')?.text.trim() === 'palm') out.mute = 'palm';
  return out;
}

function joinOf(technicals: readonly Element[], notations: readonly Element[], again: boolean): Join | null {
  const starts = (elements: readonly Element[], name: string): boolean =>
    elements.some((one) => one.name === name && one.attrs.type === 'start');
  if (starts(technicals, 'hammer-on')) return 'hammer';
  if (starts(technicals, 'pull-off')) return 'pull';
  if (starts(notations, 'slide') || starts(notations, 'glissando')) return again ? 'shift' : 'slide';
  return null;
}

const DYNAMICS: Readonly<Record<string, NonNullable<Articulation['dynamic']>>> = {
  ...{ pppp: 'pp', ppp: 'pp', pp: 'pp', p: 'p', mp: 'mp', mf: 'mf', f: 'f', ff: 'ff', fff: 'ff', ffff: 'ff' },
  ...{ fp: 'f', sf: 'f', sfz: 'ff' },
};

/** The loudness signs say; null where they say none we know. */
export function dynamicIn(dynamics: readonly Element[]): NonNullable<Articulation['dynamic']> | null {
  for (const one of dynamics)
    for (const sign of one.children) if (DYNAMICS[sign.name]) return DYNAMICS[sign.name] ?? null;
  return null;
}

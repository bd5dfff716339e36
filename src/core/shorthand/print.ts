import { openPitch, shownFret, HARMONIC_NODES, type FretCounting, type Setup } from '../instrument';
import { asciiPitch } from '../pitch';
import { lengthWords } from '../rhythm';
import {
  bendShapeOf,
  EVENT_SPECS,
  NOTE_SPECS,
  type EventTechnique,
  type Flag,
  type FlagOf,
  type NoteTechnique,
  riffStart,
  type Evidence,
  type Articulation,
  type Note,
  type Riff,
  type RiffEvent,
  type Technique,
  joinsInto,
  type Join,
} from '../score';
import { add, barOf, barStart, cmp, mul, quarter, sub, ZERO, type Quarter } from '../time';
import { basisWord, bendWords, VIBRATO } from './marks';
import { quoted } from './articulations';
import { GRACE_LENGTH } from './read';

/** Frets are printed from the capo unless a set-up and another counting are given. */
export interface Counting {
  readonly setup: Setup;
  readonly frets: FretCounting;
}

/** The length a call line starts with when nothing is said. */
export const FIRST_LENGTH: Quarter = quarter(1, 2);

type Printed = Pick<Riff, 'events' | 'meters' | 'pickup'> & Partial<Pick<Riff, 'tempo' | 'feel'>>;

/**
 * A riff as calls. Reading them again with the same set-up gives the same riff: pitches, places,
 * fingers, what is locked, times, links, techniques, evidence and reasons; with `frame` also its
 * meters, tempo and feel. Strings go by number, so nothing is ambiguous.
 */
export function printCalls(
  riff: Printed,
  from: Quarter = riffStart(riff as Riff),
  counting: Counting | null = null,
  frame = false,
): string {
  const words: string[] = [];
  let cursor = from;
  let length = FIRST_LENGTH;
  let string: number | null = null;
  let barFrom = barOf(riff.meters, from).bar < 0 ? ZERO : barStart(riff.meters, barOf(riff.meters, from).bar);
  let pickup = cmp(from, ZERO) < 0;
  const changes = frame ? changesOf(riff) : [];

  const barLines = (): void => {
    for (;;) {
      const next = pickup ? ZERO : barStart(riff.meters, barOf(riff.meters, barFrom).bar + 1);
      if (cmp(cursor, next) < 0) return;
      // A note held over the bar line leaves no place for the line: it is said at the next one that fits.
      if (cursor === next) words.push('|');
      barFrom = next;
      pickup = false;
    }
  };
  const sayChanges = (): void => {
    while (changes[0] && cmp(changes[0].at, cursor) <= 0) words.push(changes.shift()?.text ?? '');
  };
  const restTo = (to: Quarter): void => {
    while (cmp(cursor, to) < 0) {
      const line = pickup ? ZERO : barStart(riff.meters, barOf(riff.meters, barFrom).bar + 1);
      const change = changes[0]?.at;
      let stop = cmp(line, cursor) > 0 && cmp(line, to) < 0 ? line : to;
      if (change !== undefined && cmp(change, cursor) > 0 && cmp(change, stop) < 0) stop = change;
      words.push(`rest for ${sub(stop, cursor)}`);
      cursor = stop;
      barLines();
      sayChanges();
    }
  };
  sayChanges();
  const graces: RiffEvent[] = [];
  const counted = riff.events.filter((event) => !event.grace);
  let at = 0;
  riff.events.forEach((event, i) => {
    if (event.grace) {
      graces.push(event);
      return;
    }
    restTo(event.at);
    const following = counted[++at];
    const end = add(event.at, event.dur);
    const written = following && cmp(following.at, end) < 0 ? sub(following.at, event.at) : event.dur;
    // Where a meter, tempo or feel changes under a held note, the note is held and the change said at its time.
    const change = changes.find((one) => cmp(one.at, event.at) > 0);
    const step = change && cmp(sub(change.at, event.at), written) < 0 ? sub(change.at, event.at) : written;
    const wording = lengthWords(step);
    if (step !== length && wording !== null && !wording.includes('tied') && isRun(counted, at - 1, step)) {
      words.push(plural(wording));
      length = step;
    }
    const say = (event: RiffEvent, before: RiffEvent | undefined): string => {
      if (event.kind) return `${event.kind}${scrapedCall(event)}`;
      const into = joinsInto(before, event);
      const joinInto = (note: Note): Join | null => into.get(note.id)?.from.join ?? null;
      const [first] = event.notes;
      const leading = first ? joinInto(first) : null;
      const ending = endingIn(event, riff.events[riff.events.indexOf(event) + 1]);
      const parts: string[] = [];
      for (const note of event.notes) {
        const call = noteCall(note, string, counting, event.tilt !== undefined);
        string = call.string ?? string;
        const join = joinInto(note);
        const how = join === leading || (join === null && note.technique?.hammered) ? '' : `${join ?? 'struck'} `;
        parts.push(`${how}${call.text}${ending.has(note.id) ? ' ends' : ''}`);
      }
      return `${leading ? `${leading} ` : ''}${event.grace ? 'grace ' : ''}${parts.join(' + ')}`;
    };
    const first = i - graces.length;
    for (const [k, grace] of graces.entries()) {
      const took = graceTook(riff.events, first, graces.length, event.at);
      words.push(
        `${say(grace, riff.events[first + k - 1])}${grace.dur === took ? '' : ` for ${grace.dur}`}${articulationCall(grace)}`,
      );
    }
    graces.length = 0;
    let text = say(event, riff.events[i - 1]);
    if (step !== length) text += ` for ${wording ?? step}`;
    if (event.dur !== step) text += ` held ${event.dur}`;
    if (event.letRing) text += ' ring';
    if (event.slideBar) text += ' bottleneck';
    words.push(text + articulationCall(event));
    cursor = add(event.at, step);
    barLines();
    sayChanges();
  });
  // Changes behind the last note stand at their bar.
  while (changes[0]) restTo(changes[0].at);
  if (words.at(-1) === '|') words.pop();
  return words.join(' ');
}

/** The notes of a chord that end with it while others are joined on: said, or they would be taken to sound on. */
function endingIn(event: RiffEvent, next: RiffEvent | undefined): ReadonlySet<string> {
  const into = next && event.notes.length > 1 ? joinsInto(event, next) : null;
  if (!into || into.size === 0 || next?.notes.some((note) => !into.has(note.id) && !note.technique?.hammered))
    return new Set();
  const led = new Set([...into.values()].map(({ from }) => from.id));
  return new Set(event.notes.flatMap(({ id, dur }) => (led.has(id) || dur !== null ? [] : [id])));
}

/** Along which strings a scrape goes. */
function scrapedCall({ scraped }: RiffEvent): string {
  if (!scraped) return '';
  const to = scraped.thin === scraped.thick ? '' : ` to ${scraped.thin}`;
  return ` over ${scraped.thick}${to}${scraped.fret === null ? '' : ` from ${scraped.fret}`} ${scraped.to}`;
}

/**
 * How long a grace said without a length becomes before a note: its own length, less where the note before would be
 * covered.
 */
function graceTook(events: readonly RiffEvent[], first: number, count: number, at: Quarter): Quarter {
  const before = events[first - 1];
  if (!before) return GRACE_LENGTH;
  const each = mul(sub(at, before.at), 1, 2 * count);
  return cmp(each, GRACE_LENGTH) < 0 ? each : GRACE_LENGTH;
}

/** Meters, tempo and feel as they are said, with where. */
function changesOf({ meters, tempo, feel }: Printed): { at: Quarter; text: string }[] {
  const out = [
    ...meters.map((meter) => ({ at: barStart(meters, meter.bar), text: `meter ${meter.beats}/${meter.unit}` })),
    ...(tempo ?? []).map((step) => ({ at: step.at, text: `tempo ${step.bpm}${step.ramp ? ' ramp' : ''}` })),
    ...(feel ?? []).map((step) => ({
      at: step.at,
      text: `${step.swing === 50 ? 'straight' : `swing ${step.swing}`}${step.unit === '1/4' ? ' fine' : ''}`,
    })),
  ];
  return out.sort((a, b) => cmp(a.at, b.at));
}

/** A new default length pays when at least two notes in a row have it. */
function isRun(events: readonly RiffEvent[], i: number, step: Quarter): boolean {
  const next = events[i + 1];
  return next === undefined || next.dur === step;
}

/** The last word of a length in the plural: "dotted eighths". */
const plural = (length: string): string => (length.endsWith('half') ? length.replace(/half$/, 'halves') : `${length}s`);

function noteCall(
  note: Note,
  string: number | null,
  counting: Counting | null,
  tilted: boolean,
): { text: string; string: number | null } {
  const { place, technique: noteTechniques } = note;
  let text: string;
  if (place) {
    const shown = String(counting ? shownFret(counting.setup, place.string, place.fret, counting.frets) : place.fret);
    const fret = noteTechniques?.dead
      ? place.fret === 0
        ? 'dead'
        : `dead ${shown}`
      : noteTechniques?.harmonic
        ? `harmonic ${nodeOf(note, counting?.setup ?? null)}`
        : place.fret === 0
          ? 'open'
          : shown;
    text = `${place.string === string ? '' : `on ${place.string} `}${fret}${place.locked ? '' : '?'}`;
    if (place.finger !== null && place.finger !== 0) {
      const or = place.otherFinger === undefined ? '' : ` or ${place.otherFinger === 5 ? 'thumb' : place.otherFinger}`;
      text += ` with ${place.finger === 5 ? 'thumb' : place.finger}${place.fingerBy === 'instructor' ? '' : '?'}${or}`;
    }
  } else {
    // Without a place of its own a dead note says the pitch of the string it goes with.
    text = `note ${asciiPitch(note.pitch.midi)}${noteTechniques?.dead ? ' muffled' : ''}`;
  }
  const other = place?.otherPlace;
  if (other) {
    const fret = counting ? shownFret(counting.setup, other.string, other.fret, counting.frets) : other.fret;
    text += ` or on ${other.string} ${other.fret === 0 ? 'open' : fret}${other.reason ? ` ${quoted(other.reason)}` : ''}`;
  }
  if (note.dur !== null) text += ` lasting ${note.dur}`;
  if (note.pitch.cents !== 0 || (tilted && place !== null && place.fret > 0))
    text += ` ${note.pitch.cents > 0 ? 'sharp' : 'flat'} ${Math.abs(note.pitch.cents)}`;
  if (noteTechniques) text += techniqueCall(noteTechniques);
  if (note.certainty !== 'sure') text += ` ${note.certainty}`;
  if (note.evidence) text += evidenceCall(note.evidence);
  if (place?.reason) text += ` reason ${quoted(place.reason)}`;
  return { text, string: place?.string ?? null };
}

/** What is said of a technique that is more than a flag; null where nothing is. A flag says its word. */
type Saying<Name extends keyof Technique> = (
  value: NonNullable<Technique[Name]>,
  technique: Technique,
) => string | null;

const VIBRATO_CALLS = new Map<number, string>([
  [VIBRATO.plain, 'vibrato'],
  [VIBRATO.wide, 'vibrato wide'],
  [VIBRATO.narrow, 'vibrato narrow'],
]);

/** What stands in the head of a call, or is said with the bend. */
const unsaid = (): null => null;

const NOTE_SAYINGS: { readonly [Name in Exclude<NoteTechnique, FlagOf<typeof NOTE_SPECS>>]: Saying<Name> } = {
  dead: unsaid,
  harmonic: unsaid,
  bend: (_, technique) => bendCall(technique),
  bendCurve: unsaid,
  bendDirection: unsaid,
  bendShape: unsaid,
  unspecified: (what, technique) => what.map((one) => (one === 'bend' ? unsaidBend(technique) : `${one} ?`)).join(' '),
  vibrato: (cents) => VIBRATO_CALLS.get(cents) ?? `vibrato of ${cents}`,
  trill: (by) => `trill by ${by}`,
  pinched: (by) => (by === 24 ? 'pinched' : `pinched of ${by}`),
  slideIn: (from, { slideInBy }) => `from-${from}${slideInBy ? ` by ${slideInBy}` : ''}`,
  slideInBy: unsaid,
  slideOut: (to, { slideOutBy }) => `off-${to}${slideOutBy ? ` by ${slideOutBy}` : ''}`,
  slideOutBy: unsaid,
  hold: (length) => `down ${length}`,
};

/** The words behind a note or an event, in the order of the table of techniques. */
function callsOf(specs: object, sayings: object, spec: object): string {
  const words = Object.entries(specs as Record<string, { readonly flag?: Flag }>).map(([name, { flag }]) => {
    const value = (spec as Record<string, unknown>)[name];
    if (value === undefined) return null;
    return flag ? flag.call : ((sayings as Record<string, Saying<never>>)[name]?.(value as never, spec) ?? null);
  });
  return words.map((word) => (word === null ? '' : ` ${word}`)).join('');
}

const techniqueCall = (technique: Technique): string => callsOf(NOTE_SPECS, NOTE_SAYINGS, technique);

const SHAPE_CALLS = { released: ' released', again: ' again', prebend: '', 'prebend-released': ' released' } as const;

function unsaidBend({ bendShape: shape, bendDirection }: Technique): string {
  const way = bendDirection ? ` ${bendDirection === 'thick' ? 'pushed' : 'pulled'}` : '';
  return `${shape?.startsWith('prebend') ? 'prebend' : 'bend'} ?${way}${shape ? SHAPE_CALLS[shape] : ''}`;
}

function bendCall(noteTechniques: Technique): string {
  const shape = bendShapeOf(noteTechniques);
  const size = bendWords(noteTechniques.bend ?? 0);
  const how =
    shape === null
      ? ` curve ${(noteTechniques.bendCurve ?? []).map((one) => `${one.at}/${one.cents}`).join(' ')}`
      : shape === 'up'
        ? ''
        : SHAPE_CALLS[shape];
  const way = noteTechniques.bendDirection ? ` ${noteTechniques.bendDirection === 'thick' ? 'pushed' : 'pulled'}` : '';
  // The way comes first: a curve's points would run on into what follows.
  return `${shape?.startsWith('prebend') ? 'prebend' : 'bend'} ${size}${way}${how}`;
}

function evidenceCall({ basis: on, at, remark: say }: Evidence): string {
  return ` ${basisWord(on)}${at === null ? '' : ` at ${at}`}${say === '' ? '' : ` ${quoted(say)}`}`;
}

type EventSaying<Name extends keyof Articulation> = (value: NonNullable<Articulation[Name]>) => string | null;

const EVENT_SAYINGS: { readonly [Name in Exclude<EventTechnique, FlagOf<typeof EVENT_SPECS>>]: EventSaying<Name> } = {
  scraped: unsaid,
  kind: unsaid,
  grace: unsaid,
  gate: (percent) => (percent === 50 ? 'staccato' : `cut ${percent}`),
  accent: (accent) => accent,
  dynamic: (dynamic) => `volume ${dynamic}`,
  stroke: (stroke) => `stroke ${stroke}`,
  roll: (way) => `rolled ${way}`,
  tremolo: (each) => `tremolo ${each}`,
  mute: (mute) => mute,
  tilt: (degrees) => `tilted ${degrees < 0 ? `minus ${-degrees}` : degrees}`,
  free: ({ kind, remark }) => `${kind}${remark === '' ? '' : ` ${quoted(remark)}`}`,
  remark: (text) => `why ${quoted(text)}`,
};

/** What is said behind an event: how it is played as a whole. */
export const articulationCall = (event: Articulation): string => callsOf(EVENT_SPECS, EVENT_SAYINGS, event);

/**
 * The node a harmonic is touched at. Two lie over fret 3 (3.2 and 2.7): the set-up tells them apart, the clearer one
 * is said without it.
 */
function nodeOf(note: Note, setup: Setup | null): number {
  const over = HARMONIC_NODES.filter((node) => Math.round(node.fret) === note.place?.fret);
  return (
    (
      over.find(
        (node) => setup && note.place && openPitch(setup, note.place.string) + node.semitones === note.pitch.midi,
      ) ?? over[0]
    )?.fret ?? 12
  );
}

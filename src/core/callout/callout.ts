import type { Setup } from '../instrument';
import { noteName, type Key } from '../pitch';
import { countSyllable, lengthLabel } from '../rhythm';
import { DEFAULT_SCHOOLS, fretWordsBy, stringCall, type Schools } from '../schools';
import { bendShapeOf, chordBend, type Note, type Riff, type RiffEvent, type Technique, joinOf } from '../score';
import { barOf } from '../time';

export interface CalloutOptions {
  readonly schools: Schools;
  readonly key: Key | null;
}

export const DEFAULT_CALLOUT: CalloutOptions = { schools: DEFAULT_SCHOOLS, key: null };

const FINGERS = ['', 'index', 'middle', 'ring finger', 'little finger', 'thumb'] as const;
const JOINS = {
  hammer: 'hammer on to',
  pull: 'pull off to',
  slide: 'slide to',
  shift: 'slide and strike again at',
} as const;

/** One note as spoken: string, fret, finger, and what it sounds; or the pitch alone where no place is decided. */
export function callNote(note: Note, setup: Setup, options: CalloutOptions = DEFAULT_CALLOUT): string {
  const name = noteName(note.pitch.midi, { key: options.key, naming: options.schools.notes });
  if (!note.place) return `${name}, not placed yet`;
  const { string, fret, finger } = note.place;
  const named = stringCall(setup, string, options.schools, options.key);
  const where = fret === 0 ? `${named} open` : `${named}, ${fretWordsBy(setup, string, fret, options.schools.frets)}`;
  const by = finger
    ? `, ${FINGERS[finger]}${note.place.otherFinger ? ` or ${FINGERS[note.place.otherFinger]}` : ''}`
    : '';
  const { technique: tech } = note;
  if (tech?.dead)
    return `${named}, dead${fret > 0 ? ` at ${fretWordsBy(setup, string, fret, options.schools.frets)}` : ''}`;
  if (tech?.harmonic) return `${named}, natural harmonic over fret ${fret}, sounding ${name}`;
  const cents =
    note.pitch.cents === 0 ? '' : `, ${Math.abs(note.pitch.cents)} cents ${note.pitch.cents > 0 ? 'sharp' : 'flat'}`;
  return `${where}${by}, sounding ${name}${cents}${techniqueWords(note, options)}`;
}

/** Techniques of a note as spoken. */
function techniqueWords({ technique: tech, pitch, certainty }: Note, { key, schools }: CalloutOptions): string {
  const words: string[] = [];
  const to = (semitones: number): string => noteName(pitch.midi + semitones, { key, naming: schools.notes });
  const sure = certainty === 'sure' ? [] : [certainty === 'guess' ? 'a guess' : 'likely'];
  if (!tech) return sure.map((w) => `, ${w}`).join('');
  if (tech.slideIn) words.push(`slid into from ${tech.slideIn} frets`);
  if (tech.bend) words.push(bendSpoken(tech, to));
  for (const open of tech.unspecified ?? [])
    words.push(open === 'bend' ? 'bent, how far is not said' : 'trilled, with what is not said');
  if (tech.vibrato)
    words.push(tech.vibrato >= 60 ? 'with wide vibrato' : tech.vibrato <= 25 ? 'with narrow vibrato' : 'with vibrato');
  if (tech.trill) words.push(`trilled with ${to(tech.trill)}`);
  if (tech.pinched) words.push(`pinched, so that ${to(tech.pinched)} speaks`);
  if (tech.tapped) words.push('tapped by the picking hand');
  if (tech.slideOut) words.push(`slid off to ${tech.slideOut} frets`);
  if (tech.letRing) words.push('ringing on under what follows');
  if (tech.hold) words.push('finger kept down');
  if (tech.anchor) words.push('the hand turns on this finger');
  return [...words, ...sure].map((w) => `, ${w}`).join('');
}

function bendSpoken(tech: Technique, to: (semitones: number) => string): string {
  const cents = tech.bend ?? 0;
  const reached = cents % 100 === 0 ? `to ${to(cents / 100)}` : `${cents} cents`;
  const way = tech.bendDirection ? (tech.bendDirection === 'thick' ? ', pushed' : ', pulled') : '';
  const shape = bendShapeOf(tech);
  const head =
    shape === 'prebend' || shape === 'prebend-released'
      ? `bent before it is struck, up ${reached}`
      : `bent up ${reached}`;
  const tail =
    shape === 'released' || shape === 'prebend-released'
      ? ' and released'
      : shape === 'again'
        ? ', released and bent again'
        : shape === null
          ? ', in a curve of its own'
          : '';
  return `${head}${way}${tail}`;
}

const STROKES: Readonly<Record<NonNullable<RiffEvent['stroke']>, string>> = {
  down: 'downstroke',
  up: 'upstroke',
  same: 'in the same stroke',
  thumb: 'with the thumb',
  index: 'with the index finger',
  middle: 'with the middle finger',
  third: 'with the ring finger',
  slap: 'slapped',
  pop: 'popped',
  'brush-down': 'brushed down',
  'brush-up': 'brushed up',
};

/** How an event is played as a whole, as spoken. */
function articulationWords(event: RiffEvent): string {
  const words: string[] = [];
  if (event.letRing) words.push('let it ring');
  if (event.slideBar)
    words.push(
      event.tilt
        ? `with the slide bar tilted ${Math.abs(event.tilt)} degrees, thin strings ${event.tilt > 0 ? 'higher' : 'lower'}`
        : 'with the slide bar',
    );
  if (event.mute) words.push(event.mute === 'palm' ? 'palm muted' : 'choked');
  if (event.gate) words.push(event.gate === 50 ? 'staccato' : 'cut short');
  if (event.accent) words.push({ accent: 'accented', heavy: 'heavily accented', ghost: 'hardly struck' }[event.accent]);
  if (event.dynamic)
    words.push(
      `from here ${{ pp: 'very soft', p: 'soft', mp: 'rather soft', mf: 'rather loud', f: 'loud', ff: 'very loud' }[event.dynamic]}`,
    );
  if (event.stroke) words.push(STROKES[event.stroke]);
  if (event.roll) words.push(`rolled from the ${event.roll === 'thick-first' ? 'thick' : 'thin'} strings`);
  if (event.rake) words.push('raked into');
  if (event.tremolo) words.push(`struck again every ${lengthLabel(event.tremolo)}`);
  if (event.anticipated) words.push('ahead of its beat');
  const bend = chordBend(event);
  if (bend)
    words.push({ unison: 'a unison bend', octave: 'bent to the octave', together: 'two strings bent together' }[bend]);
  if (event.free)
    words.push(
      `${{ either: 'either will do', fill: 'or a fill', 'leave-out': 'or leave it out' }[event.free.kind]}${event.free.remark ? `: ${event.free.remark}` : ''}`,
    );
  if (event.remark) words.push(`because ${event.remark}`);
  return words.map((w) => `, ${w}`).join('');
}

const WHAT = {
  hole: 'something is played here that is not written yet',
  hit: 'a hit on the strings',
  scrape: 'the pick scraped along the strings',
} as const;

/** One event as spoken, with how it is reached from the one before. */
export function callEvent(
  event: RiffEvent,
  before: RiffEvent | undefined,
  setup: Setup,
  options: CalloutOptions = DEFAULT_CALLOUT,
): string {
  if (event.kind) return `${WHAT[event.kind]}${articulationWords(event)}`;
  const notes = event.notes.map((n) => callNote(n, setup, options)).join('; together with ');
  const join = joinOf(before);
  const how = join ? `${event.quickSlide ? 'quickly ' : ''}${JOINS[join]} ` : '';
  return `${event.grace ? 'grace note ' : ''}${how}${notes}${articulationWords(event)}`;
}

/**
 * A riff as spoken, a line a bar, each note with its count. Also the text of every drawing for people who don't see
 * it.
 */
export function callRiff(
  riff: Pick<Riff, 'events' | 'meters'>,
  setup: Setup,
  options: CalloutOptions = DEFAULT_CALLOUT,
): string[] {
  const lines = new Map<number, string[]>();
  riff.events.forEach((event, i) => {
    const { bar } = barOf(riff.meters, event.at);
    const said = `on ${countSyllable(riff.meters, event.at)}: ${callEvent(event, riff.events[i - 1], setup, options)}`;
    lines.set(bar, [...(lines.get(bar) ?? []), said]);
  });
  return [...lines].map(([bar, said]) => `${bar < 0 ? 'Pickup' : `Bar ${bar + 1}`}. ${said.join('. ')}.`);
}

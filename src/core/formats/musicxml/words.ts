import { BEND_SHAPES, PINCHED, type Articulation, type BendShape, type RiffEvent, type Technique } from '../../score';
import { parseQuarter } from '../../time';

/**
 * What the format has no sign for is written beside the note in plain words, a technique one word: readable for
 * people, and read back by us. Null where the format's own sign says all of it.
 */

type Words<Value> = (value: Value) => readonly string[];

const none = (): readonly string[] => [];

const NOTE_WORDS: { readonly [Name in keyof Required<Technique>]: Words<NonNullable<Technique[Name]>> } = {
  bend: none,
  bendCurve: (points) => [`bend curve ${points.map((point) => `${point.at}:${point.cents}`).join(' ')}`],
  bendShape: (shape) => [`bend shape ${shape}`],
  bendDirection: (to) => [`bend toward ${to}`],
  vibrato: (cents) => [`vibrato ${cents}`],
  trill: (semitones) => [`trill ${semitones}`],
  unspecified: (what) => [`not said: ${what.join(' ')}`],
  dead: none,
  harmonic: none,
  pinched: (semitones) => [`pinched ${semitones}`],
  tapped: none,
  hammered: () => ['hammered from nowhere'],
  pulledOff: () => ['pulled off'],
  letRing: () => ['let ring'],
  slideIn: none,
  slideInBy: (frets) => [`slide in over ${frets}`],
  slideOut: none,
  slideOutBy: (frets) => [`slide out over ${frets}`],
  anchor: () => ['anchor'],
  hold: (quarters) => [`hold ${quarters}`],
};

/** Strokes the format has a sign for. */
export const STROKE_SIGNS = {
  down: 'down-bow',
  up: 'up-bow',
  thumb: 'p',
  index: 'i',
  middle: 'm',
  third: 'a',
} as const satisfies Partial<Record<NonNullable<Articulation['stroke']>, string>>;

const STROKE_WORDS = {
  same: 'stroke goes on',
  slap: 'slap',
  pop: 'pop',
  'brush-down': 'brush down',
  'brush-up': 'brush up',
} as const;

const EVENT_WORDS: { readonly [Name in keyof Required<Articulation>]: Words<NonNullable<Articulation[Name]>> } = {
  kind: (kind) => [kind === 'hole' ? 'not yet written' : kind],
  stroke: (stroke) => (stroke in STROKE_SIGNS ? [] : [STROKE_WORDS[stroke as keyof typeof STROKE_WORDS]]),
  mute: (mute) => (mute === 'palm' ? [] : ['choked']),
  gate: (percent) => (percent === 50 ? [] : [`cut to ${percent} percent`]),
  grace: none,
  anticipated: () => ['ahead of its beat'],
  accent: none,
  dynamic: none,
  roll: none,
  rake: () => ['rake'],
  pickSlap: () => ['pick slap'],
  tremolo: (quarters) => (quarters in TREMOLO_MARKS ? [] : [`tremolo ${quarters}`]),
  scraped: ({ thick, thin, fret, to }) => [
    `scrape strings ${thick} ${thin}${fret === null ? '' : ` fret ${fret}`} to ${to}`,
  ],
  quickSlide: () => ['quick slide'],
  tilt: (degrees) => [`tilt ${degrees}`],
  free: ({ kind, remark }) => [`free ${kind}: ${remark}`],
  remark: (remark) => [`remark: ${remark}`],
};

/** Beams across the stem, by how long each stroke of a tremolo is. */
export const TREMOLO_MARKS: Readonly<Record<string, number>> = { '1/2': 1, '1/4': 2, '1/8': 3, '1/16': 4 };

/** The words for a note's technique; a curve that has a name is told by the format's own signs. */
export const wordsOfNote = (technique: Technique, namedCurve: boolean): string[] =>
  (Object.entries(technique) as [keyof Technique, never][]).flatMap(([name, value]) =>
    name === 'bendCurve' && namedCurve ? [] : NOTE_WORDS[name](value),
  );

export const wordsOfEvent = (event: RiffEvent): string[] => [
  ...(Object.keys(EVENT_WORDS) as (keyof Articulation)[]).flatMap((name) =>
    event[name] === undefined ? [] : EVENT_WORDS[name](event[name] as never),
  ),
  ...(event.slideBar ? ['slide bar'] : []),
  ...(event.letRing ? ['ring on'] : []),
];

/** What words beside a note say: of the note, of its event, or that it is struck again after its slide. */
export interface SaidBeside {
  readonly technique?: Technique;
  readonly event?: Articulation & { readonly slideBar?: true };
  readonly ringing?: 'note' | 'event';
  readonly struckAgain?: true;
}

export const STRUCK_AGAIN = 'struck again';

type Reader = readonly [RegExp, (match: RegExpExecArray) => SaidBeside | null];

const number = (text: string | undefined): number => Number(text ?? NaN);

const READERS: readonly Reader[] = [
  [/^bend curve ((?:\d+:\d+ ?)+)$/, (m) => ({ technique: { bendCurve: pointsOf(m[1] ?? '') } })],
  [
    /^bend shape (\S+)$/,
    (m) => (BEND_SHAPES.includes(m[1] as BendShape) ? { technique: { bendShape: m[1] as BendShape } } : null),
  ],
  [/^bend toward (thick|thin)$/, (m) => ({ technique: { bendDirection: m[1] as 'thick' | 'thin' } })],
  [/^vibrato (\d+)$/, (m) => ({ technique: { vibrato: Math.min(200, Math.max(5, number(m[1]))) } })],
  [/^trill (\d+)$/, (m) => ({ technique: { trill: Math.min(12, Math.max(1, number(m[1]))) } })],
  [
    /^not said: (bend trill|bend|trill)$/,
    (m) => ({ technique: { unspecified: (m[1] ?? '').split(' ') as ('bend' | 'trill')[] } }),
  ],
  [
    /^pinched (\d+)$/,
    (m) => ((PINCHED as readonly number[]).includes(number(m[1])) ? { technique: { pinched: number(m[1]) } } : null),
  ],
  [/^(pinch(ed)?( harmonic)?|p\.?h\.?)$/i, () => ({ technique: { pinched: 12 } })],
  [/^hammered from nowhere$/, () => ({ technique: { hammered: true } })],
  [/^pulled off$/, () => ({ technique: { pulledOff: true } })],
  [/^let ring$/i, () => ({ ringing: 'note' })],
  [/^ring on$/, () => ({ ringing: 'event' })],
  [/^slide in over (\d+)$/, (m) => ({ technique: { slideInBy: Math.min(24, Math.max(1, number(m[1]))) } })],
  [/^slide out over (\d+)$/, (m) => ({ technique: { slideOutBy: Math.min(24, Math.max(1, number(m[1]))) } })],
  [/^anchor$/, () => ({ technique: { anchor: true } })],
  [/^hold (\d+(?:\/\d+)?)$/, (m) => lengthOf(m[1], (hold) => ({ technique: { hold } }))],
  [/^not yet written$/, () => ({ event: { kind: 'hole' } })],
  [/^(hit|scrape)$/i, (m) => ({ event: { kind: (m[1] ?? '').toLowerCase() as 'hit' | 'scrape' } })],
  ...Object.entries(STROKE_WORDS).map(([stroke, words]): Reader => [
    new RegExp(`^${words}$`, 'i'),
    () => ({ event: { stroke: stroke as NonNullable<Articulation['stroke']> } }),
  ]),
  [/^(slapped|thumb slap|thumb)$/i, () => ({ event: { stroke: 'slap' } })],
  [/^(popped|pluck)$/i, () => ({ event: { stroke: 'pop' } })],
  [/^choked$/i, () => ({ event: { mute: 'choked' } })],
  [/^(palm mute|palm-mute|p\.?m\.?)$/i, () => ({ event: { mute: 'palm' } })],
  [/^cut to (\d+) percent$/, (m) => ({ event: { gate: Math.min(95, Math.max(5, number(m[1]))) } })],
  [/^ahead of its beat$/, () => ({ event: { anticipated: true } })],
  [/^rake$/i, () => ({ event: { rake: true } })],
  [/^pick slap$/, () => ({ event: { pickSlap: true } })],
  [/^tremolo (\d+(?:\/\d+)?)$/, (m) => lengthOf(m[1], (tremolo) => ({ event: { tremolo } }))],
  [
    /^scrape strings (\d+) (\d+)(?: fret (\d+))? to (lower|higher)$/,
    (m) => ({
      event: {
        kind: 'scrape',
        scraped: {
          ...{ thick: number(m[1]), thin: number(m[2]) },
          ...{ fret: m[3] === undefined ? null : number(m[3]), to: m[4] as 'lower' | 'higher' },
        },
      },
    }),
  ],
  [/^quick slide$/, () => ({ event: { quickSlide: true } })],
  [/^tilt (-?\d+)$/, (m) => ({ event: { tilt: number(m[1]) } })],
  [
    /^free (either|fill|leave-out): ?([\s\S]*)$/,
    (m) => ({ event: { free: { kind: m[1] as 'either' | 'fill' | 'leave-out', remark: (m[2] ?? '').slice(0, 200) } } }),
  ],
  [/^remark: ([\s\S]+)$/, (m) => ({ event: { remark: (m[1] ?? '').slice(0, 300) } })],
  [/^slide bar$/i, () => ({ event: { slideBar: true } })],
  [new RegExp(`^${STRUCK_AGAIN}$`), () => ({ struckAgain: true })],
];

/** What words beside a note say; null where nobody here wrote them. */
export function readWords(text: string): SaidBeside | null {
  const words = text.trim();
  for (const [pattern, read] of READERS) {
    const match = pattern.exec(words);
    if (match) return read(match);
  }
  return null;
}

const pointsOf = (text: string): { at: number; cents: number }[] =>
  text
    .trim()
    .split(' ')
    .slice(0, 12)
    .map((point) => {
      const [at = 0, cents = 0] = point.split(':').map(Number);
      return { at: Math.min(100, at), cents: Math.min(700, cents) };
    });

function lengthOf(
  text: string | undefined,
  said: (quarters: NonNullable<Technique['hold']>) => SaidBeside,
): SaidBeside | null {
  const quarters = parseQuarter(text ?? '');
  return quarters !== null && !quarters.startsWith('0') ? said(quarters) : null;
}

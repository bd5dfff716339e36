import { fretsLeft, stringNumbers } from '../instrument';
import { bendShapes, type BendShape, type Technique } from './technique';
import { toggles, type NoteContext, type NoteSpec, type NoteTechnique, type TechniqueChange } from './technique-spec';

const BENDING = 'Bend and vibrato';

const bent = ({ technique }: NoteContext): boolean =>
  technique.bend !== undefined || technique.unspecified?.includes('bend') === true;
const trilled = ({ technique }: NoteContext): boolean =>
  technique.trill !== undefined || technique.unspecified?.includes('trill') === true;
const noBar = ({ slideBar }: NoteContext): string | null => (slideBar ? 'A slide bar can’t bend, trill or tap.' : null);

const openCantBend = ({ fret }: { readonly fret: number }): string | null =>
  fret === 0 ? 'An open string has no finger that could bend it.' : null;

const bendTo = (cents: number, shape?: BendShape): TechniqueChange => ({
  bend: cents,
  bendCurve: shape ? [...bendShapes(cents)[shape]] : null,
});
const reshaped =
  (shape: BendShape) =>
  (now: Technique): TechniqueChange =>
    now.unspecified?.includes('bend') ? { bendShape: shape } : bendTo(now.bend ?? 200, shape);

/** What no hand can do about sliding over frets that are not there. */
function slideLimit(to: 'lower' | 'higher' | undefined, { setup, place }: NoteContext): string | null {
  if (!place || !to) return null;
  if (place.fret === 0) return 'An open string has no finger that could slide.';
  if (to === 'lower' && place.fret <= 1) return 'There is no fret below the first to slide over.';
  if (to === 'higher' && place.fret >= fretsLeft(setup, place.string))
    return 'There is no fret above the last to slide over.';
  return null;
}

/** How many frets a slide from or to nowhere covers: part of that slide, and no further down than the first fret. */
const slideBy = (end: 'slideIn' | 'slideOut'): NoteSpec => ({
  find: [],
  commands: [],
  clash: ({ technique }) => (technique[end] ? null : 'So many frets belong to a slide from or to nowhere.'),
  limit: ({ place, technique }) => {
    const by = technique[end === 'slideIn' ? 'slideInBy' : 'slideOutBy'] ?? 0;
    return technique[end] === 'lower' && place.fret - by < 1
      ? 'There are not so many frets below to slide over.'
      : null;
  },
});

/** Every technique of a note. Their order is that in which limits are asked and words are said. */
export const NOTE_SPECS = {
  dead: {
    find: ['dead'],
    commands: [
      { id: 'dead', group: 'Sound', name: 'Dead note, or not', key: 'x', change: toggles('dead', { dead: true }) },
    ],
    clash: (context) => {
      const { technique } = context;
      if (bent(context) || trilled(context) || technique.harmonic || technique.pinched || technique.vibrato)
        return 'A dead note has no pitch to bend, trill, shake or take as a harmonic.';
      if (technique.letRing) return 'A dead note has nothing that could ring on.';
      return technique.tapped ? 'A tapped note is pressed to the fret, so it is not dead.' : null;
    },
  },
  harmonic: {
    find: ['harmonic'],
    commands: [],
    clash: (context) => {
      if (bent(context) || trilled(context)) return 'A natural harmonic is touched, so it can’t be bent or trilled.';
      return context.technique.pinched || context.technique.tapped
        ? 'A natural harmonic is touched: it can’t be pinched or tapped as well.'
        : null;
    },
  },
  slideIn: {
    find: [],
    commands: [
      {
        id: 'slide-in-lower',
        group: 'Join',
        name: 'Slide in from lower frets',
        words: 'from nowhere',
        change: toggles('slideIn', { slideIn: 'lower' }),
      },
      {
        id: 'slide-in-higher',
        group: 'Join',
        name: 'Slide in from higher frets',
        words: 'from nowhere',
        change: toggles('slideIn', { slideIn: 'higher' }),
      },
    ],
    limit: (context) => slideLimit(context.technique.slideIn, context),
  },
  slideInBy: slideBy('slideIn'),
  bend: {
    find: [],
    commands: [
      { id: 'bend', group: BENDING, name: 'Bend a whole tone, or not', key: 'b', change: toggles('bend', bendTo(200)) },
      { id: 'bend-half', group: BENDING, name: 'Bend a half tone', key: 'Shift+B', change: () => bendTo(100) },
      { id: 'bend-quarter', group: BENDING, name: 'Bend a quarter tone', change: () => bendTo(50) },
      { id: 'bend-three-halves', group: BENDING, name: 'Bend a tone and a half', change: () => bendTo(300) },
    ],
    clash: noBar,
    limit: ({ place }) => openCantBend(place),
  },
  bendCurve: {
    find: [],
    commands: [
      { id: 'bend-release', group: BENDING, name: 'Bend and release', change: reshaped('released') },
      { id: 'bend-again', group: BENDING, name: 'Bend, release and bend again', change: reshaped('again') },
      {
        id: 'prebend',
        group: BENDING,
        name: 'Bent before it is struck',
        words: 'pre-bend prebend',
        change: reshaped('prebend'),
      },
      {
        id: 'prebend-release',
        group: BENDING,
        name: 'Bent before it is struck, and released',
        words: 'pre-bend prebend',
        change: reshaped('prebend-released'),
      },
    ],
    clash: ({ technique: { bend, bendCurve = [] } }) => {
      if (bend === undefined) return 'A bend’s curve needs how far it goes.';
      if (bendCurve.some((point, i) => i > 0 && point.at <= (bendCurve[i - 1]?.at ?? 0)))
        return 'The points of a bend must go forward in time.';
      return Math.max(...bendCurve.map((point) => point.cents)) === bend
        ? null
        : 'The highest point of a bend’s curve is as far as it is bent.';
    },
  },
  bendShape: {
    find: [],
    commands: [],
    clash: ({ technique }) =>
      technique.unspecified?.includes('bend')
        ? null
        : 'A shape alone is kept only where how far it is bent is not said.',
  },
  bendDirection: {
    find: [],
    commands: [
      {
        id: 'bend-push',
        group: BENDING,
        name: 'The finger pushes (to the thick strings)',
        change: () => ({ bendDirection: 'thick' }),
      },
      {
        id: 'bend-pull',
        group: BENDING,
        name: 'The finger pulls (to the thin strings)',
        change: () => ({ bendDirection: 'thin' }),
      },
    ],
    clash: (context) => (bent(context) ? null : 'Pushing or pulling needs a bend.'),
    limit: ({ setup, place, technique }) => {
      const strings = stringNumbers(setup);
      if (technique.bendDirection === 'thick' && place.string === Math.max(...strings))
        return 'The thickest string can’t be pushed: it would leave the edge of the neck. Pull it.';
      if (technique.bendDirection === 'thin' && place.string === Math.min(...strings))
        return 'The thinnest string can’t be pulled: it would leave the edge of the neck. Push it.';
      return null;
    },
  },
  unspecified: {
    find: ['unspecified', 'unsaid'],
    commands: [
      {
        id: 'bend-unspecified',
        group: BENDING,
        name: 'Bent, how far is unspecified',
        words: 'bend target unsaid',
        change: () => ({ bend: null, unspecified: ['bend'] }),
      },
      {
        id: 'trill-unspecified',
        group: BENDING,
        name: 'Trilled, with which note is unspecified',
        words: 'unsaid',
        change: () => ({ trill: null, unspecified: ['trill'] }),
      },
    ],
    clash: (context) => {
      const { bend, unspecified = [] } = context.technique;
      if (bend !== undefined && unspecified.includes('bend'))
        return 'How far it is bent is said, so it is not unspecified.';
      return noBar(context);
    },
    limit: ({ place, technique }) => (technique.unspecified?.includes('bend') ? openCantBend(place) : null),
  },
  vibrato: {
    find: ['vibrato'],
    commands: [
      {
        id: 'vibrato',
        group: BENDING,
        name: 'Vibrato, or not',
        key: 'v',
        words: 'shake',
        change: toggles('vibrato', { vibrato: 40 }),
      },
      { id: 'vibrato-wide', group: BENDING, name: 'Wide vibrato', key: 'Shift+V', change: () => ({ vibrato: 80 }) },
      { id: 'vibrato-narrow', group: BENDING, name: 'Narrow vibrato', change: () => ({ vibrato: 20 }) },
    ],
    limit: ({ place, technique }) =>
      place.fret === 0 && !technique.harmonic ? 'An open string has no finger that could shake it.' : null,
  },
  trill: {
    find: [],
    commands: [
      {
        id: 'trill',
        group: BENDING,
        name: 'Trill with the note two frets up, or not',
        key: 't',
        change: toggles('trill', { trill: 2 }),
      },
      { id: 'trill-one', group: BENDING, name: 'Trill with the next fret', change: () => ({ trill: 1 }) },
    ],
    clash: noBar,
    limit: ({ setup, place, technique }) =>
      place.fret + (technique.trill ?? 0) > fretsLeft(setup, place.string)
        ? 'The trill’s upper note lies beyond the last fret.'
        : null,
  },
  pinched: {
    find: ['pinched', 'harmonic'],
    commands: [
      { id: 'pinched', group: 'Sound', name: 'Pinched harmonic, or not', change: toggles('pinched', { pinched: 24 }) },
    ],
  },
  tapped: {
    flag: {
      call: 'tapped',
      spoken: 'tapped by the picking hand',
      field: { label: 'Tapped', on: 'by the picking hand' },
    },
    find: ['tapped', 'tap'],
    commands: [
      {
        id: 'tapped',
        group: 'Sound',
        name: 'Tapped by the picking hand, or not',
        key: 'y',
        change: toggles('tapped', { tapped: true }),
      },
    ],
    clash: noBar,
    limit: ({ place }) => (place.fret === 0 ? 'A tapped note needs a fret to be tapped at.' : null),
  },
  slideOut: {
    find: [],
    commands: [
      {
        id: 'slide-out-lower',
        group: 'Join',
        name: 'Slide off to lower frets',
        change: toggles('slideOut', { slideOut: 'lower' }),
      },
      {
        id: 'slide-out-higher',
        group: 'Join',
        name: 'Slide off to higher frets',
        change: toggles('slideOut', { slideOut: 'higher' }),
      },
    ],
    limit: (context) => slideLimit(context.technique.slideOut, context),
  },
  slideOutBy: slideBy('slideOut'),
  hammered: {
    flag: {
      call: 'from-nowhere',
      spoken: 'hammered on from nowhere',
      field: { label: 'Hammered', on: 'from nowhere' },
    },
    find: [],
    commands: [
      {
        id: 'hammer-from-nowhere',
        group: 'Join',
        name: 'Hammer on from nowhere, or not',
        words: 'hammer-on silent string',
        change: toggles('hammered', { hammered: true }),
      },
    ],
    clash: ({ technique }) =>
      technique.dead || technique.harmonic || technique.tapped || technique.slideIn
        ? 'A note hammered from nowhere is pressed down by the fretting hand: it can’t be dead, touched, tapped or slid into.'
        : null,
    limit: ({ place }) => (place.fret === 0 ? 'An open string has no fret to hammer on.' : null),
  },
  pulledOff: {
    flag: {
      call: 'to-nowhere',
      spoken: 'pulled off to nowhere',
      field: { label: 'Pulled off', on: 'to nowhere' },
    },
    find: [],
    commands: [
      {
        id: 'pull-to-nowhere',
        group: 'Join',
        name: 'Pull off to nowhere, or not',
        words: 'pull-off',
        change: toggles('pulledOff', { pulledOff: true }),
      },
    ],
    clash: ({ technique }) =>
      technique.dead || technique.harmonic || technique.slideOut
        ? 'A finger that pulls off has pressed its string: the note can’t be dead, touched or slid off as well.'
        : null,
    limit: ({ place }) => (place.fret === 0 ? 'An open string has no finger that could pull off.' : null),
  },
  letRing: {
    flag: {
      call: 'under',
      spoken: 'ringing on under what follows',
      understood: 'rings on under what follows',
      field: { label: 'Rings under', on: 'under what follows' },
    },
    find: ['ring'],
    commands: [
      {
        id: 'ring-under',
        group: 'Length',
        name: 'Ring on under what follows, or not',
        key: ';',
        change: toggles('letRing', { letRing: true }),
      },
    ],
  },
  hold: {
    find: [],
    commands: [],
  },
  anchor: {
    flag: {
      call: 'anchor',
      spoken: 'the hand turns on this finger',
      field: { label: 'Anchor', on: 'the hand turns on it' },
    },
    find: ['anchor'],
    commands: [
      {
        id: 'anchor',
        group: 'Hand',
        name: 'The hand turns on this finger, or not',
        words: 'anchor',
        change: toggles('anchor', { anchor: true }),
      },
    ],
  },
} satisfies Record<NoteTechnique, NoteSpec>;

const inOrder = Object.entries(NOTE_SPECS) as [NoteTechnique, NoteSpec][];

/** The specs of what is done to a note, in the order of the table. */
export const noteSpecsOf = (technique: Technique): readonly NoteSpec[] =>
  inOrder.filter(([name]) => technique[name] !== undefined).map(([, spec]) => spec);

/** What can't be done to a note whatever the hand, or null. `slideBar`: played with a slide bar. */
export function impossible(
  setup: NoteContext['setup'],
  place: NoteContext['place'],
  technique: Technique,
  slideBar = false,
): string | null {
  const context = { setup, place, technique, slideBar };
  const specs = noteSpecsOf(technique);
  for (const spec of specs) {
    const why = spec.clash?.(context);
    if (why) return why;
  }
  if (!place) return null;
  for (const spec of specs) {
    const why = spec.limit?.({ ...context, place });
    if (why) return why;
  }
  return null;
}

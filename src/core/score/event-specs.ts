import { quarter } from '../time';
import type { Articulation } from './technique';
import { toggles, type EventContext, type EventSpec, type EventTechnique } from './technique-spec';

const STROKES = [
  ['down', 'Downstroke, or as the school says', { key: 'Shift+D' }],
  ['up', 'Upstroke, or as the school says', { key: 'u' }],
  ['same', 'The stroke before carries on', { key: 'Shift+C', words: 'one pick several notes sweep economy' }],
  ['thumb', 'Thumb plucks', {}],
  ['index', 'Index finger plucks', {}],
  ['middle', 'Middle finger plucks', {}],
  ['third', 'Ring finger plucks', {}],
  ['slap', 'Slap with the thumb', {}],
  ['pop', 'Pop', {}],
  ['brush-down', 'Brush down', {}],
  ['brush-up', 'Brush up', {}],
] as const;

const nextAccent = { accent: 'heavy', heavy: null, ghost: null } as const;

/** Every way of playing an event as a whole. Their order is that in which limits are asked and words are said. */
export const EVENT_SPECS = {
  kind: {
    find: [],
    commands: [],
    clash: ({ letRing, roll, rake, slideBar, grace, notes }) => {
      if (notes.length > 0) return 'A hole, a hit or a scrape has no notes of its own.';
      return letRing || roll || rake || slideBar || grace
        ? 'A hole, a hit or a scrape is only what it is: nothing rings, rolls or slides.'
        : null;
    },
  },
  mute: {
    find: [],
    commands: [
      {
        id: 'palm-mute',
        group: 'Sound',
        name: 'Palm mute, or not',
        key: 'm',
        change: toggles('mute', { mute: 'palm' }),
      },
      {
        id: 'choked',
        group: 'Sound',
        name: 'Choked by the fretting hand, or not',
        key: 'k',
        words: 'mute',
        change: toggles('mute', { mute: 'choked' }),
      },
    ],
  },
  gate: {
    find: ['staccato', 'short'],
    commands: [
      {
        id: 'staccato',
        group: 'Length',
        name: 'Staccato, or not',
        key: 'd',
        words: 'short detached',
        change: toggles('gate', { gate: 50 }),
      },
      { id: 'gate-third', group: 'Length', name: 'Cut to a third', words: 'short', change: () => ({ gate: 33 }) },
    ],
    clash: ({ letRing, notes }) =>
      letRing || notes.some((note) => note.technique?.letRing) ? 'What is cut short can’t ring on.' : null,
  },
  accent: {
    find: [],
    commands: [
      {
        id: 'accent',
        group: 'Sound',
        name: 'Accent, heavy, none',
        key: 'a',
        change: ({ accent }) => ({ accent: accent ? nextAccent[accent] : 'accent' }),
      },
      { id: 'ghost', group: 'Sound', name: 'Ghost note, or not', change: toggles('accent', { accent: 'ghost' }) },
    ],
  },
  dynamic: {
    find: [],
    commands: [
      ...(['pp', 'p', 'mp', 'mf', 'f', 'ff'] as const).map((dynamic) => ({
        id: `dynamic-${dynamic}`,
        group: 'Sound' as const,
        name: `Volume ${dynamic} from here`,
        change: () => ({ dynamic }),
      })),
      { id: 'dynamic-none', group: 'Sound', name: 'Volume as before', change: () => ({ dynamic: null }) },
    ],
  },
  stroke: {
    find: [],
    commands: [
      ...STROKES.map(([stroke, name, extra]) => ({
        id: `stroke-${stroke}`,
        group: 'Stroke' as const,
        name,
        ...extra,
        change: (now: Articulation) => ({ stroke: now.stroke === stroke ? null : stroke }),
      })),
      { id: 'stroke-none', group: 'Stroke', name: 'As the school says', change: () => ({ stroke: null }) },
    ],
  },
  roll: {
    find: ['rolled'],
    commands: [
      {
        id: 'roll-thick',
        group: 'Stroke',
        name: 'Rolled from the thick strings, or not',
        words: 'arpeggio',
        change: toggles('roll', { roll: 'thick-first' }),
      },
      {
        id: 'roll-thin',
        group: 'Stroke',
        name: 'Rolled from the thin strings, or not',
        words: 'arpeggio',
        change: toggles('roll', { roll: 'thin-first' }),
      },
    ],
    clash: ({ notes }) => (notes.length < 2 ? 'A rolled chord needs two notes at least.' : null),
  },
  rake: {
    flag: { call: 'raked', spoken: 'raked into', understood: 'raked into over damped strings' },
    find: ['rake'],
    commands: [{ id: 'rake', group: 'Stroke', name: 'Raked into, or not', change: toggles('rake', { rake: true }) }],
  },
  pickSlap: {
    flag: {
      call: 'pick-slap',
      spoken: 'the pick slapped on the strings',
      field: { label: 'Pick slapped', on: 'on the strings' },
    },
    find: ['pick-slap'],
    commands: [
      {
        id: 'pick-slap',
        group: 'Stroke',
        name: 'The pick slapped on the strings, or not',
        words: 'percussive click',
        change: toggles('pickSlap', { pickSlap: true }),
      },
    ],
    clash: ({ kind, stroke }) =>
      kind || stroke === 'slap' || stroke === 'pop' ? 'The pick is slapped with notes that it strikes.' : null,
  },
  tremolo: {
    find: ['tremolo'],
    commands: [
      {
        id: 'tremolo-fast',
        group: 'Stroke',
        name: 'Tremolo in thirty-seconds, or not',
        change: toggles('tremolo', { tremolo: quarter(1, 8) }),
      },
      {
        id: 'tremolo',
        group: 'Stroke',
        name: 'Tremolo in sixteenths, or not',
        change: toggles('tremolo', { tremolo: quarter(1, 4) }),
      },
    ],
    clash: ({ grace }) => (grace ? 'A grace note is over too soon to be struck again and again.' : null),
  },
  anticipated: {
    flag: { call: 'ahead', spoken: 'ahead of its beat', understood: 'played ahead of the beat it belongs to' },
    find: ['ahead', 'anticipation'],
    commands: [
      {
        id: 'anticipated',
        group: 'Length',
        name: 'Ahead of its beat, or not',
        words: 'anticipation push',
        change: toggles('anticipated', { anticipated: true }),
      },
    ],
  },
  quickSlide: {
    flag: { call: 'quick', spoken: '', understood: 'a fast slide' },
    find: [],
    commands: [
      {
        id: 'quick-slide',
        group: 'Join',
        name: 'The slide that leads here is fast, or not',
        change: toggles('quickSlide', { quickSlide: true }),
      },
    ],
  },
  scraped: {
    find: [],
    commands: [],
    clash: ({ kind, scraped }) =>
      kind !== 'scrape'
        ? 'Strings to scrape along belong to a scrape.'
        : scraped && scraped.thin > scraped.thick
          ? 'A scrape names its thicker string first.'
          : null,
  },
  grace: { find: ['grace'], commands: [] },
  tilt: {
    find: [],
    commands: [],
    clash: ({ slideBar }) => (slideBar ? null : 'A tilt is one of the slide bar: say that it is played with the bar.'),
  },
  free: {
    find: ['free'],
    commands: (
      [
        ['either', 'Free: either of two'],
        ['fill', 'Free: a fill may be played'],
        ['leave-out', 'Free: may be left out'],
      ] as const
    ).map(([kind, name]) => ({
      id: `free-${kind}`,
      group: 'Certainty' as const,
      name,
      change: toggles<Articulation>('free', { free: { kind, remark: '' } }),
    })),
  },
  remark: { find: [], commands: [] },
} satisfies Record<EventTechnique, EventSpec>;

/** The specs of how an event is played, in the order of the table. */
export const eventSpecsOf = (event: Articulation): readonly EventSpec[] =>
  (Object.entries(EVENT_SPECS) as [EventTechnique, EventSpec][])
    .filter(([name]) => event[name] !== undefined)
    .map(([, spec]) => spec);

/** What can't be done with an event as a whole, or null. */
export function impossibleEvent(event: EventContext): string | null {
  if (!event.kind && event.notes.length === 0) return 'An event needs a note, or is a hole, a hit or a scrape.';
  for (const spec of eventSpecsOf(event)) {
    const why = spec.clash?.(event);
    if (why) return why;
  }
  return null;
}

import type { Articulation, EventTechnique, NoteTechnique, Technique } from '../score';

/** What each technique does to how a note is struck. What moves its pitch or ends it is in `actions.ts`. */
export interface Struck {
  /** Times as hard. */
  readonly strength?: number;
  /** Semitones above the written pitch that speak. */
  readonly above?: number;
  /** How loud the pick or hand clicks on the strings with it, 0 to 1. */
  readonly click?: number;
}

const AS_IT_IS: Struck = {};

/** How a struck note is changed by what is done to it. */
const NOTE_SOUND: { readonly [Name in NoteTechnique]: (value: NonNullable<Technique[Name]>) => Struck } = {
  dead: () => AS_IT_IS,
  harmonic: () => AS_IT_IS,
  slideIn: () => AS_IT_IS,
  slideInBy: () => AS_IT_IS,
  bend: () => AS_IT_IS,
  bendCurve: () => AS_IT_IS,
  bendShape: () => AS_IT_IS,
  bendDirection: () => AS_IT_IS,
  unspecified: () => AS_IT_IS,
  vibrato: () => AS_IT_IS,
  trill: () => AS_IT_IS,
  pinched: (above) => ({ strength: 0.6, above }),
  tapped: () => ({ strength: 0.65 }),
  slideOut: () => AS_IT_IS,
  slideOutBy: () => AS_IT_IS,
  hammered: () => ({ strength: 0.55 }),
  pulledOff: () => AS_IT_IS,
  letRing: () => AS_IT_IS,
  hold: () => AS_IT_IS,
  anchor: () => AS_IT_IS,
};

/** How a struck note is changed by the way its event is played. */
const EVENT_SOUND: { readonly [Name in EventTechnique]: (value: NonNullable<Articulation[Name]>) => Struck } = {
  kind: () => AS_IT_IS,
  mute: () => AS_IT_IS,
  gate: () => AS_IT_IS,
  accent: (accent) => ({ strength: { accent: 1.2, heavy: 1.35, ghost: 0.42 }[accent] }),
  dynamic: () => AS_IT_IS,
  stroke: (stroke) => (stroke === 'slap' || stroke === 'pop' ? { strength: 1.15 } : AS_IT_IS),
  roll: () => AS_IT_IS,
  rake: () => AS_IT_IS,
  pickSlap: () => ({ strength: 1.1, click: 0.3 }),
  tremolo: () => AS_IT_IS,
  anticipated: () => AS_IT_IS,
  scraped: () => AS_IT_IS,
  quickSlide: () => AS_IT_IS,
  grace: () => AS_IT_IS,
  tilt: () => AS_IT_IS,
  free: () => AS_IT_IS,
  remark: () => AS_IT_IS,
};

function together(table: object, spec: object): Required<Struck> {
  let strength = 1;
  let above = 0;
  let click = 0;
  for (const [name, sound] of Object.entries(table) as [string, (value: never) => Struck][]) {
    const value = (spec as Record<string, unknown>)[name];
    if (value === undefined) continue;
    const struck = sound(value as never);
    strength *= struck.strength ?? 1;
    above += struck.above ?? 0;
    click = Math.max(click, struck.click ?? 0);
  }
  return { strength, above, click };
}

export const noteSound = (technique: Technique = {}): Required<Struck> => together(NOTE_SOUND, technique);
export const eventSound = (event: Articulation): Required<Struck> => together(EVENT_SOUND, event);

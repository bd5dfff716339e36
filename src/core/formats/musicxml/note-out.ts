import type { Finger } from '../../base';
import type { Head, Sign } from '../../staff';
import { bendShapeOf, type Join, type Note, type RiffEvent, type Technique } from '../../score';
import { STROKE_SIGNS, STRUCK_AGAIN, TREMOLO_MARKS, wordsOfEvent, wordsOfNote } from './words';
import { el, maybe } from './xml-out';

const TYPES: Readonly<Record<number, string>> = {
  ...{ 1: 'whole', 2: 'half', 4: 'quarter', 8: 'eighth', 16: '16th', 32: '32nd', 64: '64th', 128: '128th' },
};

/** How a note is led to from the one before it, and how it leads on. */
export interface Joined {
  readonly into: Join | null;
  readonly on: Join | null;
}

export interface WrittenNote {
  readonly note: Note;
  readonly event: RiffEvent;
  readonly head: Head | null;
  readonly joined: Joined;
  /** The event's own signs stand at the first note of a chord. */
  readonly first: boolean;
  /** Where a tied note goes on, everything was said at its beginning. */
  readonly begins: boolean;
  readonly ends: boolean;
}

export interface WrittenTime {
  readonly sign: Pick<Sign, 'base' | 'dots' | 'tied'>;
  /** In divisions; null for a grace note. */
  readonly duration: number | null;
  readonly voice: number;
  /** So many in the time of so many. */
  readonly tuplet: {
    readonly notes: number;
    readonly time: number;
    readonly starts: boolean;
    readonly stops: boolean;
  } | null;
  readonly beam: 'begin' | 'continue' | 'end' | null;
}

/** A rest of a voice. */
export const restElement = (time: WrittenTime): string =>
  el('note', {}, [
    el('rest'),
    maybe('duration', time.duration),
    el('voice', {}, time.voice),
    ...typeElements(time),
    ...tupletNotations(time),
  ]);

/** One note, in the order the format asks for. */
export function noteElement(written: WrittenNote, time: WrittenTime): string {
  const { note, event, head, first, begins } = written;
  const { sign } = time;
  const from = !begins;
  const to = sign.tied;
  return el('note', {}, [
    time.duration === null ? el('grace', { slash: 'yes' }) : '',
    first ? '' : el('chord'),
    pitchElement(note, head),
    maybe('duration', time.duration),
    from ? el('tie', { type: 'stop' }) : '',
    to ? el('tie', { type: 'start' }) : '',
    el('voice', {}, time.voice),
    ...typeElements(time),
    noteheadElement(note, event),
    first && time.beam ? el('beam', { number: 1 }, time.beam) : '',
    notationsOf(written, time, from, to),
    begins && event.mute === 'palm' ? el('play', {}, [el('mute', {}, 'palm')]) : '',
  ]);
}

/** What is no note: a hole, a hit, a scrape. */
export function kindElement(event: RiffEvent, time: WrittenTime, begins: boolean): string {
  return el('note', {}, [
    el('unpitched', {}, [el('display-step', {}, 'B'), el('display-octave', {}, 4)]),
    maybe('duration', time.duration),
    begins ? '' : el('tie', { type: 'stop' }),
    time.sign.tied ? el('tie', { type: 'start' }) : '',
    el('voice', {}, time.voice),
    ...typeElements(time),
    el('notehead', {}, event.kind === 'hole' ? 'slash' : 'x'),
    el('notations', {}, [
      begins ? '' : el('tied', { type: 'stop' }),
      time.sign.tied ? el('tied', { type: 'start' }) : '',
      ...tupletElements(time),
      begins
        ? el(
            'technical',
            {},
            wordsOfEvent(event).map((words) => el('other-technical', {}, words)),
          )
        : '',
    ]),
  ]);
}

function pitchElement(note: Note, head: Head | null): string {
  if (!head) return el('unpitched');
  const alter = head.alteration + note.pitch.cents / 100;
  return el('pitch', {}, [
    el('step', {}, head.letter),
    alter === 0 ? '' : el('alter', {}, Math.round(alter * 100) / 100),
    el('octave', {}, head.octave),
  ]);
}

function typeElements({ sign, tuplet }: WrittenTime): string[] {
  return [
    el('type', {}, TYPES[sign.base] ?? '64th'),
    ...Array.from({ length: sign.dots }, () => el('dot')),
    tuplet
      ? el('time-modification', {}, [el('actual-notes', {}, tuplet.notes), el('normal-notes', {}, tuplet.time)])
      : '',
  ];
}

const tupletElements = ({ tuplet }: WrittenTime): string[] => [
  tuplet?.stops ? el('tuplet', { type: 'stop', number: 1 }) : '',
  tuplet?.starts ? el('tuplet', { type: 'start', number: 1, bracket: 'yes' }) : '',
];

function tupletNotations(time: WrittenTime): string[] {
  const elements = tupletElements(time).filter(Boolean);
  return elements.length > 0 ? [el('notations', {}, elements)] : [];
}

function noteheadElement({ technique }: Note, event: RiffEvent): string {
  const ghost = event.accent === 'ghost';
  if (technique?.dead) return el('notehead', ghost ? { parentheses: 'yes' } : {}, 'x');
  if (technique?.harmonic || technique?.pinched !== undefined)
    return el('notehead', ghost ? { parentheses: 'yes' } : {}, 'diamond');
  return ghost ? el('notehead', { parentheses: 'yes' }, 'normal') : '';
}

function notationsOf(
  { note, event, joined, first, begins, ends }: WrittenNote,
  time: WrittenTime,
  from: boolean,
  to: boolean,
): string {
  const technique = note.technique ?? {};
  const own = begins ? event : null;
  const technical = begins ? technicalOf(note, event, joined, first) : ends ? joinSigns(joined) : [];
  const ornaments = begins ? ornamentsOf(technique, first ? event : null) : [];
  const articulations = begins ? articulationsOf(technique, first ? event : null) : [];
  const contents = [
    from ? el('tied', { type: 'stop' }) : '',
    to ? el('tied', { type: 'start' }) : '',
    ...(first ? tupletElements(time) : []),
    ...(begins ? slideSigns(joined.into, 'stop') : []),
    ...(ends ? slideSigns(joined.on, 'start') : []),
    ornaments.length > 0 ? el('ornaments', {}, ornaments) : '',
    technical.length > 0 ? el('technical', {}, technical) : '',
    articulations.length > 0 ? el('articulations', {}, articulations) : '',
    own?.roll ? el('arpeggiate', { direction: own.roll === 'thick-first' ? 'up' : 'down' }) : '',
  ].filter(Boolean);
  return contents.length > 0 ? el('notations', {}, contents) : '';
}

const slideSigns = (join: Join | null, type: 'start' | 'stop'): string[] =>
  join === 'slide' || join === 'shift'
    ? [el('slide', { type, number: 1, 'line-type': 'solid' })]
    : join === null
      ? []
      : [el('slur', { type, number: 1 })];

const fingerName = (finger: Finger): string => (finger === 5 ? 'T' : String(finger));

function technicalOf(note: Note, event: RiffEvent, joined: Joined, first: boolean): string[] {
  const { place } = note;
  const technique = note.technique ?? {};
  const stroke = first && event.stroke ? STROKE_SIGNS[event.stroke as keyof typeof STROKE_SIGNS] : undefined;
  const shape = technique.bend === undefined ? null : bendShapeOf(technique);
  return [
    stroke && event.stroke && ['down', 'up'].includes(event.stroke) ? el(stroke) : '',
    stroke && event.stroke && !['down', 'up'].includes(event.stroke) ? el('pluck', {}, stroke) : '',
    technique.harmonic ? el('harmonic', {}, [el('natural')]) : '',
    technique.pinched === undefined ? '' : el('harmonic', {}, [el('artificial')]),
    place?.finger ? el('fingering', {}, fingerName(place.finger)) : '',
    place?.otherFinger ? el('fingering', { alternate: 'yes' }, fingerName(place.otherFinger)) : '',
    maybe('fret', place?.fret),
    maybe('string', place?.string),
    joined.into === 'hammer' ? el('hammer-on', { type: 'stop', number: 1 }) : '',
    joined.into === 'pull' ? el('pull-off', { type: 'stop', number: 1 }) : '',
    ...joinSigns(joined),
    ...bendElements(technique, shape),
    technique.tapped ? el('tap') : '',
    ...[...wordsOfNote(technique, shape !== null && shape !== 'up'), ...(first ? wordsOfEvent(event) : [])].map(
      (words) => el('other-technical', {}, words),
    ),
  ].filter(Boolean);
}

/** How a note leads on: at the last of its tied signs. */
const joinSigns = ({ on }: Joined): string[] =>
  [
    on === 'hammer' ? el('hammer-on', { type: 'start', number: 1 }, 'H') : '',
    on === 'pull' ? el('pull-off', { type: 'start', number: 1 }, 'P') : '',
    on === 'shift' ? el('other-technical', {}, STRUCK_AGAIN) : '',
  ].filter(Boolean);

function bendElements(technique: Technique, shape: ReturnType<typeof bendShapeOf> | null): string[] {
  if (technique.bend === undefined) return [];
  const alter = technique.bend / 100;
  const up = el('bend', {}, [el('bend-alter', {}, alter)]);
  const before = el('bend', {}, [el('bend-alter', {}, alter), el('pre-bend')]);
  const release = el('bend', {}, [el('bend-alter', {}, -alter), el('release')]);
  if (shape === 'released') return [up, release];
  if (shape === 'again') return [up, release, up];
  if (shape === 'prebend') return [before];
  return shape === 'prebend-released' ? [before, release] : [up];
}

function ornamentsOf(technique: Technique, event: RiffEvent | null): string[] {
  const marks = event?.tremolo ? (TREMOLO_MARKS[event.tremolo] ?? 3) : null;
  return [
    technique.trill === undefined ? '' : el('trill-mark', { 'trill-step': technique.trill === 1 ? 'half' : 'whole' }),
    ...(technique.vibrato === undefined
      ? []
      : [el('wavy-line', { type: 'start', number: 1 }), el('wavy-line', { type: 'stop', number: 1 })]),
    marks === null ? '' : el('tremolo', { type: 'single' }, marks),
  ].filter(Boolean);
}

function articulationsOf(technique: Technique, event: RiffEvent | null): string[] {
  return [
    event?.accent === 'accent' ? el('accent') : '',
    event?.accent === 'heavy' ? el('strong-accent') : '',
    event?.gate === undefined ? '' : el(event.gate === 50 ? 'staccato' : 'staccatissimo'),
    technique.slideIn === 'lower' ? el('scoop') : technique.slideIn === 'higher' ? el('plop') : '',
    technique.slideOut === 'higher' ? el('doit') : technique.slideOut === 'lower' ? el('falloff') : '',
  ].filter(Boolean);
}
